import { fuseClass, FUSE_CLASSES } from '../catalog/fuses'
import { setDevice } from '../edit/ends'
import { leadById } from '../plan/find'
import { deviceKey, type Device } from '../graph/device'
import type { Proposal } from '../fixes/proposal'
import { amps, volts } from '../units/show'
import type { Check, Found } from './check'
import type { Study } from '../study/study'

/** Fuses against what they have to break. */

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
