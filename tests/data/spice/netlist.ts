/**
 * A plan's network written out for a general-purpose circuit simulator, from the format's own description and
 * independent of core/:
 * every number is worked out here again, the warming of conductors and the constant-power loads as behavioural sources.
 */
interface Raw {
  [key: string]: any
}

const CONTACT_MILLIOHM: Record<string, number> = {
  'stack-15': 0.6,
  'stack-30': 0.6,
  'stack-45': 0.6,
  'heavy-50': 0.4,
  'ring-m6': 0.15,
  'ring-m8': 0.15,
  'inlet-4': 1.5,
  'lead-t2': 1.5,
  'barrel-5525': 4,
  screw: 0.5,
  fork: 0.5,
  'accessory-12v': 8,
}
const OPEN_AWG: Record<number, number> = { 18: 20, 16: 25, 14: 35, 12: 45, 10: 60, 8: 80, 6: 120, 4: 160 }
const ENCLOSED_AWG: Record<number, number> = { 18: 10, 16: 13, 14: 20, 12: 25, 10: 35, 8: 50, 6: 65, 4: 85 }
const OPEN_MM2: Record<number, number> = { 0.75: 16, 1: 20, 1.5: 25, 2.5: 35, 4: 45, 6: 60, 10: 90, 16: 130 }
const CLASS5: Record<number, number> = { 0.75: 26, 1: 19.5, 1.5: 13.3, 2.5: 7.98, 4: 4.95, 6: 3.3, 10: 1.91, 16: 1.21 }
const LIFEPO4 = { full: 13.6, nominal: 13.16, low: 12.92, charging: 14.4 }
const AGM = { full: 12.85, nominal: 12.3, low: 12.3, charging: 14.55 }

const node = (terminal: string) => `n_${terminal.replaceAll('.', '_').replaceAll('-', '_')}`

export function spiceNetlist(plan: Raw, condition: string): { text: string; terminals: string[] } {
  const [source, loadState] = condition.split('/') as ['full' | 'low' | 'nominal' | 'charging', string]
  const ambient = plan.site.ambientC.typical
  const school = plan.site.ampacity
  const lines = [`* ${plan.name} ${condition}`, '.model silicon D(IS=7.03e-9 N=1.81)']
  const terminals = new Set<string>()
  const t = (name: string) => (terminals.add(name), node(name))
  let n = 0
  const resistor = (a: string, b: string, ohm: number) => lines.push(`R${++n} ${a} ${b} ${Math.max(ohm, 1e-7)}`)
  const active = (id: string) => loadState === 'all' || loadState === `only:${id}`

  for (const part of plan.parts) {
    if (part.kind === 'battery') {
      const emf = { lifepo4: LIFEPO4, agm: AGM }[part.chemistry as 'lifepo4' | 'agm'][source]
      lines.push(`V${++n} e_${part.id} 0 ${emf}`)
      resistor(`e_${part.id}`, t(part.id), source === 'charging' ? 0 : part.internalOhm)
    }
    if (part.kind === 'supply') {
      lines.push(`V${++n} e_${part.id} 0 ${part.setV}`)
      resistor(`e_${part.id}`, t(part.id), part.outputOhm ?? 0)
    }
    if (part.kind === 'block') {
      for (const port of part.ports)
        resistor(t(`${part.id}.feed`), t(`${part.id}.${port.id}`), port.fuse ? 0.075 / port.fuse.ratedA : 0)
    }
    if (part.kind === 'joint') {
      const ways = new Set<string>(
        plan.leads.flatMap((l: Raw) => [l.from, l.to]).filter((x: string) => x.startsWith(`${part.id}.`)),
      )
      for (const way of ways) resistor(`hub_${part.id}`, t(way), part.contactOhm ?? 0)
    }
    if (part.kind === 'radio' || part.kind === 'load') {
      const state = active(part.id) ? 'active' : 'idle'
      const at = t(part.id)
      if (part.draw.model === 'constant-current') lines.push(`I${++n} ${at} 0 ${part.draw[`${state}A`]}`)
      // Below 8 V a plain current, so that the simulator cannot land on the lower root.
      if (part.draw.model === 'constant-power')
        lines.push(`B${++n} ${at} 0 I=${part.draw[`${state}W`]}/max(V(${at}),8)`)
      if (part.draw.model === 'resistive' && part.draw[`${state}Ohm`]) resistor(at, '0', part.draw[`${state}Ohm`])
    }
  }
  for (const lead of plan.leads) {
    if ((lead.inline ?? []).some((i: Raw) => i.closed === false)) continue
    const { awg, mm2 } = lead.conductor
    const area = awg === undefined ? mm2 : (Math.PI / 4) * (0.127 * 92 ** ((36 - awg) / 39)) ** 2
    const ohmPerM = awg === undefined ? CLASS5[mm2]! / 1000 : 0.017241 / area
    const tableA = (awg === undefined ? OPEN_MM2[mm2] : (school === 'open' ? OPEN_AWG : ENCLOSED_AWG)[awg])!
    const rise = school === 'open' ? 75 : 45
    const wire = 2 * lead.lengthM * ohmPerM
    let fixed = 0
    for (const end of ['from', 'to']) fixed += (2 * CONTACT_MILLIOHM[lead.ends[end].connector]!) / 1000
    let diodes = 0
    for (const item of lead.inline ?? []) {
      if (item.kind === 'fuse' || item.kind === 'breaker')
        fixed += (0.075 / item.ratedA) * (item.legs === 'both' ? 2 : 1)
      if (item.kind === 'dropper') diodes += item.count ?? 1
    }
    fixed += diodes * 0.034
    const cold = fixed + wire * (1 + 0.00393 * (ambient - 20))
    const warming = (wire * 0.00393 * rise) / tableA ** 2
    const k = ++n
    let at = t(lead.from)
    for (let d = 0; d < diodes; d++) {
      lines.push(`D${k}_${d} ${at} d_${lead.id}_${d} silicon`)
      at = `d_${lead.id}_${d}`
    }
    lines.push(`VS${k} ${at} s_${lead.id} 0`)
    lines.push(`B${k} s_${lead.id} ${t(lead.to)} V=I(VS${k})*(${cold}+${warming}*I(VS${k})*I(VS${k}))`)
  }
  for (const name of terminals) lines.push(`.nodeset V(${node(name)})=13`)
  lines.push('.options reltol=1e-6 vntol=1e-7 abstol=1e-9 itl1=1000', '.control', 'op', 'set numdgt=12')
  for (const name of terminals) lines.push(`print V(${node(name)})`)
  lines.push('quit', '.endc', '.end')
  return { text: lines.join('\n') + '\n', terminals: [...terminals] }
}
