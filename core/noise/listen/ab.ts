import { studentTail } from './student'

/** A stretch of listening in one state: the mean power of each segment of the band. */
export interface AbBlock {
  isOn: boolean
  powers: Float64Array
}

/** What switching made of one segment. */
export interface AbDifference {
  onDb: number
  offDb: number
  /** On against off. */
  differenceDb: number
  /** Standard uncertainty of that, dB. */
  errorDb: number
  /** How likely as much would come by chance alone, with nothing switched. */
  chance: number
}

export interface AbResult {
  on: number
  off: number
  /** Of the whole band, and of each segment. */
  whole: AbDifference
  segments: AbDifference[]
  /** More than chance makes of all segments together. */
  isMore: boolean
}

/** Blocks of one state differ by about so much anyhow, dB: a band breathes. It counts as so many blocks more. */
const BREATHES = { db: 1, blocks: 4 } as const
/** Said to be more than chance where it would come by chance no oftener than this. */
const BY_CHANCE = 0.01

const decibels = (power: number) => 10 * Math.log10(power + 1e-20)

/** On against off, alternated: null until there is one of each. */
export function abResult(blocks: readonly AbBlock[]): AbResult | null {
  const on = blocks.filter(b => b.isOn)
  const off = blocks.filter(b => !b.isOn)
  if (!on.length || !off.length) return null
  const segments = Array.from({ length: on[0]!.powers.length }, (_, s) =>
    difference(
      on.map(b => decibels(b.powers[s]!)),
      off.map(b => decibels(b.powers[s]!)),
    ),
  )
  const sum = (b: AbBlock) => decibels(b.powers.reduce((s, p) => s + p, 0))
  const whole = difference(on.map(sum), off.map(sum))
  return { on: on.length, off: off.length, whole, segments, isMore: beyondChance({ whole, segments }).length > 0 }
}

/** Differences that chance hardly makes. Of many segments one stands out by chance: each counts as many times. */
const beyondChance = ({ whole, segments }: Pick<AbResult, 'whole' | 'segments'>): AbDifference[] => [
  ...(whole.chance < BY_CHANCE ? [whole] : []),
  ...segments.filter(s => s.chance * segments.length < BY_CHANCE),
]

/** Two means, and Student's test of their difference, with what a band breathes anyhow. */
function difference(on: readonly number[], off: readonly number[]): AbDifference {
  const mean = (list: readonly number[]) => list.reduce((s, v) => s + v, 0) / list.length
  const [onDb, offDb] = [mean(on), mean(off)]
  const squares = [...on.map(v => (v - onDb) ** 2), ...off.map(v => (v - offDb) ** 2)].reduce((s, v) => s + v, 0)
  const freedom = on.length + off.length - 2 + BREATHES.blocks
  const deviation = Math.sqrt((squares + BREATHES.blocks * BREATHES.db ** 2) / freedom)
  const errorDb = deviation * Math.sqrt(1 / on.length + 1 / off.length)
  const differenceDb = onDb - offDb
  return { onDb, offDb, differenceDb, errorDb, chance: 2 * studentTail(Math.abs(differenceDb) / errorDb, freedom) }
}

/**
 * What an operator would say of it with the device off, against on: between the two it is asked for. What is louder
 * with the device off is no finding about it.
 */
export function heardOf({ whole, segments, isMore }: AbResult): 'same' | 'weaker' | 'not-sure' {
  if (isMore) return beyondChance({ whole, segments }).every(d => d.differenceDb > 0) ? 'weaker' : 'not-sure'
  const most = Math.max(whole.differenceDb, ...segments.map(s => s.differenceDb))
  return whole.errorDb < 1 && most < 4 ? 'same' : 'not-sure'
}
