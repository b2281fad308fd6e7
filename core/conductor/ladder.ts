import { AWG_LADDER, MM2_LADDER } from '../catalog/conductors'
import { awgInPlan, type ConductorSize } from '../units/conductor'
import { conductorMm2 } from './resistance'

/** The same kind of conductor in every thicker size one can buy, next first. */
export function thickerSizes<T extends ConductorSize>(conductor: T): T[] {
  const area = conductorMm2(conductor)
  const isThicker = (size: ConductorSize) => conductorMm2(size) > area * 1.001
  if (conductor.mm2 !== undefined) {
    return MM2_LADDER.filter(mm2 => isThicker({ mm2 })).map(mm2 => ({ ...conductor, mm2 }))
  }
  return AWG_LADDER.filter(awg => isThicker({ awg })).map(awg => ({ ...conductor, awg: awgInPlan(awg) }))
}

/** The same kind of conductor in every thinner size one can buy, next first. */
export function thinnerSizes<T extends ConductorSize>(conductor: T): T[] {
  const area = conductorMm2(conductor)
  const isThinner = (size: ConductorSize) => conductorMm2(size) < area * 0.999
  if (conductor.mm2 !== undefined) {
    return MM2_LADDER.filter(mm2 => isThinner({ mm2 }))
      .map(mm2 => ({ ...conductor, mm2 }))
      .reverse()
  }
  return AWG_LADDER.filter(awg => isThinner({ awg }))
    .map(awg => ({ ...conductor, awg: awgInPlan(awg) }))
    .reverse()
}
