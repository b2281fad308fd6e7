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
const LIFEPO4 = { full: 13.6, nominal: 13.16, low: 12.92, charging: 13.6, bulk: 12.92 }
const AGM = { full: 12.85, nominal: 12.3, low: 12.3, charging: 12.85, bulk: 12.3 }

const node = (terminal: string) => `n_${terminal.replaceAll('.', '_').replaceAll('-', '_')}`

export function spiceNetlist(plan: Raw, condition: string): { text: string; terminals: string[] } {
  const [source, loadState] = condition.split('/') as [keyof typeof LIFEPO4, string]
  const ambient = plan.site.ambientC.typical
  const school = plan.site.ampacity
  const lines = [`* ${plan.name} ${condition}`, '.model silicon D(IS=7.03e-9 N=1.81)']
  const terminals = new Set<string>()
  const t = (name: string) => (terminals.add(name), node(name))
  let n = 0
  const resistor = (a: string, b: string, ohm: number) => lines.push(`R${++n} ${a} ${b} ${Math.max(ohm, 1e-7)}`)
  const active = (id: string) => loadState === 'all' || loadState === `only:${id}`

  // An ideal source behind a resistance that gives no more and takes no more than so many amps.
  let hasLimits = false
  const limited = (at: string, emf: number, ohm: number, least: number, most: number) => {
    hasLimits = true
    lines.push(`B${++n} 0 ${at} I=max(${least},min(${most},(${emf}-V(${at}))/${Math.max(ohm, 1e-5)}))`)
  }
  const charges = source === 'charging' || source === 'bulk'
  const hasBattery = plan.parts.some((p: Raw) => p.kind === 'battery')

  for (const part of plan.parts) {
    if (part.kind === 'battery' && source === 'charging') {
      const emf = { lifepo4: LIFEPO4, agm: AGM }[part.chemistry as 'lifepo4' | 'agm'][source]
      limited(t(part.id), emf, part.internalOhm, -0.03 * part.capacityAh, 1e6)
    } else if (part.kind === 'battery') {
      const emf = { lifepo4: LIFEPO4, agm: AGM }[part.chemistry as 'lifepo4' | 'agm'][source]
      lines.push(`V${++n} e_${part.id} 0 ${emf}`)
      resistor(`e_${part.id}`, t(part.id), part.internalOhm)
    }
    // The mains is there while a battery is charged; without a battery it always is.
    if (part.kind === 'supply' && (charges || !hasBattery))
      limited(t(part.id), part.setV, part.outputOhm ?? 0, 0, part.peakA ?? part.continuousA)
    if (part.kind === 'charger' && charges) limited(t(part.id), part.chemistries[part.set].absorptionV, 0, 0, part.maxA)
    if (part.kind === 'controller') {
      const panel = plan.parts.find((p: Raw) => p.kind === 'panel')
      const at = t(`${part.id}.battery`)
      const { absorptionV } = part.chemistries[part.set]
      const amps = `min(${part.maxChargeA},${0.95 * panel.maxPowerV * panel.maxPowerA}/V(${at}))`
      if (charges) lines.push(`B${++n} 0 ${at} I=max(0,min(${amps},(${absorptionV}-V(${at}))/1e-5))`)
      lines.push(`I${++n} ${at} 0 ${part.selfA ?? 0}`)
      hasLimits = charges
      lines.push(`V${++n} ${t(panel.id)} 0 ${charges ? panel.maxPowerV : panel.openCircuitV}`)
      lines.push(`I${++n} ${t(`${part.id}.panel`)} 0 ${charges ? panel.maxPowerA : 0}`)
    }
    if (part.kind === 'vehicle') {
      const on = charges || source === ('engine-on' as never)
      if (on) limited(t(part.id), part.engineOnV, part.internalOhm, 0, part.alternatorSpareA)
      limited(t(part.id), part.engineOffV, part.internalOhm, on ? 0 : -1e6, 1e6)
    }
    if (part.kind === 'panel' && !plan.parts.some((p: Raw) => p.kind === 'controller')) {
      hasLimits = true
      const { shortCircuitA: isc, maxPowerV: vmp, maxPowerA: imp, openCircuitV: voc } = part
      const at = t(part.id)
      const near = `${isc}-V(${at})*${(isc - imp) / vmp}`
      const far = `(${voc}-V(${at}))*${imp / (voc - vmp)}`
      lines.push(`B${++n} 0 ${at} I=max(0,min(${isc},min(${near},${far})))`)
    }
    // Gives its volts up to its amps, and takes for that what it gives over its efficiency, and its idle watts.
    if (part.kind === 'converter') {
      const [into, out, inner] = [t(`${part.id}.in`), t(`${part.id}.out`), `inner_${part.id}`]
      const emf = part.charges ? part.charges.chemistries[part.charges.set].absorptionV : part.outV
      const works = part.charges ? charges : true
      if (works) limited(inner, emf, 0, 0, part.maxOutA)
      lines.push(`Vx${part.id} ${inner} ${out} 0`)
      const takes = `${part.idleW ?? 0}+V(${inner})*I(Vx${part.id})/${part.efficiency ?? 0.9}`
      if (works) lines.push(`B${++n} ${into} 0 I=(${takes})/max(V(${into}),6)`)
      else lines.push(`R${++n} ${inner} 0 1e9`)
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
    const ohmPerM = awg === undefined ? CLASS5[mm2]! / 1000 : (1.02 * 0.017241) / area
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
  // The kinks of a limit defeat the search for an operating point: there every node has a little charge, and the
  // simulator waits until it is at rest.
  if (hasLimits) {
    for (const name of terminals) {
      lines.push(`C_${node(name)} ${node(name)} 0 1e-3`, `.ic V(${node(name)})=13.5`)
      lines.push(`Rleak_${node(name)} ${node(name)} 0 1e6`)
    }
    const inner = new Set(lines.join('\n').match(/\b(s|d|e|hub)_\w+/g))
    for (const name of inner) lines.push(`.ic V(${name})=13.5`)
    lines.push(
      '.options reltol=1e-5 vntol=1e-6 abstol=1e-6 chgtol=1e-9 itl4=500 method=gear',
      '.control',
      'tran 20u 0.4 0 100u uic',
      'let ended = time[length(time)-1]',
      'echo ended = $&ended',
    )
    lines.push('set numdgt=12')
    for (const name of terminals)
      lines.push(`let last = V(${node(name)})[length(time)-1]`, `echo v(${node(name)}) = $&last`)
  } else {
    for (const name of terminals) lines.push(`.nodeset V(${node(name)})=13`)
    lines.push('.options reltol=1e-6 vntol=1e-7 abstol=1e-9 itl1=1000', '.control', 'op', 'set numdgt=12')
    for (const name of terminals) lines.push(`print V(${node(name)})`)
  }
  lines.push('quit', '.endc', '.end')
  return { text: lines.join('\n') + '\n', terminals: [...terminals] }
}
