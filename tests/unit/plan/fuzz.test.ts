import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readPlan, readPlanText } from '../../../core/plan/faults'
import { buildSheet } from '../../../core/sheets/build'
import { fixesOf } from '../../../core/verdict/fixes'
import { judge } from '../../../core/verdict/verdict'
import { demoPlan } from '../../data/plans'

type Json = null | boolean | number | string | Json[] | { [key: string]: Json }

/** Every place of a value, as paths. */
function paths(value: Json, at: (string | number)[] = []): (string | number)[][] {
  if (typeof value !== 'object' || value === null) return [at]
  return [
    at,
    ...Object.entries(value).flatMap(([key, inner]) => paths(inner, [...at, Array.isArray(value) ? Number(key) : key])),
  ]
}

function mutate(value: Json, path: (string | number)[], change: 'remove' | 'replace' | 'repeat', to: Json): Json {
  if (!path.length) return change === 'replace' ? to : value
  const [key, ...rest] = path
  const copy = structuredClone(value) as Record<string | number, Json>
  if (rest.length) copy[key!] = mutate(copy[key!]!, rest, change, to)
  else if (change === 'remove') {
    if (Array.isArray(copy)) copy.splice(Number(key), 1)
    else delete copy[key!]
  } else if (change === 'repeat' && Array.isArray(copy)) copy.push(structuredClone(copy[Number(key)]!))
  else copy[key!] = to
  return copy as Json
}

const start = demoPlan('tern-rock-evening') as unknown as Json
const places = paths(start)
const odd = fc.oneof<fc.Arbitrary<Json>[]>(
  fc.constantFrom<Json>(
    null,
    true,
    '',
    'x',
    'hf',
    'bat',
    'blk.p1',
    'nowhere.q',
    -1,
    0,
    1e-9,
    1e9,
    3,
    [],
    {},
    [null],
    { id: 'x' },
    '1/0',
    'constant-power',
    'block',
  ),
  fc.double({ noNaN: true, min: 0, max: 100 }),
  fc.string({ maxLength: 6 }),
)
const aMutation = fc.record({
  at: fc.nat(places.length - 1),
  change: fc.constantFrom('remove' as const, 'replace' as const, 'repeat' as const),
  to: odd,
})

function numbersOf(value: unknown): number[] {
  if (typeof value === 'number') return [value]
  return typeof value === 'object' && value !== null ? Object.values(value).flatMap(numbersOf) : []
}

describe('hostile plans', () => {
  it('are refused with faults, or judged without a crash and without a number that is none', () => {
    let judged = 0
    fc.assert(
      fc.property(fc.array(aMutation, { minLength: 1, maxLength: 3 }), mutations => {
        let value = start
        for (const { at, change, to } of mutations) {
          try {
            value = mutate(value, places[at]!, change, to)
          } catch {
            /* an earlier mutation took the place away */
          }
        }
        const read = readPlan(value)
        if (!read.ok) {
          expect(read.faults.length).toBeGreaterThan(0)
          for (const fault of read.faults) expect(fault.wrong && fault.right).toBeTruthy()
          return
        }
        judged++
        const { verdict, study } = judge(read.plan)
        for (const finding of verdict.findings) {
          expect(finding.message).not.toMatch(/NaN|undefined|Infinity/)
          for (const n of numbersOf(finding.numbers)) expect(Number.isFinite(n)).toBe(true)
        }
        const [first] = verdict.findings
        if (first) fixesOf(first, study, verdict)
        expect(JSON.stringify(buildSheet(read.plan))).not.toMatch(/NaN|undefined|Infinity/)
      }),
      { numRuns: 400 },
    )
    expect(judged).toBeGreaterThan(20)
  })

  it('any text at all is answered', () => {
    fc.assert(
      fc.property(fc.oneof(fc.string(), fc.json()), text => {
        const read = readPlanText(text)
        expect(read.ok || read.faults.length > 0).toBe(true)
      }),
    )
  })

  it('a file cut anywhere is refused, never half read', () => {
    const text = JSON.stringify(start)
    fc.assert(
      fc.property(fc.nat(text.length - 2), length => {
        expect(readPlanText(text.slice(0, length)).ok).toBe(false)
      }),
    )
  })
})
