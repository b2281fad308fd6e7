import { FERRITES, RINGS } from '../../catalog/noise'
import { add, complex, divide, magnitude, parallel, type Complex } from './complex'
import { significant } from '../../units/number'

/** Permeability of free space, H/m. */
const MU0 = 4e-7 * Math.PI

/**
 * A winding on one or more ferrite cores: all conductors of a cable together through every core, or one of them alone.
 */
export interface Choke {
  initialPermeability: number
  relaxationHz: number
  odMm: number
  idMm: number
  heightMm: number
  /** Cores side by side, all passed by every turn. */
  cores: number
  turns: number
  /** Of the core's permeability so much works: a clip-on's air gap leaves a third to a half. Unsaid: all of it. */
  worksShare?: number
  /** Across the winding, F; unsaid: 1.5 pF a core and turn gap. */
  strayF?: number
  saturationT?: number
}

/** What lies across a winding by each core it passes and each gap between two turns, F (1 to 2 pF of wound cable). */
const STRAY_F = 1.5e-12
/** Of a cable straight through, F. */
const STRAIGHT_F = 0.5e-12

/** Capacitance across a winding, F: so much a core and turn gap. */
export function strayFarad({ strayF, cores, turns }: Choke): number {
  return strayF ?? (turns < 2 ? STRAIGHT_F : STRAY_F * cores * (turns - 1))
}

/** Inductance of the winding over a core of permeability 1, H: L0·N²·k, L0 = μ0·(h/2π)·ln(OD/ID). */
function airInductance(choke: Choke): number {
  return (
    ((MU0 * choke.heightMm) / 1000 / (2 * Math.PI)) * Math.log(choke.odMm / choke.idMm) * choke.turns ** 2 * choke.cores
  )
}

/** Low-frequency inductance, H: turns squared, cores add. */
export function inductance(choke: Choke): number {
  return choke.initialPermeability * (choke.worksShare ?? 1) * airInductance(choke)
}

/** Complex permeability by one relaxation: μ = μi / (1 + j·f/fr) = μ' − j·μ''. */
export function permeability(
  choke: Pick<Choke, 'initialPermeability' | 'relaxationHz'>,
  frequencyHz: number,
): { real: number; imaginary: number } {
  const x = frequencyHz / choke.relaxationHz
  return { real: choke.initialPermeability / (1 + x * x), imaginary: (choke.initialPermeability * x) / (1 + x * x) }
}

/** Impedance without the winding's own capacitance, Ω: jω·L0·N²·k·(μ' − jμ''). */
export function coreImpedance(choke: Choke, frequencyHz: number): Complex {
  const { real, imaginary } = permeability(choke, frequencyHz)
  const reactance = 2 * Math.PI * frequencyHz * airInductance(choke) * (choke.worksShare ?? 1)
  return complex(reactance * imaginary, reactance * real)
}

/** Impedance with a few pF across it, which end its rise, Ω. */
export function impedance(choke: Choke, frequencyHz: number): Complex {
  const core = coreImpedance(choke, frequencyHz)
  const stray = strayFarad(choke)
  return stray > 0 ? parallel(core, complex(0, -1 / (2 * Math.PI * frequencyHz * stray))) : core
}

/** Insertion loss in a loop of a source's and a load's impedance, dB: 20·log10(|Zs + Zl + Zc| / |Zs + Zl|). */
export function insertionLossDb(choke: Complex, loop: Complex): number {
  return 20 * Math.log10(magnitude(add(loop, choke)) / magnitude(loop))
}

/**
 * Insertion loss in a loop of which only the size is known, dB: at its worst phase. A cable's loop is reactive as well;
 * where it is wholly so, and against the choke's own reactance, the choke does least.
 */
export function worstLossDb(choke: Complex, loopOhm: number): number {
  return insertionLossDb(choke, complex(0, choke.im < 0 ? loopOhm : -loopOhm))
}

/** Common-mode impedance of a cable's loop where nothing is known of it, Ω. */
export const UNKNOWN_LOOP: Complex = { re: 150, im: 0 }

/**
 * Frequency at which it is highest, Hz, between 10 kHz and 1 GHz; nothing there is a resonance of the winding itself.
 */
export function peakHz(choke: Choke): number {
  let best = 1e4
  let most = 0
  for (let decade = 4; decade <= 9; decade += 0.01) {
    const z = magnitude(impedance(choke, 10 ** decade))
    if (z > most) {
      most = z
      best = 10 ** decade
    }
  }
  return best
}

/** Turns of a cable that fit through a core: one layer on its inner circle, the middle left free. */
export function turnsThatFit(idMm: number, cableMm: number): number {
  if (cableMm > idMm) return 0
  // Circles of the cable's diameter that touch the bore from within.
  const ratio = cableMm / (idMm - cableMm)
  if (ratio >= 1) return 1
  return Math.floor(Math.PI / Math.asin(ratio) + 1e-9)
}

/**
 * Flux density of a direct current through the winding that is not cancelled by its return, T, at the inner edge where
 * it is highest.
 */
export function fluxDensityT(choke: Choke, uncancelledA: number): number {
  return (MU0 * choke.initialPermeability * choke.turns * uncancelledA) / ((Math.PI * choke.idMm) / 1000)
}

/** Whether DC saturates the core: one conductor alone carries it whole; a pair together cancels it. */
export function saturates(
  choke: Choke,
  dcA: number,
  passes: 'pair' | 'one',
): { fluxT: number; limitT: number; saturated: boolean } {
  const limitT = choke.saturationT ?? 0.3
  const fluxT = passes === 'pair' ? 0 : fluxDensityT(choke, dcA)
  return { fluxT, limitT, saturated: fluxT > limitT }
}

export interface Winding {
  material: (typeof FERRITES)[number]['id']
  ring: (typeof RINGS)[number]['id']
  cores: number
  turns: number
  lossDb: number
  ohm: number
}

/**
 * What it takes for so much insertion loss over a whole band, at the loop's worst phase: every core and winding that
 * does and fits the cable, fewest cores first.
 */
export function windingsFor(
  { lowHz, highHz }: { lowHz: number; highHz: number },
  wantedDb: number,
  cableMm: number,
  loopOhm = magnitude(UNKNOWN_LOOP),
): Winding[] {
  const found: Winding[] = []
  for (const ferrite of FERRITES) {
    for (const ring of RINGS) {
      const fit = turnsThatFit(ring.idMm, cableMm)
      for (let cores = 1; cores <= 6; cores++) {
        let made: Winding | null = null
        for (let turns = 1; turns <= Math.min(fit, 12) && !made; turns++) {
          const choke = { ...ferrite, ...ring, cores, turns }
          const losses = [lowHz, Math.sqrt(lowHz * highHz), highHz].map(f => worstLossDb(impedance(choke, f), loopOhm))
          const lossDb = Math.min(...losses)
          if (lossDb >= wantedDb)
            made = {
              material: ferrite.id,
              ring: ring.id,
              cores,
              turns,
              lossDb,
              ohm: magnitude(impedance(choke, Math.sqrt(lowHz * highHz))),
            }
        }
        if (made) {
          found.push(made)
          break
        }
      }
    }
  }
  return found.sort((a, b) => a.cores - b.cores || a.turns - b.turns || b.lossDb - a.lossDb)
}

/**
 * A differential low-pass in a converter's lead: series inductance, capacitance across, and a damping branch of R and C
 * beside it.
 */
export interface LcFilter {
  henry: number
  farad: number
  dampingOhm?: number
  dampingFarad?: number
  sourceOhm: number
  loadOhm: number
}

export function lcFilter(
  filter: LcFilter,
  frequencyHz: number,
): { lossDb: number; resonanceHz: number; q: number; outputOhm: number } {
  const w = 2 * Math.PI * frequencyHz
  const shunt =
    filter.dampingOhm !== undefined && filter.dampingFarad
      ? parallel(complex(0, -1 / (w * filter.farad)), complex(filter.dampingOhm, -1 / (w * filter.dampingFarad)))
      : complex(0, -1 / (w * filter.farad))
  const output = parallel(shunt, complex(filter.loadOhm))
  const series = complex(filter.sourceOhm, w * filter.henry)
  const through = divide(output, add(series, output))
  const without = filter.loadOhm / (filter.sourceOhm + filter.loadOhm)
  const characteristic = Math.sqrt(filter.henry / filter.farad)
  // Loss by the load across and the source in series, and by the damping branch once its capacitor is large.
  const lossOhm =
    1 /
    (1 / filter.loadOhm +
      (filter.dampingOhm !== undefined && (filter.dampingFarad ?? 0) >= 3 * filter.farad ? 1 / filter.dampingOhm : 0))
  return {
    lossDb: -20 * Math.log10(magnitude(through) / without),
    resonanceHz: 1 / (2 * Math.PI * Math.sqrt(filter.henry * filter.farad)),
    q: 1 / (characteristic / lossOhm + filter.sourceOhm / characteristic),
    outputOhm: magnitude(parallel(shunt, series)),
  }
}

/**
 * A converter takes constant power: its input is a negative resistance, −V²/P. A filter whose output impedance comes
 * near it oscillates
 * (Middlebrook's criterion: stay well under it). null where there is room.
 */
export function filterWarning(filter: LcFilter, inputV: number, inputW: number): string | null {
  const negativeOhm = inputV ** 2 / inputW
  const { resonanceHz } = lcFilter(filter, 1e3)
  const peak = Math.max(
    ...[0.7, 0.85, 1, 1.15, 1.4].map(k => lcFilter({ ...filter, loadOhm: 1e9 }, k * resonanceHz).outputOhm),
  )
  if (peak < negativeOhm / 2) return null
  return (
    `At ${significant(resonanceHz / 1000, 2)} kHz the filter's output rises to ${significant(peak, 2)} Ω; the ` +
    `converter's input is −${significant(negativeOhm, 2)} Ω. It may oscillate: damp the filter with a capacitor of ` +
    `at least ${significant(3 * filter.farad * 1e6, 2)} µF and ` +
    `${significant(Math.sqrt(filter.henry / filter.farad), 2)} Ω in series beside its own.`
  )
}
