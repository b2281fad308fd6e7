import type { DiodeString } from './network'

/**
 * Current of a branch with diodes at a voltage, and its slope: solves
 * slopeV·ln(1 + I/Is) + I·ohm + I³·ohmPerAmp2 = V for the forward way; the exponential's own tail backwards.
 * @returns amps and siemens, written into `out`
 */
// Called for every branch in every round: no object is made for its arguments.
// eslint-disable-next-line max-params
export function diodeBranch(
  v: number,
  ohm: number,
  ohmPerAmp2: number,
  diode: DiodeString,
  out: { amps: number; siemens: number },
): void {
  const u = v * diode.forward
  const { slopeV, saturationA: is } = diode
  if (u <= 0) {
    const tail = Math.exp(Math.max(u / slopeV, -600))
    out.amps = diode.forward * is * (tail - 1)
    out.siemens = (is / slopeV) * tail + 1e-12
    return
  }
  // In y = ln(1 + I/Is) the equation is convex and rising: Newton from above comes down without overshoot.
  let y = Math.min(u / slopeV, Math.log1p(u / Math.max(ohm * is, 1e-300)))
  for (let k = 0; k < 60; k++) {
    const grown = is * Math.exp(y)
    const i = grown - is
    const f = slopeV * y + i * (ohm + i * i * ohmPerAmp2) - u
    const step = f / (slopeV + grown * (ohm + 3 * i * i * ohmPerAmp2))
    y -= step
    if (Math.abs(step) < 1e-14 * (1 + y)) break
  }
  const amps = is * Math.expm1(y)
  out.amps = diode.forward * amps
  out.siemens = 1 / (slopeV / (amps + is) + ohm + 3 * amps * amps * ohmPerAmp2)
}

/**
 * The same branch as the straight line that touches it where it carries `amps`: the next round starts from the current
 * that the last one gave, not from a voltage on the exponential.
 */
// eslint-disable-next-line max-params
export function carryingDiode(
  v: number,
  amps: number,
  ohm: number,
  ohmPerAmp2: number,
  diode: DiodeString,
  out: { amps: number; siemens: number },
): void {
  const { slopeV, saturationA: is, forward } = diode
  const i = Math.max(0, amps * forward)
  const heat = i * i * ohmPerAmp2
  const touchV = slopeV * Math.log1p(i / is) + i * (ohm + heat)
  out.siemens = 1 / (slopeV / (i + is) + ohm + 3 * heat)
  out.amps = forward * (i + (v * forward - touchV) * out.siemens)
}

/** The current at which a diode is taken to be at its knee, A. */
const KNEE_A = 0.1

/**
 * The same branch as a straight line through the diode's knee: without any current it has hardly a slope, and a load of
 * constant power behind it none to hold on to.
 */
export function kneeBranch(v: number, ohm: number, diode: DiodeString, out: { amps: number; siemens: number }): void {
  const kneeV = diode.slopeV * Math.log1p(KNEE_A / diode.saturationA)
  out.siemens = 1 / (ohm + diode.slopeV / KNEE_A)
  out.amps = diode.forward * (KNEE_A + (v * diode.forward - kneeV) * out.siemens)
}
