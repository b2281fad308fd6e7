import { fuseClass } from '../catalog/fuses'
import { thickenTo } from '../fixes/conductor'
import { setDevice } from '../edit/ends'
import { addItem } from '../edit/items'
import { fittingRatings } from '../fuse/fuse'
import { ampacityA } from '../conductor/ampacity'
import { conductorName } from '../conductor/resistance'
import { withstandI2t } from '../conductor/withstand'
import { leadById, leadName } from '../plan/find'
import { workingTemperatures } from '../circuit/working'
import type { Lead } from '../plan/schema'
import type { Device } from '../graph/device'
import type { Proposal } from '../fixes/proposal'
import type { ConductorInShort, Short } from '../short/study'
import { deviceWords } from '../short/words'
import type { Study } from '../study/study'
import { against, ampSquaredSeconds, amps, seconds } from '../units/show'
import { terminalName } from '../plan/names'
import type { Check, Found } from './check'
import { landingsOf } from './landings'
import { anA, capital } from '../units/words'
import { asGiven } from '../units/number'

/** After what opens has opened, more goes on than the conductor carries. */
function goesOn(study: Study, short: Short, victim: ConductorInShort): Found {
  const lead = leadById(study.plan, victim.lead)!
  const carriesA = study.ampacity(lead)
  return {
    severity: 'danger',
    place: victim.lead,
    also: [short.lead!],
    condition: null,
    title: `A short in ${leadName(lead)} goes on for good`,
    message:
      `With a short at ${terminalName(study.plan, short.at)} ${amps(victim.lastingA)} goes on through ` +
      `${leadName(lead)} when all that opens has opened; ${conductorName(lead.conductor)} carries ` +
      `${amps(carriesA)} where it lies.`,
    numbers: { lastingA: victim.lastingA, ampacityA: carriesA },
  }
}

/** Until the fuse has opened, more heats the conductor than its copper takes up. */
function doesNotSurvive(study: Study, short: Short, victim: ConductorInShort): Found {
  const lead = leadById(study.plan, victim.lead)!
  const name = conductorName(lead.conductor)
  const { opens, slowestS, words } = ending(short, victim, lead)
  return {
    severity: 'danger',
    place: victim.lead,
    also: [short.lead!],
    condition: null,
    title: `${name} does not survive a short`,
    message:
      `A short at ${terminalName(study.plan, short.at)} drives ${amps(victim.amps)} through ` +
      `${leadName(lead)}; ${words(deviceWords(study.plan, opens), seconds(slowestS))}` +
      `${against(ampSquaredSeconds, victim.i2t!, victim.withstandsI2t)}, and ${name} ` +
      `withstands ${ampSquaredSeconds(victim.withstandsI2t)}.`,
    numbers: { amps: victim.amps, slowestS, i2t: victim.i2t!, withstandsI2t: victim.withstandsI2t },
  }
}

/** What ends the current in a lead, and when. */
function ending({ opens }: Short, { endedBy }: ConductorInShort, lead: Lead) {
  const at = endedBy!
  const isOwn = [lead.id, lead.from, lead.to].includes(opens[at]!.place)
  const words = (device: string, time: string) =>
    at > 0 && !isOwn
      ? `of what feeds it the ${device} opens last, after up to ${time}: in all `
      : `the ${device} takes up to ${time} to open: `
  return { opens: opens[at]!, slowestS: opens.slice(0, at + 1).reduce((sum, o) => sum + o.slowestS!, 0), words }
}

interface Burnt {
  short: Short
  victim: ConductorInShort
}

/** Of each conductor that a short burns, the short that is worst for it. */
function worstOfEach(study: Study): Burnt[] {
  const worst = new Map<string, Burnt>()
  for (const short of study.shorts.shorts) {
    // Where nothing opens at all the missing fuse is the finding.
    if (short.kind !== 'lead-end' || short.survives || !short.opens.length) continue
    for (const victim of short.conductors) {
      if (victim.survives) continue
      const known = worst.get(victim.lead)
      if (!known || overload(study, victim) > overload(study, known.victim)) worst.set(victim.lead, { short, victim })
    }
  }
  return [...worst.values()]
}

/** How many times more than it carries or withstands, as a current. */
function overload(study: Study, { lead, i2t, withstandsI2t, lastingA }: ConductorInShort): number {
  if (i2t === null) return lastingA / study.ampacity(leadById(study.plan, lead)!)
  return Math.sqrt(i2t / withstandsI2t)
}

export const shortConductor: Check = {
  id: 'short-conductor',
  severities: ['danger'],
  looksAt: 'a dead short at the far end of every lead, the slowest opening of what protects it',
  title: 'Conductor does not survive a short',
  why:
    'Until the fuse opens, the whole short-circuit current heats the wire. Where I²t is more than its copper can ' +
    'take up, the insulation melts before the fuse opens.',
  source: 'IEC 60949, adiabatic: I²t < k²S²; opening times of the fuse classes',
  find: study =>
    worstOfEach(study).map(({ short, victim }) =>
      (victim.i2t === null ? goesOn : doesNotSurvive)(study, short, victim),
    ),
  fixes: (found, study) => {
    const lead = leadById(study.plan, found.place)!
    const { i2t, lastingA } = found.numbers
    // A thicker one is cooler: this is on the careful side.
    const workingC = workingTemperatures(study.solved).get(lead.id)!
    const stands = (c: Lead['conductor']) =>
      i2t === undefined
        ? ampacityA(c, study.site.ampacity, study.ambient(lead).high, lead.bundledConductors) >= lastingA!
        : withstandI2t(c, workingC) > i2t * 1.1
    const thicker = thickenTo(study.plan, lead, stands)
    const end = study.unprotected.find(r => r.lead.id === lead.id)
    const smaller = end ? null : fittingRatings('blade', study.leadAmps(lead).value, study.largestFuse(lead))[0]
    return [
      thicker,
      smaller !== null && smaller !== undefined && !lead.inline?.some(i => i.kind === 'fuse')
        ? {
            label: capital(anA(`${asGiven(smaller)} A blade fuse in ${leadName(lead)}`)),
            patch: addItem(study.plan, lead.id, {
              kind: 'fuse',
              type: 'blade',
              ratedA: smaller,
              legs: 'positive',
            }),
          }
        : null,
    ].filter(p => p !== null)
  },
}

export const fuseSelectivity: Check = {
  id: 'fuse-selectivity',
  severities: ['caution'],
  looksAt: 'a dead short at the far end of every lead',
  title: 'Upstream fuse may open first',
  why:
    "A short in one load's lead should take out that load. Where the fuse nearer the source can be as fast as the " +
    'one nearer the fault, the whole station goes dark.',
  source: "opening times of the fuse classes: the downstream one's slowest under the upstream one's fastest",
  find: study =>
    study.shorts.shorts.flatMap((short): Found[] => {
      const upstream = short.opensWith[0]
      if (short.kind !== 'lead-end' || !upstream || !short.opens.length || short.selective !== false) return []
      return [
        {
          severity: 'caution',
          place: short.lead!,
          also: [upstream.place],
          condition: null,
          title:
            `A short in ${study.name(leadById(study.plan, short.lead!)!)} may open the ` +
            `${deviceWords(study.plan, upstream)}`,
          message:
            `A short at ${terminalName(study.plan, short.at)} draws ${amps(short.prospectiveA)}; the ` +
            `${deviceWords(study.plan, upstream)} may open before or with the one next to the fault, ` +
            'and takes everything behind it along.',
          numbers: { prospectiveA: short.prospectiveA, upstreamA: upstream.ratedA },
        },
      ]
    }),
  fixes: (found, study) => {
    const device = study.protection.devices.find(
      d => d.place === found.also![0] && d.ratedA === found.numbers.upstreamA,
    )
    if (!device) return []
    const lead = device.item === null ? undefined : leadById(study.plan, device.place)
    if (device.kind === 'breaker') return []
    const mostA = lead ? Math.min(study.largestFuse(lead), leastContactA(study, lead)) : device.ratedA
    return ['strip', 'strip-high'].flatMap(type => {
      const ratings = fuseClass(type).ratingsA.filter(a => a >= device.ratedA && a <= mostA)
      const isOther = (ratedA: number) => type !== device.type || ratedA !== device.ratedA
      const tried = [...new Set([ratings[0], ratings.at(-1)])].filter(a => a !== undefined && isOther(a))
      return tried.flatMap(ratedA => slowerFuse(study, device, type, ratedA!))
    })
  },
}

/** What the weakest contact of a lead's ends carries, A: no fuse before it is larger. */
function leastContactA(study: Study, { id }: Lead): number {
  const own = landingsOf(study).filter(l => l.lead.id === id)
  return Math.min(...own.flatMap(({ mating }) => (mating.mates ? (mating.ratedA ?? []) : [])))
}

/** A slower fuse of a class in a device's place. */
function slowerFuse(study: Study, device: Device, type: string, ratedA: number): Proposal[] {
  const classPatch = type === device.type ? [] : setDevice(study.plan, device, 'type', type)
  const ratingPatch = ratedA === device.ratedA ? [] : setDevice(study.plan, device, 'ratedA', ratedA)
  if (!classPatch || !ratingPatch) return []
  const label = `A slower ${fuseClass(type).label} fuse upstream, ${asGiven(ratedA)} A`
  return [{ label, patch: [...classPatch, ...ratingPatch] }]
}
