import { describe, expect, it } from 'vitest'
import { readPlan } from '../../../core/plan/faults'
import { judge } from '../../../core/verdict/verdict'
import { against, amps, volts } from '../../../core/units/show'
import { BASIC_PAIRS } from '../../data/basicPairs'
import { FIELD_PAIRS } from '../../data/fieldPairs'
import { PAIRS } from '../../data/pairs'

/** What a finding says where it only just fires: no two figures alike of which one is too much for the other. */

type Path = (string | number)[]
type Json = Record<string | number, unknown>

function* figuresIn(value: unknown, path: Path = []): Generator<[Path, number]> {
  if (typeof value === 'number') yield [path, value]
  else if (value && typeof value === 'object')
    for (const [key, inner] of Object.entries(value)) yield* figuresIn(inner, [...path, key])
}
function withFigure(value: unknown, [key, ...rest]: Path, figure: number): unknown {
  const copy = (Array.isArray(value) ? [...(value as unknown[])] : { ...(value as Json) }) as Json
  copy[key!] = rest.length ? withFigure(copy[key!], rest, figure) : figure
  return copy
}

/** The finding of a check as it stands with one figure of its plan all but where it goes. */
function justFired(check: string, plan: object) {
  const found = (json: unknown) => {
    const read = readPlan(json)
    return read.ok ? judge(read.plan).verdict.findings.find(f => f.check === check) : undefined
  }
  for (const [path, figure] of figuresIn(plan))
    for (const times of [0.5, 2]) {
      if (path[0] === 'version' || figure === 0) continue
      const far = withFigure(plan, path, times * figure)
      if (!readPlan(far).ok || found(far)) continue
      let [fires, rests] = [figure, times * figure]
      for (let i = 0; i < 18; i++) {
        const middle = (fires + rests) / 2
        if (found(withFigure(plan, path, middle))) fires = middle
        else rests = middle
      }
      return found(withFigure(plan, path, fires))!
    }
  return null
}

const FIGURE = /−?\d[\d  ]*(?:\.\d+)? (?:mΩ|A²s|°C|m|V|A|W|%)(?=[ .,;:)])/g
const alike = (text: string) => {
  const figures: string[] = text.match(FIGURE) ?? []
  return figures.filter((f, i) => figures.indexOf(f) !== i)
}
/** What is alike in them is not what they are about, or is told as *about*. */
const SAID = new Set(['members-sum', 'fuse-over-contact', 'connector-heat', 'breaker-over-bms', 'own-pack-uncharged'])

describe('a finding that only just fires', () => {
  const pairs = Object.entries({ ...BASIC_PAIRS, ...PAIRS, ...FIELD_PAIRS })
  it('says so where both figures are told alike', () => {
    const told = pairs.flatMap(([check, { fires }]) => {
      const finding = SAID.has(check) ? null : justFired(check, fires)
      return finding ? [finding] : []
    })
    const atEdge = told.filter(f => alike(f.message).length)
    const unsaid = atEdge.filter(f => !/just (over|under)/i.test(f.message))
    expect(unsaid.map(f => `${f.check}: ${f.message}`)).toEqual([])
    expect(atEdge.length).toBeGreaterThan(20)
    expect(told.filter(f => /^just /.test(f.message) || /^just /.test(f.title))).toEqual([])
  })
})

describe('a figure beside its limit', () => {
  it('is told as it is where they are told apart, or are the same', () => {
    expect(against(volts, 11.42, 11.7)).toBe('11.42 V')
    expect(against(amps, 20, 20)).toBe('20 A')
  })
  it('is told as just over or under it where they are not', () => {
    expect(against(volts, 11.698, 11.7)).toBe('just under 11.70 V')
    expect(against(amps, 20.04, 20)).toBe('just over 20 A')
  })
})
