import { solveCorners } from '../circuit/matrix'
import { landEnd } from '../edit/ends'
import type { Patch } from '../edit/patch'
import { graphOf } from '../graph/graph'
import { kindOf, type Part } from '../kinds/index'
import type { Terminal } from '../kinds/kind'
import { partIdOf } from '../plan/find'
import type { Plan } from '../plan/schema'
import { Study } from '../study/study'

/**
 * Puts leads whose port gives too little onto free ports that give enough: the largest current onto the largest port.
 */
export function placePorts(plan: Plan): { patch: Patch } {
  const study = new Study(solveCorners(plan))
  return { patch: plan.parts.filter(p => kindOf(p).ports?.distributes).flatMap(p => placeOn(study, p)) }
}

function placeOn(study: Study, part: Part): Patch {
  const { reserved } = kindOf(part).ports!
  const isPort = (t: Terminal) => !reserved.includes(t.id.slice(part.id.length + 1))
  const ports = graphOf(study.plan).terminalsOf(part.id).filter(isPort)
  const taken = new Set(ports.filter(p => study.leadsAt(p.id).length).map(p => p.id))
  const tooSmall = ports
    .flatMap(port =>
      study
        .leadsAt(port.id)
        .slice(0, 1)
        .map(lead => ({ port, lead, amps: study.leadAmps(lead).value })),
    )
    .filter(o => o.port.ratedA !== undefined && o.amps > o.port.ratedA)
    .sort((a, b) => b.amps - a.amps)
  return tooSmall.flatMap(({ port, lead, amps }) => {
    const takes = (p: Terminal) => p.connector === port.connector && (p.ratedA ?? Infinity) >= amps
    const free = ports.find(p => !taken.has(p.id) && takes(p))
    if (!free) return []
    taken.add(free.id)
    taken.delete(port.id)
    return landEnd(study.plan, lead, partIdOf(lead.from) === part.id ? 'from' : 'to', free.id)
  })
}
