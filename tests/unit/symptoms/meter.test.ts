import { describe, expect, it } from 'vitest'
import { readReadingsCsv } from '../../../core/formats/readingsCsv'
import { expectedNow } from '../../../core/readings/joints'
import { daysOf, standingOf } from '../../../core/readings/trend'
import { believeSymptom } from '../../../core/symptoms/believe'
import { heldAgainst } from '../../../core/symptoms/meter'
import { readSymptomText } from '../../../core/symptoms/readCase'
import { rowOf, rowOfBoth } from '../../../core/symptoms/rows'
import { CAUSES, type CauseClass } from '../../../core/symptoms/symptom'
import { POWER_TESTS, powerTest } from '../../../core/symptoms/tests'
import { demoPlan } from '../../data/plans'
import { hiddenCause } from '../../data/symptomCases'

const tern = demoPlan('tern-rock-light')
const moor = demoPlan('moor-walk-kit')
const clean = demoPlan('clean-bench')

describe('what a meter showed', () => {
  it.each([
    // The HF radio needs 11.7 V; 0.05 V is what a meter may be off.
    ['volts-at-radio-keyed', { read: 11.2 }, 'low'],
    ['volts-at-radio-keyed', { read: 11.74 }, 'low'],
    ['volts-at-radio-keyed', { read: 11.9 }, 'holds'],
    ['volts-at-radio-keyed', { read: 0.4 }, 'nothing'],
    ['volts-at-radio-keyed', { read: -11.9 }, 'nothing'],
    ['volts-at-battery-keyed', { before: 13.2, read: 12.8 }, 'holds'],
    ['volts-at-battery-keyed', { before: 13.2, read: 12.6 }, 'low'],
    ['volts-at-battery-keyed', { before: 13.2, read: 0.2 }, 'nothing'],
    ['volts-at-battery-keyed', { read: 12.6 }, undefined],
    // Four cells of lithium iron phosphate: 3.33 V at 80 %, 3.23 V at 20 %, 3.28 V at 40 %.
    ['rested-volts', { read: 13.33 }, 'full'],
    ['rested-volts', { read: 13.12 }, 'half'],
    ['rested-volts', { read: 12.9 }, 'empty'],
    ['rested-volts', { read: 0 }, 'nothing'],
    ['drain-all-off', { read: 0.02 }, 'none'],
    ['drain-all-off', { read: -0.4 }, 'some'],
    ['changeover-battery-in', { read: 11.6 }, 'dips'],
    ['changeover-battery-in', { read: 12.9 }, 'steady'],
    ['power-meter', { read: 95 }, 'full'],
    ['power-meter', { read: 55 }, 'down'],
    ['power-meter', { read: 1 }, 'none'],
    ['feel-joints', { read: 40 }, undefined],
  ])('in %s, %o, is %s', (test, shown, outcome) => {
    expect(heldAgainst(tern, test, shown, 'hf')?.outcome).toBe(outcome)
  })
  it.each([
    [11.9, 'asked'],
    [9.1, 'lower'],
    [5.1, 'lower'],
    [10.2, 'sags'],
  ])('at a port that is asked for 12 V, %d V, is %s', (read, outcome) => {
    expect(heldAgainst(moor, 'volts-at-port', { read }, 'log')?.outcome).toBe(outcome)
  })
  it('of a supply at rest says nothing of a charge', () => {
    expect(heldAgainst(clean, 'rested-volts', { read: 13.8 })).toBeNull()
    const { taken } = believeSymptom(clean, {
      symptom: 'weak-late',
      findings: [{ test: 'rested-volts', read: 13.8 }],
    })
    expect(taken[0]).toEqual({ outcome: null, against: 'the plan has nothing to hold this figure against' })
  })
  it('counts as its outcome does', () => {
    const of = (finding: object) =>
      believeSymptom(tern, { symptom: 'cuts-out-on-transmit', at: 'hf', findings: [finding as never] })
    const said = of({ test: 'volts-at-radio-keyed', outcome: 'low' })
    const read = of({ test: 'volts-at-radio-keyed', read: 11.2 })
    expect(read.causes).toEqual(said.causes)
    expect(read.taken[0]!.against).toBe('HF radio needs 11.70 V')
  })
  it.each([
    [{ test: 'feel-joints', read: 40 }, /feel-joints is not told by a figure.*warm.*cold/],
    [{ test: 'volts-at-battery-keyed', read: 12 }, /asks how far it falls; the volts before/],
    [{ test: 'volts-at-radio-keyed', read: 12, outcome: 'low' }, /both an outcome and a figure/],
    [{ test: 'volts-at-radio-keyed' }, /has no outcome/],
  ])('in a file, %o, is refused in words', (finding, words) => {
    const value = { format: 'wireman-symptom', version: 1, symptom: 'both-died', findings: [finding] }
    const read = readSymptomText(JSON.stringify(value), tern)
    if (read.ok) throw new Error('it was read')
    expect(read.faults.map(f => `${f.path} ${f.wrong}; ${f.right}`).join()).toMatch(words)
  })
})

describe('two causes at once', () => {
  const classes = Object.keys(CAUSES) as CauseClass[]
  it('show what either shows, and no less; rows stay whole', () => {
    for (const test of POWER_TESTS)
      for (const a of classes)
        for (const b of classes) {
          const row = rowOfBoth(test, a, b)
          const quiet = (r: readonly number[]) => test.quiet.reduce((sum, at) => sum + r[at]!, 0)
          expect(row.reduce((s, p) => s + p, 0)).toBeCloseTo(1, 9)
          expect(Math.min(...row)).toBeGreaterThan(0)
          expect(quiet(row)).toBeLessThanOrEqual(Math.min(quiet(rowOf(test, a)), quiet(rowOf(test, b))) + 1e-9)
          rowOfBoth(test, b, a).forEach((p, at) => expect(p).toBeCloseTo(row[at]!, 12))
        }
  })
  it('that take the symptom away only together', () => {
    const [, gone] = rowOfBoth(powerTest('dummy-load')!, 'rf', 'antenna')
    expect(gone).toBeCloseTo(0.9 * 0.88, 9)
  })
  it('are told where findings speak for both', () => {
    const finding = (test: string, outcome: string) => ({ test, outcome })
    const about = { symptom: 'flat-overnight' } as const
    const drained = [finding('drain-all-off', 'some')]
    expect(believeSymptom(tern, { ...about, findings: drained }).together).toEqual([])
    const findings = [...drained, finding('charger-shows', 'other'), finding('charge-amps', 'little')]
    const { together, causes } = believeSymptom(tern, { ...about, findings })
    expect(together[0]!.ids.map(id => id.split(' ')[0]).sort()).toEqual(['left-on', 'wrong-set'])
    const each = causes.filter(c => together[0]!.ids.includes(c.id)).map(c => c.probability)
    expect(each.every(p => p > 0.1)).toBe(true)
  })
})

describe('past readings', () => {
  const csv = 'at,condition,volts,amps\n'
  const jointsOf = (rows: string) => {
    const read = readReadingsCsv(csv + rows, tern, {})
    if (!read.ok) throw new Error(read.wrong)
    return standingOf(daysOf(tern, read.readings, read.seen)).map(s => s.state)
  }
  it('that show a joint make it the likelier cause, and its figure is told', () => {
    // 0.9 V lost between the block's port and the radio's own inlet side, at 21 A.
    const joints = jointsOf(
      'blk.p1,full/only:hf,12.60,\nhf,full/only:hf,11.20,\nl2.to,full/only:hf,12.05,\n' +
        'blk.p1,full/idle,13.40,\nhf,full/idle,13.33,\n',
    )
    const about = { symptom: 'cuts-out-on-transmit', at: 'hf' } as const
    const joint = (more: object) =>
      believeSymptom(tern, { ...about, ...more }).causes.find(c => c.place === 'l2.to' && c.of === 'joint')!
    expect(joint({ joints }).probability).toBeGreaterThan(3 * joint({}).probability)
    expect(joint({ joints }).why).toMatch(/was read to have \d+\.\d ± /)
  })
  it('that show good joints make the joints less likely', () => {
    // As the plan has them, to the hundredth of a volt.
    const at = ['bat', 'blk.feed', 'blk.p1', 'l2.from', 'l2.to', 'hf']
    const asked = ['full/idle', 'full/only:hf'].flatMap(condition => at.map(a => ({ at: a, condition, digit: 0.01 })))
    const good = jointsOf(
      expectedNow(tern, [], asked)
        .map(({ expected }, i) => `${asked[i]!.at},${asked[i]!.condition},${expected.toFixed(2)},\n`)
        .join(''),
    )
    const share = (joints: typeof good) =>
      believeSymptom(tern, { symptom: 'cuts-out-on-transmit', at: 'hf', joints })
        .causes.filter(c => c.place === 'l2.to')
        .reduce((sum, c) => sum + c.probability, 0)
    expect(good.find(j => j.joint.place === 'l2.to')!.suspect).toBe(false)
    expect(share(good)).toBeLessThan(share([]))
  })
})

describe('stations that cut out, each test’s outcome by their circuit', () => {
  it('are told rightly where it is sure', () => {
    const plans = [clean, tern, moor]
    let [sure, right, seen] = [0, 0, 0]
    for (let seed = 1; seen < 30 && seed < 2000; seed++) {
      const plan = plans[seed % 3]!
      const hidden = hiddenCause(plan, seed)
      if (!hidden) continue
      seen++
      const findings: NonNullable<Parameters<typeof believeSymptom>[1]['findings']>[number][] = []
      const about = { symptom: 'cuts-out-on-transmit', at: hidden.at } as const
      for (let n = 0; n < 4; n++) {
        const { next } = believeSymptom(plan, { ...about, findings })
        const finding = next.map(t => hidden.outcome(t.test.id)).find(f => f !== null)
        if (finding) findings.push(finding)
      }
      const [best] = believeSymptom(plan, { ...about, findings }).causes
      const group = (of: string) =>
        [
          ['joint', 'shared'],
          ['empty', 'sag', 'aged'],
          ['rf', 'antenna'],
        ].findIndex(g => g.includes(of))
      if (best!.probability < 0.7) continue
      sure++
      if (best!.of === hidden.of || (group(best!.of) >= 0 && group(best!.of) === group(hidden.of))) right++
    }
    expect(seen).toBe(30)
    expect(sure).toBeGreaterThan(5)
    expect(right / sure).toBeGreaterThan(0.85)
  })
})
