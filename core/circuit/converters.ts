import { transferInputW, transferOutV } from '../kinds/transfer'
import type { Laden } from './laden'
import { siemensOf } from './lines'

/** Step over which the slopes of a converter's law are taken, V and A. */
const SLOPE_STEP = 1e-6

/** Converters start on their line: what each gave last, within what it can, at the voltage that its input allows. */
export function alignConverters({ working, volts, held, lines, pieces }: Laden) {
  for (const w of working) {
    w.source.emfV = transferOutV(w.transfer, volts[w.fromNode]!)
    if (held[w.toNode]) continue
    const siemens = siemensOf(lines[w.at]!, pieces[w.at]!)
    if (siemens === 0) continue
    const outA = Math.min(Math.max(w.outA, 0), w.source.mostA ?? Infinity)
    volts[w.toNode] = w.source.emfV - outA / siemens
  }
}

/**
 * What each converter gives and takes at these voltages; how the two hang together goes beside the matrix.
 * @param inputScale what part of it is taken at the input
 */
export function stampConverters(laden: Laden, inputScale: number) {
  const { working, volts, held, lines, pieces, coupling, sinkValue } = laden
  for (let i = 0; i < working.length; i++) {
    const w = working[i]!
    const inV = volts[w.fromNode]!
    const outV = volts[w.toNode]!
    const slope = siemensOf(lines[w.at]!, pieces[w.at]!)
    // Where another source holds the node, this one gives what it is limited to, or nothing.
    const siemens = held[w.toNode] ? 0 : slope
    w.outA = siemens === 0 && slope > 0 ? 0 : laden.sourceAmps(w.at)
    const { transfer, outA } = w
    const inputW = transferInputW(transfer, inV, outV, outA)
    sinkValue[w.sink] = inputW
    w.rise = (transferOutV(transfer, inV + SLOPE_STEP) - w.source.emfV) / SLOPE_STEP
    w.perInV = (transferInputW(transfer, inV + SLOPE_STEP, outV, outA) - inputW) / SLOPE_STEP
    const perOutV = (transferInputW(transfer, inV, outV + SLOPE_STEP, outA) - inputW) / SLOPE_STEP
    const perAmp = (transferInputW(transfer, inV, outV, outA + SLOPE_STEP) - inputW) / SLOPE_STEP
    const scale = held[w.fromNode] ? 0 : inputScale / inV
    const lift = siemens * w.rise
    coupling.put(i, { perInput: scale * perAmp * lift, perOutput: scale * (perOutV - perAmp * siemens), lift })
  }
}

/**
 * After a step, V by node, an output stands on its line again, with the current that the step gave it.
 * @returns how far that was from where the step had put it, V
 */
export function keepOnLine({ working, volts, held, lines, pieces, coupling }: Laden, step: Float64Array): number {
  let farthest = 0
  for (let i = 0; i < working.length; i++) {
    const w = working[i]!
    const emfV = transferOutV(w.transfer, volts[w.fromNode]!)
    const lifted = coupling.isLoose[i] ? 0 : w.rise * step[w.fromNode]!
    const off = emfV - (w.source.emfV + lifted)
    w.source.emfV = emfV
    if (held[w.toNode] || siemensOf(lines[w.at]!, pieces[w.at]!) === 0) continue
    volts[w.toNode]! += off
    farthest = Math.max(farthest, Math.abs(off))
  }
  return farthest
}
