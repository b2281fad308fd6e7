import { CONTINUOUS_FACTOR, fuseClass, FUSE_CLASSES } from '../catalog/fuses'
import { thickenTo } from '../fixes/conductor'
import { setDevice } from '../edit/ends'
import { addItem, setItem } from '../edit/items'
import { setField as editField } from '../edit/set'
import { fittingRatings } from '../fuse/fuse'
import { neverOpensBelow } from '../fuse/opening'
import { conductorName } from '../conductor/resistance'
import { withstandI2t } from '../conductor/withstand'
import { asKind, partsOf } from '../kinds/index'
import { leadById, leadName, nameOf, partById, partIdOf } from '../plan/find'
import { schoolOf, type Lead } from '../plan/schema'
import { sourceLimitA } from '../protection/prospective'
import { deviceWords } from '../short/study'
import { deviceKey, hasDevice, type Device } from '../graph/device'
import type { Proposal } from '../fixes/proposal'
import { ampSquaredSeconds, amps, seconds, volts } from '../units/show'
import { capital } from '../units/words'
import type { Check, Found } from './check'
import type { Study } from '../study/study'

/** A fuse's class swapped for another, same or nearest higher rating. */
function otherClass(study: Study, device: Device, passes: (id: string) => boolean): Proposal[] {
  const next = FUSE_CLASSES.filter(c => c.id !== 'thermal' && c.id !== 'glass' && passes(c.id)).find(c =>
    c.ratingsA.includes(device.ratedA),
  )
  const patch = next && setDevice(study.plan, device, 'type', next.id)
  return patch ? [{ label: `${device.ratedA} A ${next.label} fuse in its place`, patch }] : []
}

/** Current of a dead short right behind a device, A: the most it may have to break. */
function behind(study: Study, device: Device): number {
  return study.behindA.get(deviceKey(device)) ?? 0
}

export const fuseInterrupting: Check = {
  id: 'fuse-interrupting',
  severities: ['danger'],
  looksAt: 'a dead short right behind each fuse and breaker',
  title: 'Short circuit beyond what a fuse can break',
  why:
    'Every fuse breaks up to a current; above it the arc inside does not go out, the fuse bursts, and the current ' +
    'flows on. A large lithium or lead-acid bank can drive several thousand amps.',
  source: 'interrupting ratings of the fuse classes',
  find: study =>
    study.protection.devices.flatMap((device): Found[] => {
      const { interruptA, label } = fuseClass(device.type)
      const prospectiveA = behind(study, device)
      if (prospectiveA <= interruptA) return []
      return [
        {
          severity: 'danger',
          place: device.place,
          condition: null,
          title: `${amps(prospectiveA)} may hit a ${label} ${device.kind}`,
          message:
            `A short behind the ${device.ratedA} A ${label} ${device.kind} at ${device.place} draws up to ` +
            `${amps(prospectiveA)}; its class breaks ${amps(interruptA)}.`,
          numbers: { prospectiveA, interruptA, ratedA: device.ratedA },
        },
      ]
    }),
  fixes: (found, study) => {
    const device = study.protection.devices.find(d => d.place === found.place && d.ratedA === found.numbers.ratedA)
    return device
      ? otherClass(
          study,
          device,
          id =>
            fuseClass(id).interruptA >= found.numbers.prospectiveA! && fuseClass(id).ratedV >= highestV(study, device),
        )
      : []
  },
}

/** Highest voltage that can stand over an open device, V. */
function highestV(study: Study, device: Device): number {
  const { network } = study.solved
  const component = network.component[network.nodeOf.get(leadById(study.plan, device.place)?.from ?? device.place)!]!
  return study.highestIn(component)
}

export const fuseVoltage: Check = {
  id: 'fuse-voltage',
  severities: ['danger'],
  looksAt: 'the highest voltage at each fuse: charging, panels open in the cold',
  title: 'Fuse used over its voltage',
  why: 'A fuse opens by drawing out an arc; over its rated voltage, on direct current, the arc does not go out.',
  source: 'rated voltages of the fuse classes',
  find: study =>
    study.protection.devices.flatMap((device): Found[] => {
      const { ratedV, label } = fuseClass(device.type)
      const reachesV = highestV(study, device)
      if (reachesV <= ratedV + 1e-9) return []
      return [
        {
          severity: 'danger',
          place: device.place,
          condition: null,
          title: `${volts(reachesV)} on a ${ratedV} V ${device.kind}`,
          message:
            `Up to ${volts(reachesV)} stands over the ${device.ratedA} A ${label} ${device.kind} at ` +
            `${device.place} when it opens; its class is made for ${ratedV} V.`,
          numbers: { reachesV, ratedV, ratedA: device.ratedA },
        },
      ]
    }),
  fixes: (found, study) => {
    const device = study.protection.devices.find(d => d.place === found.place && d.ratedA === found.numbers.ratedA)
    return device ? otherClass(study, device, id => fuseClass(id).ratedV >= found.numbers.reachesV!) : []
  },
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
    study.shorts.shorts
      .flatMap((short): Found[] => {
        // Where nothing opens at all the missing fuse is the finding.
        if (short.kind !== 'lead-end' || short.survives || !short.opens.length) return []
        const victim =
          short.conductors.find(c => c.lead === short.lead && !c.survives) ?? short.conductors.find(c => !c.survives)!
        if (victim.i2t === null) return []
        const lead = leadById(study.plan, victim.lead)!
        const first = short.opens[0]!
        return [
          {
            severity: 'danger',
            place: victim.lead,
            also: [short.lead!],
            condition: null,
            title: `${conductorName(lead.conductor)} does not survive a short`,
            message:
              `A short at ${short.at} drives ${amps(victim.amps)} through ${leadName(lead)}; the ` +
              `${deviceWords(study.plan, first)} takes up to ${seconds(first.slowestS!)} to open: ` +
              `${ampSquaredSeconds(victim.i2t)}, and ${conductorName(lead.conductor)} withstands ` +
              `${ampSquaredSeconds(victim.withstandsI2t)}.`,
            numbers: {
              amps: victim.amps,
              slowestS: first.slowestS!,
              i2t: victim.i2t,
              withstandsI2t: victim.withstandsI2t,
            },
          },
        ]
      })
      .filter((f, i, all) => all.findIndex(o => o.place === f.place) === i),
  fixes: (found, study) => {
    const lead = leadById(study.plan, found.place)!
    const thicker = thickenTo(study.plan, lead, c => withstandI2t(c) > found.numbers.i2t! * 1.1)
    const end = study.unprotected.find(r => r.lead.id === lead.id)
    const smaller = end ? null : fittingRatings('blade', study.leadAmps(lead).value, study.ampacity(lead))[0]
    return [
      thicker,
      smaller !== null && smaller !== undefined && !lead.inline?.some(i => i.kind === 'fuse')
        ? {
            label: `A ${smaller} A blade fuse in ${leadName(lead)}`,
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
            `A short in ${nameOf(leadById(study.plan, short.lead!)!)} may open the ` +
            `${deviceWords(study.plan, upstream)}`,
          message:
            `A short at ${short.at} draws ${amps(short.prospectiveA)}; the ${deviceWords(study.plan, upstream)} ` +
            'may open before or with the one next to the fault, and takes everything behind it along.',
          numbers: { prospectiveA: short.prospectiveA, upstreamA: upstream.ratedA },
        },
      ]
    }),
  fixes: (found, study) => {
    const device = study.protection.devices.find(
      d => d.place === found.also![0] && d.ratedA === found.numbers.upstreamA,
    )
    if (!device) return []
    const slower = ['strip', 'strip-high'].find(
      id => id !== device.type && fuseClass(id).ratingsA.includes(device.ratedA),
    )
    const patch = slower === undefined ? null : setDevice(study.plan, device, 'type', slower)
    return patch ? [{ label: `A slower ${fuseClass(slower!).label} fuse upstream, ${device.ratedA} A`, patch }] : []
  },
}

export const fuseLegs: Check = {
  id: 'fuse-legs',
  severities: ['caution'],
  looksAt:
    'leads from a vehicle or battery to a radio, where the plan fuses both legs or the current returns by a chassis',
  title: 'Only one leg fused where both are called for',
  why:
    "A radio bonded to a vehicle's body has two ways home. If the battery's ground strap fails, the starter's " +
    "current comes through the radio's negative lead, and a fuse in the positive never sees it.",
  source: 'practice of vehicle installs; site.schools.fuseLegs',
  find: study =>
    schoolOf(study.plan, 'fuseLegs') !== 'both'
      ? []
      : study.unprotected.flatMap((run): Found[] => {
          const item = run.lead.inline?.find(i => i.id === run.device?.item)
          if (
            sourceLimitA(run.source) !== null ||
            item?.kind !== 'fuse' ||
            item.legs === 'both' ||
            run.lead.return === 'chassis'
          )
            return []
          return [
            {
              severity: 'caution',
              place: run.lead.id,
              also: [item.id],
              condition: null,
              title: `${run.lead.name ?? run.lead.id} is fused in one leg`,
              message:
                `The ${item.ratedA} A fuse of ${leadName(run.lead)} is in the ${item.legs ?? 'positive'} leg ` +
                'only; the plan asks for both.',
              numbers: { ratedA: item.ratedA },
              otherSchool: 'The other school fuses the positive only: one fuse opens the loop.',
            },
          ]
        }),
  fixes: (found, study) => [
    {
      label: 'A second fuse in the negative',
      patch: setItem(study.plan, found.place, found.also![0]!, { legs: 'both' }),
    },
  ],
}

export const fuseEachConnection: Check = {
  id: 'fuse-each-connection',
  severities: ['note'],
  looksAt: 'every lead to a load, where the plan fuses at every change of wire',
  title: 'Change of wire without a fuse of its own',
  why: 'Where a thinner wire begins, a fuse that fits it lets a fault take out one load, not the station.',
  source: 'practice; site.schools.fusePlacing',
  find: study =>
    schoolOf(study.plan, 'fusePlacing') !== 'each-connection'
      ? []
      : study.plan.leads.flatMap((lead): Found[] => {
          const near = [lead.from, lead.to].map(t => study.solved.network.terminals.get(t))
          if (
            near.some(t => t?.opener) ||
            hasDevice(lead) ||
            !study.loads.some(l => partIdOf(lead.from) === l.id || partIdOf(lead.to) === l.id)
          )
            return []
          return [
            {
              severity: 'note',
              place: lead.id,
              condition: null,
              title: `${lead.name ?? lead.id} has no fuse of its own`,
              message:
                `${capital(leadName(lead))} (${conductorName(lead.conductor)}) ` +
                'begins without a fuse that fits it.',
              numbers: {},
              otherSchool: 'The other school counts one fuse that fits the thinnest wire as enough.',
            },
          ]
        }),
  fixes: (found, study) => ownFuse(study, leadById(study.plan, found.place)!),
}

/** A fuse at the source end of a lead that carries its current and protects it. */
function ownFuse(study: Study, lead: Lead): Proposal[] {
  const ratedA = fittingRatings('blade', study.leadAmps(lead).value, study.ampacity(lead))[0]
  const end = study.loads.some(l => partIdOf(lead.from) === l.id) ? ('to' as const) : ('from' as const)
  return ratedA === undefined
    ? []
    : [
        {
          label: `A ${ratedA} A blade fuse where ${leadName(lead)} begins`,
          patch: addItem(
            study.plan,
            lead.id,
            { kind: 'fuse', type: 'blade', ratedA, legs: 'positive' },
            { end, fromEndM: 0.1 },
          ),
        },
      ]
}

export const harnessUnfused: Check = {
  id: 'harness-unfused',
  severities: ['caution'],
  looksAt: 'the legs of every Y-harness',
  title: 'Y-harness without fuses in its legs',
  why:
    'A harness splits one fused lead into several. The fuse before it is sized for all of them together, so a ' +
    'fault in one radio meets a fuse far too large for it.',
  source: "practice; the radio's own fuse size in its manual",
  find: study =>
    partsOf(study.plan.parts, 'joint').flatMap((joint): Found[] => {
      if (joint.style !== 'harness') return []
      const legs = study
        .leadsOf(joint.id)
        .filter(l => study.loads.some(p => partIdOf(l.from) === p.id || partIdOf(l.to) === p.id))
      const bare = legs.filter(l => !hasDevice(l))
      if (legs.length < 2 || !bare.length) return []
      return [
        {
          severity: 'caution',
          place: joint.id,
          also: bare.map(l => l.id),
          condition: null,
          title: `${bare.length} leg${bare.length > 1 ? 's' : ''} of ${nameOf(joint)} without a fuse`,
          message:
            `${bare.map(l => l.name ?? l.id).join(' and ')} ${bare.length > 1 ? 'leave' : 'leaves'} ` +
            `${nameOf(joint)} with no fuse of ${bare.length > 1 ? 'their' : 'its'} own.`,
          numbers: { legs: bare.length },
        },
      ]
    }),
  fixes: (found, study) => {
    const fuses = found.also!.map(id => ownFuse(study, leadById(study.plan, id)!)[0])
    return fuses.every(f => f !== undefined) && fuses.length
      ? [{ label: fuses.length === 1 ? fuses[0]!.label : `A fuse in each leg`, patch: fuses.flatMap(f => f!.patch) }]
      : []
  },
}

export const bmsAsFuse: Check = {
  id: 'bms-as-fuse',
  severities: ['danger'],
  looksAt: 'batteries with a management system and no fuse on a lead',
  title: 'Management system counted on as the fuse',
  why:
    'A management system switches with transistors. They fail short, often at the first real short circuit; then ' +
    'nothing opens.',
  source: 'failure mode of power transistors; ABYC E-13',
  find: study =>
    study.unprotected
      .flatMap((run): Found[] => {
        const battery = asKind(run.source, 'battery')
        if (!battery?.bms || run.device || run.lengthM < 0.02 || !(run.reachesLoad || run.lengthM > 0.18)) return []
        return [
          {
            severity: 'danger',
            place: run.source.id,
            also: [run.lead.id],
            condition: null,
            title: `Only the BMS stands between ${nameOf(run.source)} and ${run.lead.name ?? run.lead.id}`,
            message:
              `${capital(leadName(run.lead))} leaves ${nameOf(run.source)} without a fuse` +
              (battery.bms.peakA
                ? `; the BMS likely trips at ${amps(battery.bms.peakA)}, and is not counted on.`
                : '.'),
            numbers: { ...(battery.bms.peakA !== undefined && { tripA: battery.bms.peakA }) },
          },
        ]
      })
      .filter((f, i, all) => all.findIndex(o => o.place === f.place) === i),
  fixes: (found, study) => {
    const lead = leadById(study.plan, found.also![0]!)!
    const end = partIdOf(lead.from) === found.place ? ('from' as const) : ('to' as const)
    for (const type of ['blade', 'strip']) {
      const ratedA = fittingRatings(type, study.leadAmps(lead).value, study.ampacity(lead))[0]
      if (ratedA !== undefined)
        return [
          {
            label: `${ratedA} A ${fuseClass(type).label} fuse at the post`,
            patch: addItem(study.plan, lead.id, { kind: 'fuse', type, ratedA, legs: 'positive' }, { end }),
          },
        ]
    }
    return []
  },
}

export const breakerOverBms: Check = {
  id: 'breaker-over-bms',
  severities: ['caution'],
  looksAt: 'fuses and breakers next to a battery against what its management system lets out',
  title: 'Fuse or breaker that the management system never lets open',
  why:
    'Rated above what the management system gives, a breaker never opens on an overload: the system cuts the ' +
    'whole battery off first, with no lever to show why.',
  source: "the battery's BMS limit; opening from 1.35 × the rating",
  find: study =>
    study.unprotected.flatMap((run): Found[] => {
      const trip = asKind(run.source, 'battery')?.bms?.peakA
      if (trip === undefined || !run.device || run.device.ratedA * neverOpensBelow(run.device.type) <= trip) return []
      return [
        {
          severity: 'caution',
          place: run.device.place,
          also: [run.source.id],
          condition: null,
          title: `${run.device.ratedA} A ${run.device.kind} above the BMS's ${amps(trip)}`,
          message:
            `The ${run.device.ratedA} A ${run.device.kind} opens from about ` +
            `${amps(run.device.ratedA * neverOpensBelow(run.device.type))}; the management system of ` +
            `${nameOf(run.source)} cuts off at ${amps(trip)}.`,
          numbers: { ratedA: run.device.ratedA, tripA: trip },
        },
      ]
    }),
  fixes: (found, study) => {
    const device = study.protection.devices.find(d => d.place === found.place && d.ratedA === found.numbers.ratedA)
    const lead = leadById(study.plan, found.place)
    if (!device || !lead) return []
    const carries = (a: number) => a >= CONTINUOUS_FACTOR * study.leadAmps(lead).value
    const opens = (a: number) => a * neverOpensBelow(device.type) <= found.numbers.tripA!
    const ratedA = fuseClass(device.type)
      .ratingsA.filter(a => opens(a) && carries(a))
      .at(-1)
    const patch = ratedA === undefined ? null : setDevice(study.plan, device, 'ratedA', ratedA)
    return patch ? [{ label: `${ratedA} A ${device.kind} in its place`, patch }] : []
  },
}

function deadWords(dead: readonly string[]): string {
  if (!dead.length) return 'every terminal is still live'
  return `only ${dead.join(', ')} ${dead.length > 1 ? 'are' : 'is'} dead`
}

const LIVE_LABEL = 'live on both sides when off'

export const stillLive: Check = {
  id: 'still-live',
  severities: ['note'],
  looksAt: 'every breaker, open',
  title: 'Live on both sides when it is off',
  why:
    'With a source on each side, opening a breaker takes the voltage from neither: work behind it is work on a ' +
    'live lead. A label says so to whoever comes next.',
  source: "the plan's topology",
  find: study =>
    study.shorts.isolation
      .filter(i => i.kind === 'breaker' && i.bothSidesLive && !noteOf(study, i).includes(LIVE_LABEL))
      .map((i): Found => ({
        severity: 'note',
        place: i.place,
        ...(i.item !== null && { also: [i.item] }),
        condition: null,
        title: `${i.words[0]!.toUpperCase()}${i.words.slice(1)} off leaves both sides live`,
        message: `With the ${i.words} open, ${deadWords(i.dead)}: there is a source on each side of it.`,
        numbers: { live: i.live.length, dead: i.dead.length },
      })),
  fixes: (found, study) => [
    {
      label: `Label it: ${LIVE_LABEL}`,
      patch: found.also
        ? setItem(study.plan, found.place, found.also[0]!, { note: LIVE_LABEL })
        : editField(study.plan, found.place, 'note', LIVE_LABEL),
    },
  ],
}

function noteOf(study: Study, { place, item }: { place: string; item: string | null }): string {
  return (
    (item === null
      ? partById(study.plan, place)?.note
      : leadById(study.plan, place)?.inline?.find(i => i.id === item)?.note) ?? ''
  )
}

export const zoneInsulation: Check = {
  id: 'insulation-heat',
  severities: ['caution'],
  looksAt: 'the hottest ambient where each lead lies',
  title: 'Insulation too cool for where the lead lies',
  why:
    'In an engine space or under a roof the air alone nearly reaches what cheap insulation stands; little is left ' +
    'for the current, and heat ages it.',
  source: 'ABYC E-11: 105 °C insulation in engine spaces',
  find: study =>
    study.plan.leads.flatMap((lead): Found[] => {
      const { insulationC } = lead.conductor
      const hotC = study.ambient(lead).high
      if (insulationC === undefined || insulationC - hotC >= 15) return []
      return [
        {
          severity: 'caution',
          place: lead.id,
          condition: null,
          title: `${insulationC} °C insulation at ${hotC} °C`,
          message: `${capital(leadName(lead))} has ${insulationC} °C insulation and lies where it gets ${hotC} °C.`,
          numbers: { insulationC, hotC },
        },
      ]
    }),
  fixes: (found, study) => [
    {
      label: 'A conductor with 105 °C insulation',
      patch: editField(study.plan, found.place, 'conductor.insulationC', 105),
    },
  ],
}
