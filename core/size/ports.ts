import { Study } from '../checks/study'
import { solveCorners } from '../circuit/matrix'
import type { Patch } from '../plan/edit'
import { partIdOf, pathOf } from '../plan/find'
import type { Plan } from '../plan/schema'

/** Puts leads whose port gives too little onto free ports that give enough: the largest current onto the largest port. */
export function placePorts(plan: Plan): { patch: Patch } {
  const study = new Study(solveCorners(plan))
  const patch: Patch = []
  for (const block of plan.parts) {
    if (block.kind !== 'block') continue
    const onPort = block.ports.flatMap((port, i) => {
      const lead = study.leadsAt(`${block.id}.${port.id}`)[0]
      return lead ? [{ port, i, lead, amps: study.leadAmps(lead).value }] : []
    })
    const taken = new Set(onPort.map(o => o.port.id))
    for (const o of onPort
      .filter(o => o.port.ratedA !== undefined && o.amps > o.port.ratedA)
      .sort((a, b) => b.amps - a.amps)) {
      const free = block.ports.find(
        p => !taken.has(p.id) && p.connector === o.port.connector && (p.ratedA ?? Infinity) >= o.amps,
      )
      if (!free) continue
      taken.add(free.id)
      taken.delete(o.port.id)
      patch.push({
        op: 'replace',
        path: `${pathOf(plan, o.lead.id)}/${partIdOf(o.lead.from) === block.id ? 'from' : 'to'}`,
        value: `${block.id}.${free.id}`,
      })
    }
  }
  return { patch }
}
