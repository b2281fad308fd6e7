import { hearRecording } from '../../core/noise/listen/listen'
import { Listening } from '../../core/noise/listen/listening'
import { combScores, reliability } from '../data/combScores'
import { hideAndSeek, NOISY_STATIONS } from '../data/noisy'
import { physicsTrials, shares } from '../data/physicsScores'
import { madeUpRecording } from '../data/recordings'

/** Ten seconds of I and Q at 192 kS/s: hiss, and nineteen wavering lines 9.8 kHz apart. */
export const tenSeconds = () =>
  madeUpRecording({
    seconds: 10,
    sampleRateHz: 192e3,
    hiss: 0.01,
    lines: 19,
    spacingHz: 9800,
    offsetHz: 137,
    level: 0.001,
    swingHz: 10,
    seed: 1,
  })

/** How much of one core listening takes: spectra, the level and a comb every two seconds, as the page does. */
function benchLive(print: (line: string) => void) {
  const { channels, sampleRateHz } = tenSeconds()
  const listening = new Listening({ sampleRateHz, isIq: true, centreHz: 14e6 })
  const start = performance.now()
  const step = sampleRateHz / 20
  for (let at = 0; at < channels[0]!.length; at += step) {
    listening.push(channels.map(c => c.subarray(at, at + step)))
    listening.level(14e6, 2700)
    if ((at / step) % 40 === 39) listening.combs()
  }
  const share = (performance.now() - start) / 10e3
  print(`listening live to I/Q of 192 kS/s: ${(100 * share).toFixed(0)} % of one core (aim 50 %)`)
}

/** How often a verdict is right at stations made from physics, by following the advice to it. */
function benchPhysics(print: (line: string) => void) {
  const start = performance.now()
  const trials = physicsTrials(HIDDEN)
  const seconds = ((performance.now() - start) / 1000).toFixed(0)
  print(`${HIDDEN} stations made from physics with hidden noise, an ear wrong in 10 % (${seconds} s):`)
  print('                                count  devices right  way right too')
  for (const { name, count, device, way } of shares(trials))
    print(
      `  ${name.padEnd(28)} ${String(count).padStart(6)} ${`${(100 * device).toFixed(1)} %`.padStart(14)} ` +
        `${`${(100 * way).toFixed(1)} %`.padStart(14)}`,
    )
}

/** Samples of each recipe: more than 300 in all. */
const EACH = 25

/** What the comb finder claims of a corpus, and how often it is right. */
function benchCombs(print: (line: string) => void) {
  const start = performance.now()
  const { claims, recipes, mains } = combScores(EACH)
  const count = EACH * recipes.length
  const seconds = ((performance.now() - start) / 1000).toFixed(0)
  print(`combs in ${count} made-up tone lists and spectra (${seconds} s with their making):`)
  print('  recipe                                        there  found  claimed  wrongly')
  for (const r of recipes)
    print(
      `  ${r.recipe.padEnd(44)} ${String(r.there).padStart(6)} ${String(r.found).padStart(6)} ` +
        `${String(r.claims).padStart(8)} ${String(r.wrong).padStart(8)}`,
    )
  print(`  mains buzz told with its frequency: ${mains[0]} of ${mains[0]! + mains[1]!}`)
  for (const { low, high, claims: n, right } of reliability(claims))
    print(`  claims of ${100 * low} to ${100 * high} %: ${n}, right ${n ? ((100 * right) / n).toFixed(1) : '–'} %`)
}

const FAULTS = [40, 40, 20]
/** Stations made from physics with something hidden in each. */
const HIDDEN = 1000

export function benchNoise(print: (line: string) => void) {
  const recording = tenSeconds()
  const start = performance.now()
  const found = hearRecording(recording, 14e6)!
  print(
    'peaks and comb of a 10 s, 192 kS/s I/Q recording, the first time: ' +
      `${(performance.now() - start).toFixed(0)} ms, ${found.combs.length} comb of ` +
      `${found.combs[0]?.spacingHz.toFixed(1)} Hz (aim 1 s)`,
  )
  benchLive(print)
  benchCombs(print)
  benchPhysics(print)
  print('100 hidden faults of the simulated receiver, found by following the advice:')
  print(
    '  station                     faults  wrong readings  device and way right  tests: median  mean  bound  ' +
      'median to bound  minutes',
  )
  for (const slips of [0, 0.04]) {
    NOISY_STATIONS.forEach((station, i) => {
      const s = hideAndSeek(station, FAULTS[i]!, 1, slips)
      print(
        `  ${s.name.padEnd(26)} ${String(s.faults).padStart(7)} ${`${100 * slips} %`.padStart(15)} ` +
          `${`${((100 * s.right) / s.faults).toFixed(1)} %`.padStart(21)} ${String(s.medianTests).padStart(14)} ` +
          `${s.meanTests.toFixed(2).padStart(5)} ${s.bound.toFixed(2).padStart(6)} ` +
          `${(s.medianTests / s.bound).toFixed(2).padStart(16)} ${String(s.medianMinutes).padStart(8)}`,
      )
    })
  }
}
