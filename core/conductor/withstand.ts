import { AMPACITY, COPPER_OHM_MM2_PER_M, UNSAID_INSULATION_C, type AmpacitySchool } from '../catalog/conductors'
import { risePerAmp2, type ConductorInPlace, type Surroundings } from './ampacity'
import { conductorMm2 } from './resistance'

/**
 * What insulation stands for a moment in a short, °C, by what it is made for (IEC 60949): PVC, cross-linked,
 * silicone.
 */
const FINAL_C = [
  { insulationC: 180, finalC: 200 },
  { insulationC: 90, finalC: 250 },
  { insulationC: 0, finalC: 160 },
] as const

/**
 * k of the adiabatic formula: material constant, A·√s/mm², and the temperature at which its resistance would be
 * nil.
 */
const METALS = { copper: { k: 226, zeroC: 234.5 }, cca: { k: 148, zeroC: 228 } } as const

const finalTemperature = ({ insulationC = UNSAID_INSULATION_C }: ConductorInPlace) =>
  FINAL_C.find(f => insulationC >= f.insulationC)!.finalC

/**
 * k of k²S² ≥ I²t, A·√s/mm²: k = 226·√(ln((234.5 + θf) / (234.5 + θi))) for copper (IEC 60949, adiabatic; aluminium 148
 * and 228). Insulation that is not said counts as PVC.
 * @param workingC θi, before the fault, °C; no more counts than what the insulation is made for
 */
export function adiabaticK(conductor: ConductorInPlace, workingC: number): number {
  const { k, zeroC } = METALS[conductor.material ?? 'copper']
  const startC = Math.min(workingC, conductor.insulationC ?? UNSAID_INSULATION_C)
  return k * Math.sqrt(Math.max(0, Math.log((zeroC + finalTemperature(conductor)) / (zeroC + startC))))
}

/** I²t that a conductor withstands, A²s, from its working temperature. */
export function withstandI2t(conductor: ConductorInPlace, workingC: number): number {
  return (adiabaticK(conductor, workingC) * conductorMm2(conductor)) ** 2
}

/** Over 5 s a conductor gives off heat while it warms, and the adiabatic rule (IEC 60949) no longer speaks of it. */
export const ADIABATIC_S = 5

/** Volumetric heat capacity of copper, J/(mm³·°C). */
const COPPER_J_PER_MM3 = 3.45e-3

/** What a conductor is in, and how hot it is before the short, °C; unsaid: as hot as its insulation may be. */
interface InShort extends Surroundings {
  workingC?: number
}

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
  { amps, ambientC, bundledConductors, workingC = conductor.insulationC ?? UNSAID_INSULATION_C }: InShort,
): boolean {
  if (seconds <= ADIABATIC_S) return amps ** 2 * seconds < withstandI2t(conductor, workingC)
  const steadyRise = risePerAmp2(conductor, school, bundledConductors) * amps ** 2
  if (seconds === Infinity)
    return (
      ambientC + steadyRise <=
      Math.min(conductor.insulationC ?? UNSAID_INSULATION_C, AMPACITY[school].conductorC) + 1e-9
    )
  const area = conductorMm2(conductor)
  const perSecond = (amps ** 2 * COPPER_OHM_MM2_PER_M) / 1000 / (area ** 2 * COPPER_J_PER_MM3)
  return ambientC + steadyRise * -Math.expm1((-seconds * perSecond) / steadyRise) < finalTemperature(conductor)
}
