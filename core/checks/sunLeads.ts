import { ampacityA } from '../conductor/ampacity'
import { thickerSizes } from '../conductor/ladder'
import { conductorName } from '../conductor/resistance'
import { setField } from '../edit/set'
import { swapConductor } from '../fixes/conductor'
import { addFuse } from '../fixes/fuse'
import { propose, type Proposal } from '../fixes/proposal'
import { hasDevice } from '../graph/device'
import { graphOf } from '../graph/graph'
import { ListMap, reach } from '../graph/walk'
import { asKind, gives, isLoad, kindOf, partsOf, type Part, type PartOf } from '../kinds/index'
import { SUN_FACTOR } from '../kinds/panel'
import { leadById, leadName, partById, partIdOf } from '../plan/find'
import type { Lead } from '../plan/schema'
import { against, amps } from '../units/show'
import { capital, someOf } from '../units/words'
import type { Check, Found } from './check'
import type { Study } from '../study/study'

/** The leads of panels, through joints and harnesses, and the fuses of their strings. */

type Panel = PartOf<'panel'>

/** Continuous sun on conductors and fuses: 1.25 for the sun and 1.25 for hours of it (NFPA 70, 690.8). */
const CONTINUOUS_SUN = SUN_FACTOR * 1.25

/** What stands on the wire of a terminal with one lead of it away. */
function partsWithout(study: Study, lead: Lead, terminal: string): Part[] {
  const graph = graphOf(study.plan)
  const near = new ListMap<string, string>()
  const join = (a: string, b: string) => {
    near.put(a, b)
    near.put(b, a)
  }
  for (const { a, b } of graph.links) join(a, b)
  for (const other of study.plan.leads) if (other !== lead) join(other.from, other.to)
  const reached = reach([terminal], t => near.at(t))
  return [...new Set([...reached].map(partIdOf))].flatMap(id => graph.parts.get(id) ?? [])
}

const isPanel = (part: Part): part is Panel => asKind(part, 'panel') !== null
const shortCircuitA = (panels: readonly Panel[]) => panels.reduce((sum, p) => sum + p.shortCircuitA, 0)

/** What the sun goes into, and not only through. */
const takesSun = (part: Part) =>
  !isPanel(part) && (isLoad(part) || gives(part) || !!kindOf(part).charge || !!kindOf(part).transfers)

/** Panels whose sun comes through a lead: those of the side away from what takes it, or all of a ring. */
function panelsThrough(study: Study, lead: Lead): Panel[] {
  const [from, to] = [partsWithout(study, lead, lead.from), partsWithout(study, lead, lead.to)]
  const [left, right] = [from.filter(isPanel), to.filter(isPanel)]
  if (from.some(p => to.includes(p))) return [...new Set([...left, ...right])]
  if (!right.length || (left.length && to.some(takesSun))) return left
  return right
}

/** Leads on the wires of panels, each with the panels whose sun comes through it. */
function sunLeads(study: Study): { lead: Lead; panels: Panel[] }[] {
  const wires = partsOf(study.plan.parts, 'panel').flatMap(p => study.around(p.id).map(a => a.terminal))
  const onWire = new Set(wires)
  return study.plan.leads
    .filter(lead => onWire.has(lead.from) || onWire.has(lead.to))
    .map(lead => ({ lead, panels: panelsThrough(study, lead) }))
    .filter(({ panels }) => panels.length > 0)
}

export const panelConductor: Check = {
  id: 'panel-conductor',
  severities: ['danger', 'fail'],
  looksAt: 'full sun for hours: 1.56 × the short-circuit current of the panels on each lead',
  title: 'Panel lead too thin for hours of full sun',
  why:
    'Sun with reflection gives a quarter more than the label, for hours: a panel lead is sized for 1.56 × Isc. No ' +
    'fuse opens on what a panel gives: a lead that does not carry it burns.',
  source: 'NFPA 70 690.8 (1.25 × 1.25)',
  find: study =>
    sunLeads(study).flatMap(({ lead, panels }): Found[] => {
      const shortA = shortCircuitA(panels)
      const sunA = CONTINUOUS_SUN * shortA
      const carriesA = study.ampacity(lead)
      if (sunA <= carriesA + 1e-9) return []
      return [
        {
          severity: carriesA < shortA ? 'danger' : 'fail',
          place: lead.id,
          also: panels.map(p => p.id),
          condition: null,
          title: `${capital(leadName(lead))} is thin for ${amps(shortA)} of sun`,
          message:
            `${capital(leadName(lead))} (${conductorName(lead.conductor)}) carries ` +
            `${against(amps, carriesA, sunA)} where it ` +
            `lies; for ${amps(shortA)} of short-circuit current it wants ${amps(sunA)} (1.56 ×).`,
          numbers: { sunA, ampacityA: carriesA },
        },
      ]
    }),
  fixes: (found, study) => {
    const lead = leadById(study.plan, found.place)!
    const enough = thickerSizes(lead.conductor).find(
      c => ampacityA(c, study.site.ampacity, study.ambient(lead).high, lead.bundledConductors) >= found.numbers.sunA!,
    )
    return enough ? [swapConductor(study.plan, lead, enough)] : []
  },
}

/** From so many in parallel each string has its own fuse. */
const STRINGS_WITH_FUSE = 3

/** A string of panels: the members of one part, or a part with its lead. */
interface PanelString {
  panel: Panel
  shortCircuitA: number
  isFused: boolean
}

function stringsOf(study: Study, panel: Panel): PanelString[] {
  const numbers = [...new Set((panel.members ?? []).map(m => m.string ?? 1))]
  const ownA = panel.shortCircuitA / Math.max(1, numbers.length)
  if (numbers.length < 2) return [{ panel, shortCircuitA: ownA, isFused: study.leadsOf(panel.id).every(hasDevice) }]
  const isFused = (n: number) => panel.members!.some(m => (m.string ?? 1) === n && m.fused === true)
  return numbers.map(n => ({ panel, shortCircuitA: ownA, isFused: isFused(n) }))
}

/** Panels of one wire, told once for all. */
function wiresOfPanels(study: Study): Panel[][] {
  const wires = partsOf(study.plan.parts, 'panel').map(panel => {
    const others = study.around(panel.id).map(a => a.part)
    return others.length ? others.filter(isPanel) : [panel]
  })
  return wires.filter((wire, i) => wires.findIndex(w => w.includes(wire[0]!)) === i)
}

export const panelStrings: Check = {
  id: 'panel-strings',
  severities: ['danger'],
  looksAt: 'panels of three parallel strings and more',
  title: 'Parallel panel strings without a fuse each',
  why:
    'From three strings on, a shorted one is fed by all the others, more than its wires and its cells stand. Each ' +
    'string has its own fuse, made for direct current at its voltage.',
  source: 'IEC 62548: string overcurrent protection from three parallel strings',
  find: study =>
    wiresOfPanels(study).flatMap((panels): Found[] => {
      const strings = panels.flatMap(p => stringsOf(study, p))
      const bare = strings.filter(s => !s.isFused)
      if (strings.length < STRINGS_WITH_FUSE || !bare.length) return []
      const [{ panel, shortCircuitA: ownA }] = bare as [PanelString]
      const othersA = SUN_FACTOR * (strings.reduce((sum, s) => sum + s.shortCircuitA, 0) - ownA)
      const names = someOf(panels.map(study.name))
      return [
        {
          severity: 'danger',
          place: panel.id,
          also: panels.filter(p => p !== panel).map(p => p.id),
          condition: null,
          title: `${bare.length} of ${strings.length} strings of ${names} without a fuse`,
          message:
            `${names} ${panels.length > 1 ? 'are' : 'is'} ${strings.length} strings in parallel; a shorted one is ` +
            `fed ${amps(othersA)} by the others, and has no fuse of its own.`,
          numbers: { strings: strings.length, bare: bare.length, othersA },
        },
      ]
    }),
  fixes: (found, study): Proposal[] => {
    const ids = [found.place, ...(found.also ?? [])]
    const panels = ids.flatMap(id => asKind(partById(study.plan, id)!, 'panel') ?? [])
    const each = panels.map(panel => fuseStrings(study, panel))
    if (!each.length || each.some(p => p === null)) return []
    return [{ label: 'A fuse in each string', patch: (each as Proposal[]).flatMap(p => p.patch) }]
  },
}

/** A fuse in each of a panel's strings that has none; null where none fits. */
function fuseStrings(study: Study, panel: Panel): Proposal | null {
  if (stringsOf(study, panel).length > 1) {
    const fused = panel.members!.map(m => ({ ...m, fused: true }))
    return propose('A fuse in each string', setField(study.plan, panel.id, 'members', fused))
  }
  const bare = study.leadsOf(panel.id).filter(lead => !hasDevice(lead))
  const added = bare.map(lead =>
    addFuse(study.plan, lead, partIdOf(lead.from) === panel.id ? 'from' : 'to', {
      continuousA: SUN_FACTOR * panel.shortCircuitA,
      conductorAmps: study.largestFuse(lead),
      source: panel,
    }),
  )
  if (added.some(p => p === null)) return null
  return { label: '', patch: (added as Proposal[]).flatMap(p => p.patch) }
}
