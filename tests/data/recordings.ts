import { randomFrom } from '../../core/chance/random'
import type { Recording } from '../../core/noise/listen/spectrum'

/** What a made-up recording holds: hiss, and an odd number of lines around its centre. */
export interface MadeUp {
  seconds: number
  sampleRateHz: number
  hiss: number
  lines: number
  spacingHz: number
  offsetHz: number
  level: number
  swingHz?: number
  seed: number
}

/** I and Q of a comb in hiss, full scale 1; its lines swing slowly by so many Hz. */
export function madeUpRecording({
  seconds,
  sampleRateHz,
  hiss,
  lines,
  spacingHz,
  offsetHz,
  level,
  swingHz = 0,
  seed,
}: MadeUp): Recording {
  const random = randomFrom(seed)
  const n = Math.round(seconds * sampleRateHz)
  const [i, q] = [new Float32Array(n), new Float32Array(n)]
  for (let k = 0; k < n; k++) {
    i[k] = hiss * random.normal()
    q[k] = hiss * random.normal()
  }
  for (let line = -(lines - 1) / 2; line <= (lines - 1) / 2; line++) {
    let phase = 0
    for (let k = 0; k < n; k++) {
      i[k]! += level * Math.cos(phase)
      q[k]! += level * Math.sin(phase)
      phase += (2 * Math.PI * (line * spacingHz + offsetHz + swingHz * Math.sin(k / 30000))) / sampleRateHz
    }
  }
  return { sampleRateHz, channels: [i, q] }
}
