import { hearRecording } from '../../core/noise/listen'
import { randomFrom } from '../../core/noise/random'
import type { Recording } from '../../core/noise/spectrum'
import { hideAndSeek, NOISY_STATIONS } from '../data/noisy'

/** Ten seconds of I and Q at 192 kS/s: hiss, and nineteen wavering lines 9.8 kHz apart. */
export function tenSeconds(): Recording {
  const random = randomFrom(1)
  const n = 1_920_000
  const [i, q] = [new Float32Array(n), new Float32Array(n)]
  for (let k = 0; k < n; k++) {
    i[k] = 0.01 * random.normal()
    q[k] = 0.01 * random.normal()
  }
  for (let line = -9; line <= 9; line++) {
    let phase = 0
    for (let k = 0; k < n; k++) {
      phase += 2 * Math.PI * (line * 9800 + 137 + 10 * Math.sin(k / 30000)) / 192e3
      i[k]! += 0.001 * Math.cos(phase)
      q[k]! += 0.001 * Math.sin(phase)
    }
  }
  return { sampleRateHz: 192e3, channels: [i, q] }
}

const FAULTS = [200, 200, 100]

export function benchNoise(print: (line: string) => void) {
  const recording = tenSeconds()
  const start = performance.now()
  const found = hearRecording(recording, 14e6)!
  print(`peaks and comb of a 10 s, 192 kS/s I/Q recording, the first time: ${(performance.now() - start).toFixed(0)} ms, ${found.combs.length} comb of ${found.combs[0]?.spacingHz.toFixed(1)} Hz (aim 1 s)`)
  print('500 hidden faults of the simulated receiver, found by following the advice:')
  print('  station                     faults  wrong readings  device and way right  tests: median  mean  bound  median to bound  minutes')
  for (const slips of [0, 0.04]) {
    NOISY_STATIONS.forEach((station, i) => {
      const s = hideAndSeek(station, FAULTS[i]!, 1, slips)
      print(`  ${s.name.padEnd(26)} ${String(s.faults).padStart(7)} ${`${100 * slips} %`.padStart(15)} ${`${(100 * s.right / s.faults).toFixed(1)} %`.padStart(21)} ${String(s.medianTests).padStart(14)} ${s.meanTests.toFixed(2).padStart(5)} ${s.bound.toFixed(2).padStart(6)} ${(s.medianTests / s.bound).toFixed(2).padStart(16)} ${String(s.medianMinutes).padStart(8)}`)
    })
  }
}
