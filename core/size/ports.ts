import { landEnd } from '../edit/ends'
import type { Patch } from '../edit/patch'
import { graphOf } from '../graph/graph'
import { kindOf, type Part } from '../kinds/index'
import type { Terminal } from '../kinds/kind'
import { partIdOf } from '../plan/find'
import { terminalName } from '../plan/names'
import type { Study } from '../study/study'
import { amps } from '../units/show'

/**
 * Puts leads whose port gives too little onto free ports that give enough: the largest current onto the largest port.
 */
export const placePorts = (study: Study): Patch =>
  study.plan.parts.filter(p => kindOf(p).ports?.distributes).flatMap(p => placeOn(study, p))

/** Last bits of a solved current do not count. */
const TOLERANCE_A = 1e-6

const isOver = (amps: number, { ratedA }: Terminal) => ratedA !== undefined && amps > ratedA + TOLERANCE_A

/** Ports that give less than is taken from them, in words: no free one gives enough either, or it was taken. */
export function overloadedPorts(study: Study): string[] {
  const bars = study.plan.parts.filter(p => kindOf(p).ports?.distributes)
  return bars
    .flatMap(p => graphOf(study.plan).terminalsOf(p.id))
    .flatMap(port => {
      const flowing = Math.max(0, ...study.leadsAt(port.id).map(l => study.leadAmps(l).value))
      if (!isOver(flowing, port)) return []
      return [
        `${terminalName(study.plan, port.id)} gives ${amps(port.ratedA!)}, ${amps(flowing)} is taken, ` +
          'and no free one gives enough',
      ]
    })
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
    .filter(o => isOver(o.amps, o.port))
    .sort((a, b) => b.amps - a.amps)
  return tooSmall.flatMap(({ port, lead, amps }) => {
    const takes = (p: Terminal) => p.connector === port.connector && !isOver(amps, p)
    const free = ports.find(p => !taken.has(p.id) && takes(p))
    if (!free) return []
    taken.add(free.id)
    taken.delete(port.id)
    return landEnd(study.plan, lead, partIdOf(lead.from) === part.id ? 'from' : 'to', free.id)
  })
}
