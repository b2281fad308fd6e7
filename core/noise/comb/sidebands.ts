import type { Tone } from '../listen/tones'

/** A tone with its mains-locked sidebands folded into it. */
export interface Folded extends Tone {
  /** How far apart they were, Hz. */
  rippleHz?: number
}

/** Sidebands of mains ripple: twice the mains frequency where it was rectified, or the mains frequency, Hz. */
const RIPPLES = [100, 120, 50, 60] as const
/** How exactly sidebands keep to it, Hz, or in parts of how exactly they were read. */
const KEEPS_HZ = 2
const RESOLUTIONS = 0.8
/** Beyond this a ripple is not told from chance, Hz. */
const TOLD_HZ = 12
/** Sidebands on each side of a line, at most; what goes on as far again is a buzz, and no line's sidebands. */
const EACH_SIDE = 6
const GOES_ON = 3
/** Of the tones about a line so many are its sidebands; where others lie between them it is a line that wanders. */
const OWN_SHARE = 0.7
/** Lines with sidebands, at least: one alone is as well a buzz. So are some that are nearer than this, Hz. */
const LEAST_FOLDED = 2
const APART_HZ = 2000

/** Tones, each line with its sidebands as one: what mains ripple makes of a switching device's line is one line. */
export function foldedSidebands(tones: readonly Tone[], resolutionHz: number): Folded[] {
  const toleranceHz = toleranceOf(resolutionHz)
  if (toleranceHz > TOLD_HZ) return [...tones]
  const look: Look = { tones, toleranceHz, taken: new Set() }
  const folded: Folded[] = []
  for (const i of strongestFirst(look)) {
    if (look.taken.has(i)) continue
    const sidebands = sidebandsOf(look, i)
    if (!sidebands) continue
    const members = [i, ...sidebands.at].sort((a, b) => a - b)
    members.forEach(k => look.taken.add(k))
    folded.push(
      lineOf(
        members.map(k => tones[k]!),
        sidebands.rippleHz,
      ),
    )
  }
  folded.sort((a, b) => a.hz - b.hz)
  const isBuzz = folded.some((f, k) => k > 0 && f.hz - folded[k - 1]!.hz < APART_HZ)
  if (isBuzz || folded.length < LEAST_FOLDED) return [...tones]
  return [...tones.filter((_, k) => !look.taken.has(k)), ...folded].sort((a, b) => a.hz - b.hz)
}

interface Look {
  /** Rising. */
  tones: readonly Tone[]
  toleranceHz: number
  /** Tones that are part of a line already. */
  taken: Set<number>
}

interface Sidebands {
  rippleHz: number
  at: number[]
  pairs: number
  offHz: number
}

/** A line is stronger than its sidebands; where no level is told, it is the one that has most. */
function strongestFirst(look: Look): number[] {
  const { tones } = look
  const places = tones.map((_, i) => i)
  if (tones.every(t => t.db !== undefined)) return places.sort((a, b) => tones[b]!.db! - tones[a]!.db!)
  const count = tones.map((_, i) => sidebandsOf(look, i)?.pairs ?? 0)
  return places.sort((a, b) => count[b]! - count[a]!)
}

/** The ripple whose sidebands stand about a tone: the one with most pairs, and of these the one that fits best. */
function sidebandsOf(look: Look, i: number): Sidebands | null {
  return RIPPLES.reduce<Sidebands | null>((best, rippleHz) => {
    const found = about(look, i, rippleHz)
    if (!found || !best) return found ?? best
    return found.pairs > best.pairs || (found.pairs === best.pairs && found.offHz < best.offHz) ? found : best
  }, null)
}

function about(look: Look, i: number, rippleHz: number): Sidebands | null {
  const { tones } = look
  const at: number[] = []
  let [pairs, beyond, offHz] = [0, 0, 0]
  for (let times = 1; times <= 2 * EACH_SIDE; times++) {
    const sides = [-1, 1].flatMap(side => nearest(look, tones[i]!.hz + side * times * rippleHz) ?? [])
    if (times > EACH_SIDE) beyond += sides.length
    else {
      at.push(...sides.map(s => s.i))
      offHz += sides.reduce((s, v) => s + v.offHz, 0)
      // The first sidebands are the strongest: with neither pair of them it is chance.
      if (sides.length === 2 && times <= 2) pairs++
    }
  }
  if (pairs === 0 || beyond >= GOES_ON) return null
  const reachHz = Math.max(...at.map(k => Math.abs(tones[k]!.hz - tones[i]!.hz))) + 1
  const around = tones.filter(t => t !== tones[i] && Math.abs(t.hz - tones[i]!.hz) <= reachHz).length
  return at.length >= OWN_SHARE * around ? { rippleHz, at, pairs: at.length, offHz: offHz / at.length } : null
}

/** The tone nearest to a frequency, within the tolerance. */
function nearest({ tones, toleranceHz, taken }: Look, hz: number): { i: number; offHz: number } | null {
  let [low, high] = [0, tones.length]
  while (low < high) {
    const middle = (low + high) >> 1
    if (tones[middle]!.hz < hz) low = middle + 1
    else high = middle
  }
  const near = [low - 1, low]
    .filter(i => tones[i] && !taken.has(i))
    .map(i => ({ i, offHz: Math.abs(tones[i]!.hz - hz) }))
  const best = near.reduce<(typeof near)[number] | null>((a, b) => (!a || b.offHz < a.offHz ? b : a), null)
  return best && best.offHz <= toleranceHz ? best : null
}

/** Sidebands stand even about their line: it is where their power is, or in their middle where no level is told. */
function lineOf(cluster: readonly Tone[], rippleHz: number): Folded {
  if (cluster.some(t => t.db === undefined)) return { hz: (cluster[0]!.hz + cluster.at(-1)!.hz) / 2, rippleHz }
  const powers = cluster.map(t => 10 ** (t.db! / 10))
  const total = powers.reduce((s, p) => s + p, 0)
  const centre = cluster.reduce((s, t, i) => s + t.hz * powers[i]!, 0) / total
  // The line itself, where it is there; else what lies between its sidebands.
  const closest = cluster.reduce((a, b) => (Math.abs(b.hz - centre) < Math.abs(a.hz - centre) ? b : a))
  const hz = Math.abs(closest.hz - centre) < rippleHz / 4 ? closest.hz : centre
  return { hz, db: 10 * Math.log10(total), rippleHz }
}

/** Whether a tone so far beside a line is one of its sidebands of a known ripple. */
export function isSidebandAt(offHz: number, rippleHz: number, resolutionHz: number): boolean {
  const times = Math.round(offHz / rippleHz)
  return times >= 1 && times <= EACH_SIDE && Math.abs(offHz - times * rippleHz) <= toleranceOf(resolutionHz)
}

/** The ripple by which two rows of one spacing lie beside each other, Hz; null where it is none. */
export function rippleBetween(offHz: number, resolutionHz: number): number | null {
  if (toleranceOf(resolutionHz) > TOLD_HZ) return null
  return RIPPLES.find(rippleHz => isSidebandAt(offHz, rippleHz, resolutionHz)) ?? null
}

const toleranceOf = (resolutionHz: number) => Math.max(KEEPS_HZ, RESOLUTIONS * resolutionHz)
