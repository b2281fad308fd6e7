import { AMPACITY, COPPER_OHM_MM2_PER_M, type AmpacitySchool } from '../catalog/conductors'
import { risePerAmp2, type ConductorInPlace, type Surroundings } from './ampacity'
import { conductorMm2 } from './resistance'

/**
 * k of k²S² ≥ I²t, A·√s/mm², and the temperature it stands for, °C (IEC 60949, adiabatic; copper 115 for 70 °C PVC, 143
 * for 90 °C and
 * higher insulation; aluminium 76 and 94). Insulation that is not said counts as PVC.
 */
function adiabatic(conductor: ConductorInPlace): { k: number; finalC: number } {
  const high = (conductor.insulationC ?? 70) >= 90
  const [pvc, xlpe] = conductor.material === 'cca' ? [76, 94] : [115, 143]
  return high ? { k: xlpe, finalC: 250 } : { k: pvc, finalC: 160 }
}

/** I²t that a conductor withstands, A²s. */
export function withstandI2t(conductor: ConductorInPlace): number {
  return (adiabatic(conductor).k * conductorMm2(conductor)) ** 2
}

/** Over 5 s a conductor gives off heat while it warms, and the adiabatic rule (IEC 60949) no longer speaks of it. */
export const ADIABATIC_S = 5

/** Volumetric heat capacity of copper, J/(mm³·°C). */
const COPPER_J_PER_MM3 = 3.45e-3

/**
 * Whether a conductor survives a current for a time: I²t under k²S² up to 5 s; longer, warming toward its steady
 * temperature
 * with its own time constant stays under the temperature that k stands for.
 * @param seconds Infinity where nothing opens
 */
export function survives(
  conductor: ConductorInPlace,
  school: AmpacitySchool,
  seconds: number,
  { amps, ambientC, bundledConductors }: Surroundings,
): boolean {
  if (seconds <= ADIABATIC_S) return amps ** 2 * seconds < withstandI2t(conductor)
  const steadyRise = risePerAmp2(conductor, school, bundledConductors) * amps ** 2
  const { finalC } = adiabatic(conductor)
  if (seconds === Infinity)
    return (
      ambientC + steadyRise <=
      Math.min(conductor.insulationC ?? AMPACITY[school].conductorC, AMPACITY[school].conductorC) + 1e-9
    )
  const area = conductorMm2(conductor)
  const perSecond = (amps ** 2 * COPPER_OHM_MM2_PER_M) / 1000 / (area ** 2 * COPPER_J_PER_MM3)
  return ambientC + steadyRise * -Math.expm1((-seconds * perSecond) / steadyRise) < finalC
}
