import { randomFrom, type Random } from '../chance/random'
import type { EventCourse } from './course'
import { localAt } from './schedule'
import { GRID_H, skyOf, sunOver } from './panels'
import type { CourseOptions } from './run'
import type { Cause } from './watch'

/** How an event goes in many weathers, with more and less talk, and packs that are not quite what they were. */
export interface Odds {
  runs: number
  seed: number
  /** Share of runs in which nothing fails. */
  onAir: number
  /** Of the runs in which something fails, when it first does, hours from the start; null where none does. */
  firstFailureH: { p10: number; p50: number; p90: number } | null
  /** What fails first, most often first. */
  causes: { cause: Cause; place: string; share: number }[]
  /** Charge of each store over time: in one run of ten it is lower than `p10`, in one of ten higher than `p90`. */
  band: { h: number; soc: Record<string, { p10: number; p50: number; p90: number }> }[]
}

/** Cloud cover varies from day to day by so much around what is said, and half of a day's goes over to the next. */
const COVER_SPREAD = 0.25
const PERSISTENCE = 0.5
/** Transmit time varies by a fifth from one event to the next, what a pack still holds by a twentieth. */
const DUTY_SPREAD = 0.2
const HEALTH_SPREAD = 0.05
/** A measured or forecast irradiance is off by so much. */
const FORECAST_SPREAD = 0.15
/** Covers for which the sun is worked out; between them it is taken straight. */
const COVERS = [0, 0.4, 0.6, 0.75, 0.9, 1]

const clamp = (value: number, low: number, high: number) => Math.max(low, Math.min(high, value))

/** Share at which a sorted list stands. */
const quantile = (sorted: ArrayLike<number>, share: number): number =>
  sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))]!

/** What chance makes of one run. */
type Drawn = Required<Pick<CourseOptions, 'suns' | 'duty' | 'health'>>

/** The same runs for the same seed. What a run gives is used before the next is drawn. */
function* drawnRuns(course: EventCourse, seed: number): Generator<Drawn> {
  const random = randomFrom(seed)
  const weather = new Weather(course)
  for (;;) {
    const suns = weather.drawn(random)
    const duty = Math.exp(DUTY_SPREAD * random.normal() - DUTY_SPREAD ** 2 / 2)
    const health = clamp(1 + HEALTH_SPREAD * random.normal(), 0.7, 1.1)
    yield { suns, duty, health }
  }
}

export interface OddsAsked {
  runs: number
  seed: number
  spares?: CourseOptions['spares']
}

/**
 * Whether nothing fails in at least such a share of the runs; ends as soon as that is settled.
 * @returns the share of those that were run
 */
export function meetsOdds(course: EventCourse, { runs, seed, spares }: OddsAsked, share: number) {
  const mayFail = Math.floor((1 - share) * runs + 1e-9)
  let [done, failed] = [0, 0]
  for (const drawn of drawnRuns(course, seed)) {
    if (done === runs || failed > mayFail) break
    if (course.run({ everyH: 0, firstOnly: true, ...drawn, ...(spares && { spares }) }).ends) failed++
    done++
  }
  return { meets: failed <= mayFail, onAir: 1 - failed / done }
}

/** @param progress told the share done; stops by returning false, and then there are no odds */
export function oddsOf(
  course: EventCourse,
  { runs, seed, spares, progress = () => true }: OddsAsked & { progress?: (share: number) => boolean },
): Odds | null {
  const moments = course.stretches().map(s => s.fromH)
  const charges = course.stores.map(() => moments.map(() => new Float64Array(runs)))
  const firsts: number[] = []
  const causes = new Map<string, { cause: Cause; place: string; count: number }>()
  let run = 0
  const trace = (stage: number, now: Float64Array) =>
    now.forEach((c, k) => {
      charges[k]![stage]![run] = Math.max(0, c)
    })
  for (const drawn of drawnRuns(course, seed)) {
    if (run === runs) break
    if (run % 20 === 0 && !progress(run / runs)) return null
    const { ends } = course.run({ everyH: 0, firstOnly: true, ...drawn, trace, ...(spares && { spares }) })
    run++
    if (!ends) continue
    firsts.push(ends.atH)
    const key = `${ends.cause} ${ends.place}`
    const known = causes.get(key) ?? { cause: ends.cause, place: ends.place, count: 0 }
    causes.set(key, { ...known, count: known.count + 1 })
  }
  firsts.sort((a, b) => a - b)
  return {
    runs,
    seed,
    onAir: 1 - firsts.length / runs,
    firstFailureH: firsts.length ? threeOf(firsts) : null,
    causes: [...causes.values()]
      .sort((a, b) => b.count - a.count)
      .map(({ cause, place, count }) => ({ cause, place, share: count / runs })),
    band: moments.map((h, m) => ({
      h,
      soc: Object.fromEntries(course.stores.map((s, k) => [s.part.id, threeOf(charges[k]![m]!.slice().sort())])),
    })),
  }
}

const threeOf = (sorted: ArrayLike<number>) => ({
  p10: quantile(sorted, 0.1),
  p50: quantile(sorted, 0.5),
  p90: quantile(sorted, 0.9),
})

/** The sun of an event in weathers drawn by chance around the one that is said. */
class Weather {
  private readonly layers: Float64Array[][]
  private readonly said
  private readonly days: number
  private readonly startH: number
  private readonly into: Float64Array[]

  constructor(private readonly course: EventCourse) {
    const { plan, event, sunInputs } = course
    this.said = skyOf(event)
    this.startH = localAt(event, 0).getUTCHours() + localAt(event, 0).getUTCMinutes() / 60
    this.days = Math.ceil((event.hours + this.startH) / 24) + 1
    const covers = this.said.measuredWm2 ? [0] : COVERS
    this.layers = covers.map(cover =>
      sunOver(plan, event, sunInputs, { coverAt: () => cover, measuredWm2: this.said.measuredWm2 }),
    )
    this.into = sunInputs.map((_, k) => new Float64Array(this.layers[0]![k]!.length))
  }

  drawn(random: Random): readonly Float64Array[] {
    const { layers, into } = this
    if (this.said.measuredWm2) {
      const factor = Math.exp(FORECAST_SPREAD * random.normal())
      into.forEach((series, k) => layers[0]![k]!.forEach((v, n) => (series[n] = v * factor)))
      return into
    }
    let off = 0
    const covers = Array.from({ length: this.days }, (_, d) => {
      off = PERSISTENCE * off + Math.sqrt(1 - PERSISTENCE ** 2) * random.normal()
      return clamp(this.said.coverAt(Math.max(0, 24 * d - this.startH)) + COVER_SPREAD * off, 0, 1)
    })
    into.forEach((series, k) => {
      for (let n = 0; n < series.length; n++) {
        const cover = covers[Math.min(covers.length - 1, Math.floor((n * GRID_H + this.startH) / 24))]!
        let layer = 0
        while (layer < COVERS.length - 2 && cover > COVERS[layer + 1]!) layer++
        const share = (cover - COVERS[layer]!) / (COVERS[layer + 1]! - COVERS[layer]!)
        const [a, b] = [layers[layer]![k]![n]!, layers[layer + 1]![k]![n]!]
        series[n] = a + (b - a) * share
      }
    })
    return into
  }
}
