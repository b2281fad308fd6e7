import { conditionsOf } from '../../core/circuit/conditions'
import { solveMatrix } from '../../core/circuit/matrix'
import { contactOhmNow } from '../../core/connector/mate'
import { randomFrom, type Random } from '../../core/chance/random'
import type { Reading } from '../../core/readings/reading'
import type { Lead, Plan } from '../../core/plan/schema'

/** Readings of a station that is not quite as planned, as a meter would give them: by the circuit of another plan. */

export interface MadeUp {
  readings: Reading[]
  /** The joint that is bad, `l2.to`; null where none is. */
  bad: string | null
  /** One more reading by the same meter on the same day: of a terminal, or of a lead's own side of a mating. */
  read: (at: string, condition: string) => Reading
}

const CONDITIONS = (plan: Plan) => {
  const all = conditionsOf(plan)
  const source = all.some(c => c.source === 'full') ? 'full' : all[0]!.source
  return all.filter(c => c.source === source)
}

/** Leads' lengths, contacts, charge and draw are a little other than planned, as they are. */
function asBuilt(plan: Plan, random: Random): Plan {
  const about = (spread: number) => Math.exp(spread * random.normal())
  const contact = (end: NonNullable<Lead['ends']>['from']) =>
    end && { ...end, contactOhm: contactOhmNow(end) * about(0.15) }
  const ambientC = plan.site?.ambientC
  const site = ambientC && { ...plan.site, ambientC: { ...ambientC, typical: ambientC.typical + 6 * random.normal() } }
  return {
    ...plan,
    ...(site && { site }),
    leads: plan.leads.map(l => ({
      ...l,
      lengthM: l.lengthM * about(0.01),
      ...(l.ends && {
        ends: { ...(l.ends.from && { from: contact(l.ends.from)! }), ...(l.ends.to && { to: contact(l.ends.to)! }) },
      }),
    })),
    parts: plan.parts.map(p => {
      if (!('draw' in p) || p.draw.model !== 'constant-current') return p
      const more = about(0.02)
      const draw = { ...p.draw, activeA: p.draw.activeA! * more, idleA: p.draw.idleA! * about(0.05) }
      const levels = 'levels' in p && p.levels?.map(l => ({ ...l, activeA: l.activeA * more }))
      return { ...p, draw, ...(levels && { levels }) }
    }) as Plan['parts'],
  }
}

/** Joints that carry a current worth measuring: their drop as planned, times what it grows by. */
export function testableJoints(plan: Plan, leastV: number): { place: string; lead: string; end: 'from' | 'to' }[] {
  const { network, points } = solveMatrix(plan, CONDITIONS(plan))
  return plan.leads.flatMap(lead =>
    (['from', 'to'] as const).flatMap(end => {
      const branch = network.branchOfLead.get(lead.id)
      const fitted = lead.ends?.[end]
      if (branch === undefined || !fitted) return []
      const amps = Math.max(...points.map(p => (p.status === 'ok' ? Math.abs(p.amps[branch]!) : 0)))
      return 2 * contactOhmNow(fitted) * 2 * amps >= leastV ? [{ place: `${lead.id}.${end}`, lead: lead.id, end }] : []
    }),
  )
}

/** @param times how much more a bad joint has than a new one; 0: none is bad */
export function madeUpReadings(
  plan: Plan,
  { seed, times, leastV = 0.03 }: { seed: number; times: number; leastV?: number },
): MadeUp {
  const random = randomFrom(7919 * seed)
  for (let n = 0; n < 5; n++) random.uniform()
  const joints = testableJoints(plan, leastV)
  const bad = times ? joints[Math.floor(random.uniform() * joints.length)]! : null
  let built = asBuilt(plan, random)
  if (bad)
    built = {
      ...built,
      leads: built.leads.map(l => {
        if (l.id !== bad.lead) return l
        const end = plan.leads.find(x => x.id === l.id)!.ends![bad.end]!
        return { ...l, ends: { ...l.ends, [bad.end]: { ...end, contactOhm: contactOhmNow(end) * times } } }
      }),
    }
  const conditions = CONDITIONS(plan)
  const { network, points } = solveMatrix(built, conditions)
  const landed = [...new Set(built.leads.flatMap(l => [l.from, l.to]))].filter(t => network.nodeOf.has(t))
  const scale = 1 + 0.003 * random.normal()
  const charge = 0.04 * random.normal()
  const shown = (at: string, condition: string, volts: number): Reading => {
    const shows = (volts + charge) * scale + 0.004 * random.normal()
    return { at, condition, volts: Math.round(100 * shows) / 100, digit: 0.01, line: 0 }
  }
  const readings = conditions.flatMap((c, i): Reading[] => {
    const point = points[i]!
    if (point.status !== 'ok') return []
    const amps = built.leads.flatMap((l): Reading[] => {
      const branch = network.branchOfLead.get(l.id)
      if (branch === undefined) return []
      const shown = Math.abs(point.amps[branch]!) * (1 + 0.005 * random.normal()) + 0.01 * random.normal()
      return [{ at: l.id, condition: c.id, amps: Math.max(0, Math.round(100 * shown) / 100), digit: 0.01, line: 0 }]
    })
    const volts = landed.flatMap((at): Reading[] => {
      const volts = point.volts[network.nodeOf.get(at)!]!
      return volts < 1 ? [] : [shown(at, c.id, volts)]
    })
    return [...volts, ...amps]
  })
  const read = (at: string, condition: string) => {
    const point = points[conditions.findIndex(c => c.id === condition)]!
    if (point.status !== 'ok') throw new Error(`nothing is carried at ${condition}`)
    const node = network.nodeOf.get(at)
    if (node !== undefined) return shown(at, condition, point.volts[node]!)
    const [leadId, end] = at.split(/\.(?=from$|to$)/) as [string, 'from' | 'to']
    const lead = built.leads.find(l => l.id === leadId)!
    const drop = point.amps[network.branchOfLead.get(leadId)!]! * 2 * contactOhmNow(lead.ends![end]!)
    const terminal = point.volts[network.nodeOf.get(lead[end])!]!
    return shown(at, condition, end === 'from' ? terminal - drop : terminal + drop)
  }
  return { readings, bad: bad?.place ?? null, read }
}
