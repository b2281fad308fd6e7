import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { believeSymptom } from '../../../core/symptoms/believe'
import { readSymptomText } from '../../../core/symptoms/readCase'
import { SYMPTOM_IDS } from '../../../core/symptoms/symptom'
import { POWER_TESTS } from '../../../core/symptoms/tests'
import type { Plan } from '../../../core/plan/schema'
import { randomFrom } from '../../../core/chance/random'
import { causesOf } from '../../../core/symptoms/causes'
import { rowOf } from '../../../core/symptoms/rows'
import { setField } from '../../../core/edit/set'
import { tryPatch } from '../../../core/edit/patch'
import { demoPlan } from '../../data/plans'

const tern = demoPlan('tern-rock-light')
const clean = demoPlan('clean-bench')
const moor = demoPlan('moor-walk-kit')
const top = (plan: Plan, about: Parameters<typeof believeSymptom>[1]) => believeSymptom(plan, about).causes[0]!

describe('a symptom, weighed by the plan’s own numbers', () => {
  it('cuts out on transmit: the radio that starves by the plan', () => {
    expect(top(tern, { symptom: 'cuts-out-on-transmit' })).toMatchObject({ of: 'sag', place: 'hf' })
    expect(top(tern, { symptom: 'cuts-out-on-transmit' }).why).toMatch(
      /11\.\d\d V reaches HF radio at worst .*needs 11.7 V/,
    )
  })
  it('on a bench with a volt to spare it is no sag', () => {
    const { causes } = believeSymptom(clean, { symptom: 'cuts-out-on-transmit' })
    const sag = causes.filter(c => c.of === 'sag').reduce((sum, c) => sum + c.probability, 0)
    expect(sag).toBeLessThan(0.3)
  })
  it('both died: what both share, and not what one has alone', () => {
    const { causes } = believeSymptom(tern, { symptom: 'both-died' })
    const shared = causes.filter(c => c.of === 'shared')
    expect(shared.length).toBeGreaterThan(2)
    expect(shared.every(c => /^(l1|blk\.feed)/.test(c.place))).toBe(true)
    const alone = causes.filter(c => c.of === 'joint').reduce((sum, c) => sum + c.probability, 0)
    expect(alone).toBeLessThan(0.1)
  })
  it('9 V in place of 12: the bank that has no 12 V', () => {
    const bank = moor.parts.find(p => p.kind === 'usbSource')!
    const without = tryPatch(
      moor,
      setField(moor, bank.id, 'voltages', [
        { volts: 5, amps: 3 },
        { volts: 9, amps: 3 },
      ]),
    )!
    expect(top(without, { symptom: 'low-voltage-port' }).of).toBe('no-12')
  })
  it('flat overnight: what takes most of the pack in a night comes first', () => {
    const left = believeSymptom(tern, { symptom: 'flat-overnight' }).causes.filter(c => c.of === 'left-on')
    expect(left.map(c => c.place)).toEqual(['log', 'hf', 'lamps', 'vhf'])
    expect(left[1]!.why).toMatch(/1.20 A for 10 hours/)
  })
  it('a fuse under its current is what blows', () => {
    const port = tern.parts.find(p => p.id === 'blk') as { ports: { id: string; fuse: object }[] }
    const ports = port.ports.map(p => (p.id === 'p1' ? { ...p, fuse: { type: 'blade', ratedA: 15 } } : p))
    const small = tryPatch(tern, setField(tern, 'blk', 'ports', ports))!
    expect(top(small, { symptom: 'fuse-blew' })).toMatchObject({ of: 'small-fuse', place: 'blk.p1' })
  })
  it('will not charge: a controller set to another chemistry', () => {
    const wrong = tryPatch(tern, setField(tern, 'ctl', 'set', 'agm'))!
    const set = (plan: Plan) =>
      believeSymptom(plan, { symptom: 'will-not-charge' }).causes.find(c => c.of === 'wrong-set')!.probability
    expect(set(wrong)).toBeGreaterThan(3 * set(tern))
  })
})

describe('what was found moves it', () => {
  it('steady volts at the battery and too few at the radio: it is between them', () => {
    const { causes } = believeSymptom(clean, {
      symptom: 'cuts-out-on-transmit',
      findings: [
        { test: 'volts-at-battery-keyed', outcome: 'holds' },
        { test: 'volts-at-radio-keyed', outcome: 'low' },
        { test: 'feel-joints', outcome: 'warm' },
        { test: 'direct-lead', outcome: 'gone' },
      ],
    })
    const joints = causes.filter(c => c.of === 'joint' || c.of === 'shared').reduce((sum, c) => sum + c.probability, 0)
    expect(joints).toBeGreaterThan(0.8)
  })
  it('by hand: odds times likelihoods, made whole, with every two of them at once', () => {
    const about = { symptom: 'not-heard' as const }
    const causes = causesOf(clean, about)
    const test = POWER_TESTS.find(t => t.id === 'dummy-load')!
    const odds = causes.reduce((sum, c) => sum + c.odds, 0)
    const share = causes.map(c => c.odds / odds)
    const gone = causes.map(c => rowOf(test, c.of)[1]!)
    const slips = (p: number) => 0.97 * p + 0.015
    // Of two both must be gone; they are 8 % of all cases.
    const pairs = causes.flatMap((c, i) =>
      causes.slice(i + 1).flatMap((d, n) => {
        const j = i + 1 + n
        return c.of === 'other' || d.of === 'other' ? [] : [{ i, j, p: share[i]! * share[j]! }]
      }),
    )
    const all = pairs.reduce((sum, x) => sum + x.p, 0)
    const alone = share.map((p, i) => 0.92 * p * slips(gone[i]!))
    const both = pairs.map(x => ({ ...x, p: ((0.08 * x.p) / all) * slips(gone[x.i]! * gone[x.j]!) }))
    const total = alone.reduce((a, b) => a + b, 0) + both.reduce((sum, x) => sum + x.p, 0)
    const found = believeSymptom(clean, { ...about, findings: [{ test: 'dummy-load', outcome: 'gone' }] })
    causes.forEach((c, i) => {
      const its = alone[i]! + both.reduce((sum, x) => sum + (x.i === i || x.j === i ? x.p : 0), 0)
      expect(found.causes.find(x => x.id === c.id)!.probability).toBeCloseTo(its / total, 9)
    })
    expect(found.causes[0]!.of).toBe('antenna')
  })
  it('a finding that nothing explains is doubted', () => {
    const { doubts } = believeSymptom(clean, {
      symptom: 'bank-sleeps',
      findings: [
        { test: 'other-battery', outcome: 'gone' },
        { test: 'fuse-whole', outcome: 'blown' },
      ],
    })
    expect(doubts).toContain(1)
  })
  it('no test is offered twice, and the next ones lessen what is open', () => {
    fc.assert(
      fc.property(fc.constantFrom(...SYMPTOM_IDS), fc.integer({ min: 0, max: 3 }), (symptom, n) => {
        const findings: { test: string; outcome: string }[] = []
        for (let i = 0; i < n; i++) {
          const [next] = believeSymptom(tern, { symptom, findings }).next
          if (!next) break
          expect(findings.map(f => f.test)).not.toContain(next.test.id)
          expect(next.bits).toBeGreaterThan(0)
          const sum = next.outcomes.reduce((s, o) => s + o.probability, 0)
          expect(sum).toBeCloseTo(1, 9)
          findings.push({ test: next.test.id, outcome: next.outcomes[0]!.id })
        }
        const { causes } = believeSymptom(tern, { symptom, findings })
        // One of them is there, or two.
        const sum = causes.reduce((s, c) => s + c.probability, 0)
        expect(sum).toBeGreaterThanOrEqual(1 - 1e-9)
        expect(sum).toBeLessThan(2)
      }),
      { numRuns: 12 },
    )
  })
  it('is right as often as it says, on cases drawn from its own tables', () => {
    const random = randomFrom(11)
    const bins = [0, 0, 0, 0].map(() => ({ said: 0, right: 0 }))
    for (let n = 0; n < 160; n++) {
      const symptom = SYMPTOM_IDS[n % SYMPTOM_IDS.length]!
      const causes = believeSymptom(tern, { symptom }).causes
      let left = random.uniform()
      const truth = causes.find(c => (left -= c.probability) < 0) ?? causes[0]!
      const findings = Array.from({ length: 3 }, () => POWER_TESTS[Math.floor(random.uniform() * POWER_TESTS.length)]!)
        .filter((t, i, all) => all.indexOf(t) === i)
        .map(test => {
          let u = random.uniform()
          const outcome = test.outcomes.find((_, i) => (u -= rowOf(test, truth.of)[i]!) < 0) ?? test.outcomes[0]!
          return { test: test.id, outcome: outcome.id }
        })
      const [best] = believeSymptom(tern, { symptom, findings }).causes
      const bin = bins[Math.min(3, Math.floor(best!.probability * 4))]!
      bin.said++
      if (best!.id === truth.id) bin.right++
    }
    for (const [i, { said, right }] of bins.entries()) {
      const error = 2.5 * Math.sqrt(0.25 / Math.max(1, said))
      expect(Math.abs(right / Math.max(1, said) - (i + 0.5) / 4)).toBeLessThan(said ? 0.125 + error : 1)
    }
  })
})

describe('the tables', () => {
  it('are whole: each row is as long as its outcomes and adds up to 1', () => {
    for (const test of POWER_TESTS)
      for (const row of [test.usual, ...Object.values(test.shows)]) {
        expect(row, test.id).toHaveLength(test.outcomes.length)
        expect(
          row.reduce((a, b) => a + b, 0),
          test.id,
        ).toBeCloseTo(1, 9)
        expect(Math.min(...row), test.id).toBeGreaterThan(0)
      }
  })
})

describe('a symptom from a file', () => {
  const base = { format: 'wireman-symptom', version: 1, symptom: 'both-died' }
  it('is read', () => {
    const text = JSON.stringify({ ...base, at: 'hf', findings: [{ test: 'fuse-whole', outcome: 'whole' }] })
    expect(readSymptomText(text, tern)).toMatchObject({ ok: true, case: { at: 'hf', symptom: 'both-died' } })
  })
  it.each([
    ['{', /not JSON/],
    [JSON.stringify({ ...base, format: 'x' }), /format/],
    [JSON.stringify({ ...base, symptom: 'gremlins' }), /symptom/],
    [JSON.stringify({ ...base, at: 'nobody' }), /no load nobody.*one of hf/],
    [
      JSON.stringify({ ...base, findings: [{ test: 'smell', outcome: 'burnt' }] }),
      /smell is not known.*one of volts-at-radio/,
    ],
    [JSON.stringify({ ...base, findings: [{ test: 'fuse-whole', outcome: 'maybe' }] }), /maybe is not known.*whole/],
    [JSON.stringify({ ...base, extra: 1 }), /extra/],
  ])('%s is refused in words', (text, words) => {
    const read = readSymptomText(text, tern)
    if (read.ok) throw new Error('it was read')
    expect(read.faults.map(f => `${f.path} ${f.wrong}; ${f.right}`).join()).toMatch(words)
  })
})
