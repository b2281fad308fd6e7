import { fuseClass } from '../catalog/fuses'
import { setDevice } from '../edit/ends'
import { addItem } from '../edit/items'
import { fittingRatings, ratingsCarrying } from '../fuse/fuse'
import { neverOpensBelow } from '../fuse/opening'
import { asKind } from '../kinds/index'
import { leadById, leadName, partIdOf } from '../plan/find'
import { amps } from '../units/show'
import { capital } from '../units/words'
import { isOf, type Check, type Found } from './check'
import { asGiven } from '../units/number'

/** What a battery management system does not do. */

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
            title: `Only the BMS stands between ${study.name(run.source)} and ${leadName(run.lead)}`,
            message:
              `${capital(leadName(run.lead))} leaves ${study.name(run.source)} without a fuse` +
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
      const ratedA = fittingRatings(type, study.leadAmps(lead).value, study.largestFuse(lead))[0]
      if (ratedA !== undefined)
        return [
          {
            label: `${asGiven(ratedA)} A ${fuseClass(type).label} fuse at the post`,
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
          item: run.device.item,
          also: [run.source.id],
          condition: null,
          title: `${asGiven(run.device.ratedA)} A ${run.device.kind} above the BMS's ${amps(trip)}`,
          message:
            `The ${asGiven(run.device.ratedA)} A ${run.device.kind} opens from about ` +
            `${amps(run.device.ratedA * neverOpensBelow(run.device.type))}; the management system of ` +
            `${study.name(run.source)} cuts off at ${amps(trip)}.`,
          numbers: { ratedA: run.device.ratedA, tripA: trip },
        },
      ]
    }),
  fixes: (found, study) => {
    const device = study.protection.devices.find(d => isOf(found, d))
    const lead = leadById(study.plan, found.place)
    if (!device || !lead) return []
    const opens = (a: number) => a * neverOpensBelow(device.type) <= found.numbers.tripA!
    const ratedA = ratingsCarrying(device.type, study.leadAmps(lead).value).findLast(opens)
    const patch = ratedA === undefined ? null : setDevice(study.plan, device, 'ratedA', ratedA)
    return patch ? [{ label: `${asGiven(ratedA!)} A ${device.kind} in its place`, patch }] : []
  },
}
