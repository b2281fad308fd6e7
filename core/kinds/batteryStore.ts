import { acceptedAmps, cellsOf, coldShare, countedAmps } from '../battery/cells'
import { chargeWhere } from '../battery/charge'
import { endOfUse, restedVolts } from '../battery/emf'
import { packClass } from '../battery/packs'
import { chemistry } from '../catalog/chemistries'
import type { Battery } from './battery'
import { assumedLimits, batteryLimit, judgedLimit } from './batteryLimits'
import { grown } from './sized'
import type { Store } from './store'

/** A pack with a heater waits for it. */
const coldOf = ({ lockOut, heaterW }: Battery) => ({
  lockOut: lockOut === true || heaterW !== undefined,
  ...(heaterW !== undefined && { heaterW }),
})

/** What it holds, and how that comes and goes. */
export function storeOf(part: Battery): Store {
  const accepts = judgedLimit(part, 'maxChargeA')
  const gives = judgedLimit(part, 'continuousA')
  const peakA = batteryLimit(part, 'peakA')
  const lowest = [part.lowTempChargeC, part.bms?.lowTempChargeC, chemistry(part.chemistry).chargeAboveC]
  const chargeAboveC = lowest.find(c => c !== undefined && c !== null)
  const trip = peakA === undefined ? gives : { amps: peakA }
  const isStopped = part.stopV !== undefined
  const charge = isStopped ? chargeWhere(c => restedVolts(part, c), part.stopV!) : endOfUse(part)
  const curve = part.curve?.map(p => p.soc) ?? chemistry(part.chemistry).curve.map(p => p[0])
  return {
    unit: 'Ah',
    capacity: part.capacityAh,
    printedWh: part.capacityAh * part.seriesCells * packClass(part.chemistry).cellV,
    chemistry: part.chemistry,
    efficiency: 1,
    sourcesAt: c => [
      {
        at: part.id,
        emfV: restedVolts(part, c),
        ohm: part.internalOhm,
        leastA: -acceptedAmps(part, accepts?.amps ?? 0, c),
        ...(c <= 0 && { mostA: 0 }),
      },
    ],
    bends: [...curve, cellsOf(part.chemistry).taperFrom],
    countedA: amps => countedAmps(part, amps),
    chargeEfficiency: cellsOf(part.chemistry).coulombEfficiency,
    coldShare: celsius => coldShare(part.chemistry, celsius),
    endOfUse: { charge, by: isStopped ? 'stop voltage' : 'usable fraction' },
    ...(trip && { tripA: trip }),
    ...(chargeAboveC != null && { cold: { chargeAboveC, ...coldOf(part) } }),
    lasts: { cycles: part.cycleLife, years: part.lifeYears },
    assumed: assumedLimits(part),
  }
}

const GROWS = ['capacityAh', 'continuousA', 'peakA', 'maxChargeA'] as const

/** The same cells, more of them side by side: they share the current, and their resistances too. */
export function batterySized(part: Battery, factor: number): Battery {
  const { bms, members } = part
  return {
    ...grown(part, GROWS, factor),
    internalOhm: part.internalOhm / factor,
    ...(bms && { bms: grown(bms, ['continuousA', 'peakA', 'maxChargeA'], factor) }),
    ...(members && {
      members: members.map(m => ({
        ...grown(m, ['capacityAh'], factor),
        ...(m.internalOhm !== undefined && { internalOhm: m.internalOhm / factor }),
      })),
    }),
  }
}
