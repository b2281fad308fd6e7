import { CONTINUOUS_FACTOR, FUSE_DISTANCE_M, SHEATHED_FROM_BATTERY_M } from '../catalog/fuses'
import { conditionWords } from '../circuit/conditions'
import { largestFuseA } from '../conductor/ampacity'
import { conductorName } from '../conductor/resistance'
import { thickerSizes } from '../conductor/ladder'
import { swapConductor, thickenTo } from '../fixes/conductor'
import { setDevice } from '../edit/ends'
import { setItem } from '../edit/items'
import { addFuse, moveFuse, refuse, smallestCarrying } from '../fixes/fuse'
import { propose, type Proposal } from '../fixes/proposal'
import { isDevice } from '../graph/device'
import { kindOf } from '../kinds/index'
import { graphOf } from '../graph/graph'
import { leadName, partIdOf } from '../plan/find'
import type { Lead } from '../plan/schema'
import { heldToA, limitIsSure, prospectiveAtPost, sourceLimitA } from '../protection/prospective'
import { largestFuseOf, type Stretch, type Unprotected, type ZonedDevice } from '../protection/zones'
import { against, amps, metres } from '../units/show'
import { capital } from '../units/words'
import { isOf, type Check, type Found } from './check'
import type { Study } from '../study/study'
import { deviceWords } from '../short/words'
import { asGiven } from '../units/number'

/**
 * Distance a fuse may be from the post on this run, m: the sheathed school's only where every lead of the run is
 * sheathed.
 */
function allowedDistanceM(study: Study, run: Unprotected): number {
  const sheathed = study.site.fuseDistance === 'sheathed' && run.leads.every(l => l.sheathed)
  return sheathed ? inSheathM(run) : FUSE_DISTANCE_M.strict
}

/** The sheathed school's distance: farther from a battery post than from any other source. */
const inSheathM = (run: Unprotected) => (kindOf(run.source).stores ? SHEATHED_FROM_BATTERY_M : FUSE_DISTANCE_M.sheathed)

/** A source that cannot give more than the conductor carries needs no fuse to protect it. */
export const limitsItself = (run: Unprotected): boolean => (heldToA(run.source) ?? Infinity) <= run.weakestA

/** The end of a lead that a run comes in by. */
function sourceEnd(study: Study, run: Unprotected): 'from' | 'to' {
  return partIdOf(run.lead.from) === run.source.id ? 'from' : 'to'
}

/**
 * Runs from sources whose own limit is not sure, longer than is allowed. No fuse opens on what a panel gives: whether
 * its leads carry that is another check's.
 */
export const runsTooLong = (study: Study) =>
  study.unprotected.filter(
    run => !limitIsSure(run.source) && (run.reachesLoad || run.lengthM > allowedDistanceM(study, run) + 1e-9),
  )

/** A prospective short at the source's terminals, A; null where its resistance is not said, or it limits itself. */
function shortAtSource(source: Unprotected['source']): number | null {
  return sourceLimitA(source) === null ? prospectiveAtPost(source) : null
}

function shortWords(run: Unprotected): string {
  const prospective = shortAtSource(run.source)
  return prospective === null
    ? ''
    : ` A short there draws up to ${amps(prospective)} and nothing opens: the wire becomes the fuse.`
}

function severityOf(run: Unprotected): Found['severity'] {
  if (!limitsItself(run)) return 'danger'
  return run.reachesLoad ? 'caution' : 'note'
}

const limitWords = (study: Study, { source }: Unprotected) =>
  ` ${study.name(source)} gives no more than ${amps((sourceLimitA(source) ?? prospectiveAtPost(source))!)} ` +
  'into a short, which the conductor carries; a fuse holds when that limit fails.'

/** A fuse that sits in the negative leg alone. */
const inNegative = (lead: Lead) => lead.inline?.find(i => isDevice(i) && i.legs === 'negative')
const NEGATIVE_WORDS =
  ' The fuse in it sits in the negative: a positive that touches the chassis or another negative goes round it.'

export const fuseMissing: Check = {
  id: 'fuse-missing',
  severities: ['danger', 'caution', 'note'],
  looksAt:
    'all; from every source through every lead on it; a supply whose own limit the conductor carries is no danger',
  title: 'No fuse between a source and a conductor',
  why:
    'A battery gives hundreds of amps into a short. Without a fuse at its post the conductor glows, and its ' +
    "insulation and what lies beside it burn. A battery management system's trip is no fuse.",
  source: 'ABYC E-11 / ISO 13297: overcurrent protection at the source of power',
  find: study =>
    runsTooLong(study)
      .filter(run => !run.device)
      .map((run): Found => {
        const over = run.leads.length > 1 ? ` over ${run.leads.length} leads` : ''
        const upTo = run.reachesLoad ? ', up to a load' : ''
        return {
          severity: severityOf(run),
          place: run.lead.id,
          also: run.leads.slice(1).map(l => l.id),
          condition: null,
          title: `No fuse after ${study.name(run.source)}`,
          message:
            `${capital(leadName(run.lead))} leaves ${study.name(run.source)} with no fuse in ` +
            `${inNegative(run.lead) ? 'its positive' : 'it'}: ${metres(run.lengthM)} ` +
            `of conductor${over} is unprotected${upTo}.${inNegative(run.lead) ? NEGATIVE_WORDS : ''}` +
            `${limitsItself(run) ? limitWords(study, run) : shortWords(run)}`,
          numbers: { unprotectedM: run.lengthM, allowedM: allowedDistanceM(study, run), ...withShort(run) },
        }
      }),
  fixes: (found, study) => {
    const run = study.unprotected.find(r => r.lead.id === found.place && !r.device)
    if (!run) return []
    const negative = inNegative(run.lead)
    if (negative) {
      const also = propose(
        'A fuse in the positive as well',
        setItem(study.plan, run.lead.id, negative.id, { legs: 'both' }),
      )
      return [also]
    }
    const continuousA = study.leadAmps(run.lead).value
    const end = sourceEnd(study, run)
    const added = addFuse(study.plan, run.lead, end, {
      continuousA,
      conductorAmps: run.weakestA,
      source: run.source,
    })
    if (added) return [added]
    // The conductor is too thin for any fuse that carries the current: both together.
    const conductor = thickerSizes(run.lead.conductor).find(c => fuseFor(study, run, continuousA, c) !== null)
    if (!conductor) return []
    const thicker = swapConductor(study.plan, run.lead, conductor)
    const fuse = fuseFor(study, run, continuousA, conductor)!
    return [
      { label: `${fuse.label}, and ${thicker.label}`, patch: [...thicker.patch, ...fuse.patch], cost: thicker.cost },
    ]
  },
}

const fuseFor = (study: Study, run: Unprotected, continuousA: number, conductor: Lead['conductor']) =>
  addFuse(study.plan, run.lead, sourceEnd(study, run), {
    continuousA,
    conductorAmps: largestFuseOf(study.plan, run.lead, conductor),
    source: run.source,
  })

const withShort = (run: Unprotected): Record<string, number> => {
  const prospectiveA = shortAtSource(run.source)
  return prospectiveA === null ? {} : { prospectiveA }
}

/** What the other school of fuse distance would say of a length. */
function otherDistance(other: 'strict' | 'sheathed', run: Unprotected): string {
  if (other === 'strict') return `asks for ${metres(FUSE_DISTANCE_M.strict)}`
  const most = metres(inSheathM(run))
  return run.lengthM <= inSheathM(run)
    ? `would let it pass if the lead lies in a sheath (up to ${most})`
    : `would refuse it too (up to ${most} in a sheath)`
}

export const fusePlace: Check = {
  id: 'fuse-place',
  severities: ['danger'],
  looksAt: 'all; the length before the first fuse after every source',
  title: 'Fuse too far from the source',
  why: 'What lies before the fuse is unprotected: a short in it meets no fuse. The fuse belongs where the wire begins.',
  source:
    'ABYC E-11: within 0.18 m (strict); in a sheath up to 1.83 m from a battery post, 1.02 m from others (sheathed)',
  find: study =>
    runsTooLong(study)
      .filter(run => run.device && !limitsItself(run))
      .map((run): Found => {
        const allowedM = allowedDistanceM(study, run)
        const other = study.site.fuseDistance === 'strict' ? 'sheathed' : 'strict'
        return {
          severity: 'danger',
          place: run.lead.id,
          condition: null,
          title: `Fuse too far from ${study.name(run.source)}`,
          message:
            `${against(metres, run.lengthM, allowedM)} of ${conductorName(run.lead.conductor)} before the ` +
            `${asGiven(run.device!.ratedA)} A ${run.device!.kind} is unprotected; ` +
            `${metres(allowedM)} is allowed.${shortWords(run)}`,
          numbers: { unprotectedM: run.lengthM, allowedM, ratedA: run.device!.ratedA, ...withShort(run) },
          otherSchool: `The ${other} school ${otherDistance(other, run)}.`,
        }
      }),
  fixes: (found, study) => {
    const run = study.unprotected.find(r => r.lead.id === found.place && r.device)
    if (!run?.device?.item) return []
    const end = sourceEnd(study, run)
    const another = addFuse(study.plan, run.lead, end, {
      continuousA: study.leadAmps(run.lead).value,
      conductorAmps: run.weakestA,
      source: run.source,
    })
    // One that serves a source at its other end as well stays where it is.
    const serves = study.unprotected.filter(r => r.device?.place === run.lead.id && r.device.item === run.device!.item)
    const beside = another && { ...another, label: `${another.label}, beside the one there is` }
    return [serves.length > 1 ? beside : moveFuse(study.plan, run.lead, run.device.item, end)].filter(p => p !== null)
  },
}

/** What holds the fuse of a stretch: what its conductor carries, or the rule for small ones. */
function heldBy(study: Study, { lead, protectedByA }: Stretch): string {
  const carries = `carries ${amps(study.ampacity(lead))} at ${study.ambient(lead).high} °C`
  return study.ampacity(lead) > protectedByA + 1e-9
    ? `which ${carries} and may have ${amps(protectedByA)} at most (small-conductor rule)`
    : `which ${carries}`
}

export const fuseOverConductor: Check = {
  id: 'fuse-over-conductor',
  severities: ['danger'],
  looksAt: 'all; every conductor against the fuses between it and each source',
  title: 'Fuse larger than the conductor after it carries',
  why:
    "A fuse protects the thinnest conductor after it. One rated above that conductor's ampacity lets it overheat " +
    'for ever without opening.',
  source: "ABYC E-11 / NFPA 70 240.4: overcurrent protection at the conductor's ampacity",
  find: study =>
    study.overfused.map(({ device, stretch, source }): Found => {
      const other = study.site.ampacity === 'open' ? ('enclosed' as const) : ('open' as const)
      const otherA = largestFuseA(
        stretch.lead.conductor,
        other,
        study.ambient(stretch.lead).high,
        stretch.lead.bundledConductors,
      )
      return {
        severity: 'danger',
        place: device.place,
        item: device.item,
        also: [stretch.lead.id],
        condition: null,
        title: `${asGiven(device.ratedA)} A ${device.kind} over ${conductorName(stretch.lead.conductor)}`,
        message:
          `The ${deviceWords(study.plan, device)} protects ${leadName(stretch.lead)} ` +
          `(${conductorName(stretch.lead.conductor)}), ${heldBy(study, stretch)}; ${study.name(source)} can give more.`,
        numbers: { ratedA: device.ratedA, ampacityA: stretch.protectedByA },
        otherSchool:
          `The ${other} school puts that conductor at ${amps(otherA)} and would ` +
          `${otherA >= device.ratedA ? 'let it pass' : 'refuse it too'}.`,
      }
    }),
  fixes: (found, study) => {
    const over = study.overfused.find(o => isOf(found, o.device))
    if (!over) return []
    const { device, stretch } = over
    const through = deviceAmps(study, device).value
    return [
      refuse(study.plan, device, { continuousA: through, conductorAmps: stretch.protectedByA }, 'largest'),
      thickenTo(study.plan, stretch.lead, c => largestFuseOf(study.plan, stretch.lead, c) >= device.ratedA),
    ].filter((p): p is Proposal => p !== null)
  },
}

/** Largest current through a fuse or breaker. */
function deviceAmps(study: Study, device: ZonedDevice) {
  const lead = device.item === null ? undefined : graphOf(study.plan).leads.get(device.place)
  return lead ? study.leadAmps(lead) : study.portAmps(device.place)
}

export const fuseNuisance: Check = {
  id: 'fuse-nuisance',
  severities: ['fail', 'caution'],
  looksAt: 'all; the largest current through each fuse and breaker',
  title: 'Fuse too small for its current',
  why:
    'A fuse run near its rating ages and opens in the middle of a transmission; it should be rated at least 1.25 ' +
    'times the continuous current through it.',
  source: 'ISO 8820-3 continuous current; NFPA 70 210.20 (125 % of continuous load)',
  find: study =>
    study.protection.devices.flatMap((device): Found[] => {
      const { value, condition } = deviceAmps(study, device)
      const neededA = CONTINUOUS_FACTOR * value
      if (device.ratedA >= neededA - 1e-6) return []
      const opens = value > device.ratedA
      return [
        {
          severity: opens ? 'fail' : 'caution',
          place: device.place,
          item: device.item,
          condition,
          title: opens
            ? `${asGiven(device.ratedA)} A ${device.kind} opens at ${amps(value)}`
            : `${asGiven(device.ratedA)} A ${device.kind} runs close to its rating`,
          message:
            `${amps(value)} flows through the ${deviceWords(study.plan, device)} with ` +
            `${conditionWords(study.plan, condition)}; ${opens ? 'it opens' : 'it ages and may open'}. It wants ` +
            `at least ${against(amps, neededA, device.ratedA)} (1.25 ×).`,
          numbers: { amps: value, ratedA: device.ratedA, neededA },
        },
      ]
    }),
  fixes: (found, study) => {
    const device = study.protection.devices.find(d => isOf(found, d))
    if (!device) return []
    const through = deviceAmps(study, device).value
    const after = conductorAfter(study, device)
    const limitA = after ? study.largestFuse(after) : Infinity
    const larger = refuse(study.plan, device, { continuousA: through, conductorAmps: limitA }, 'smallest')
    if (larger) return [larger]
    const ratedA = smallestCarrying(device.type, through)
    if (!after || ratedA === null) return []
    const thicker = thickenTo(study.plan, after, c => largestFuseOf(study.plan, after, c) >= ratedA)
    const rating = setDevice(study.plan, device, 'ratedA', ratedA)
    if (!thicker || !rating) return []
    const label = `${asGiven(ratedA)} A ${device.kind}, with ${thicker.label}`
    return [{ label, patch: [...thicker.patch, ...rating], cost: thicker.cost }]
  },
}

/** The thinnest conductor next to a device: what it must not outgrow. */
function conductorAfter(study: Study, device: ZonedDevice): Lead | null {
  const stretches = device.zones.flatMap(z => study.protection.stretchesIn[z]!).filter(s => s.lengthM > 0)
  const onItsSides = stretches.filter(
    s => s.lead.id === device.place || [s.lead.from, s.lead.to].includes(device.place),
  )
  const list = onItsSides.length ? onItsSides : stretches
  return (
    list.reduce<(typeof list)[number] | null>((a, b) => (!a || b.protectedByA < a.protectedByA ? b : a), null)?.lead ??
    null
  )
}
