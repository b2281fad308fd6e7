import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { usableReadings } from '../../../core/log/usable'
import { demoPlan } from '../../data/plans'
import { mergedLogs } from '../../../core/log/merge'
import { EMPTY_LOG, logSchema, readingsOf, readLogText, type Log } from '../../../core/log/log'

const time = '2026-06-13T09:00:00'
const reading = (id: string, volts = 13) => ({ id, time, at: 'bat', condition: 'full/idle', volts })
const withReadings = (...readings: Log['readings']): Log => ({ ...EMPTY_LOG, readings })

describe('a log', () => {
  it('comes back as it was written', () => {
    const log = withReadings(reading('a'), reading('b'))
    expect(readLogText(JSON.stringify(log))).toEqual({ ok: true, log })
  })
  it.each([
    ['{', '', /not JSON/],
    [JSON.stringify({ ...EMPTY_LOG, version: 2 }), '/version', /newer/],
    [JSON.stringify({ ...EMPTY_LOG, readings: [{ ...reading('a'), volt: 3 }] }), '/readings/0', /volt/],
    [JSON.stringify({ ...EMPTY_LOG, readings: [{ ...reading('a'), time: 'yesterday' }] }), '/readings/0/time', /./],
    [JSON.stringify({ ...EMPTY_LOG, seen: [{ id: 'a', time, place: 'l1.to', saw: 'odd' }] }), '/seen/0/saw', /./],
  ])('%s is refused with its place', (text, path, wrong) => {
    const read = readLogText(text)
    expect(read.ok).toBe(false)
    if (!read.ok) {
      expect(read.faults[0]!.path).toContain(path)
      expect(`${read.faults[0]!.wrong} ${read.faults[0]!.path}`).toMatch(wrong)
    }
  })
  it('takes off what an instrument shows too much, and leaves rested packs out', () => {
    const log: Log = {
      ...withReadings(
        { ...reading('a', 13.05), with: 'm' },
        reading('b', 13.05),
        { ...reading('c'), condition: 'rested' },
        { id: 'd', time, at: 'l2', condition: 'full/all', amps: 20.3 },
      ),
      instruments: [{ id: 'm', name: 'bench meter', offsetV: 0.05, resolutionV: 0.1 }],
    }
    const read = readingsOf(log)
    expect(read.map(r => [r.volts?.toFixed(2) ?? r.amps, r.digit])).toEqual([
      ['13.00', 0.1],
      ['13.05', 0.01],
      [20.3, 0.1],
    ])
  })
})

describe('two windows of one log', () => {
  const base = withReadings(reading('a'), reading('b'), reading('c'))
  it('keep what either added, what either changed, and leave out what either took out', () => {
    const mine = withReadings(reading('a', 12), reading('b'), reading('mine'))
    const theirs = withReadings(reading('a'), reading('c'), reading('theirs'))
    // c is taken out here, b there.
    expect(mergedLogs(mine, theirs, base).readings.map(r => [r.id, r.volts])).toEqual([
      ['a', 12],
      ['mine', 13],
      ['theirs', 13],
    ])
  })
  it('one changed there alone is theirs; one changed here and taken out there stays', () => {
    const theirs = withReadings(reading('a', 11), reading('c'))
    expect(mergedLogs(withReadings(reading('a'), reading('b', 9), reading('c')), theirs, base).readings).toEqual([
      reading('a', 11),
      reading('b', 9),
      reading('c'),
    ])
  })
  it('hold each entry once, whichever is merged into whichever', () => {
    const some = fc
      .uniqueArray(fc.constantFrom('a', 'b', 'c', 'd', 'e'))
      .chain(ids => fc.tuple(...ids.map(id => fc.integer({ min: 1, max: 3 }).map(v => reading(id, v)))))
      .map(list => withReadings(...(list as Log['readings'])))
    fc.assert(
      fc.property(some, some, some, (x, y, from) => {
        const [a, b] = [mergedLogs(x, y, from), mergedLogs(y, x, from)]
        const ids = (log: Log) => log.readings.map(r => r.id).sort()
        expect(new Set(ids(a)).size).toBe(a.readings.length)
        expect(ids(a)).toEqual(ids(b))
        // Nothing new of either is lost.
        for (const r of [...x.readings, ...y.readings])
          if (!from.readings.some(f => f.id === r.id)) expect(ids(a)).toContain(r.id)
      }),
    )
  })
})

describe('readings of a plan that has changed since', () => {
  it('are used where it still has their place and state, else kept and told', () => {
    const plan = demoPlan('tern-rock-light')
    const log = withReadings(
      reading('a'),
      { ...reading('b'), at: 'gone' },
      { ...reading('c'), condition: 'full/only:gone' },
      { ...reading('d'), at: 'l2.to' },
      { id: 'e', time, at: 'l2', condition: 'full/all', amps: 20 },
      { id: 'f', time, at: 'l99', condition: 'full/all', amps: 20 },
      { ...reading('g'), condition: 'rested' },
    )
    const { readings, aside } = usableReadings(plan, log)
    expect(readings.map(r => r.id)).toEqual(['a', 'd', 'e'])
    expect(aside.map(a => [a.entry.id, a.wrong])).toEqual([
      ['b', 'the plan has no gone'],
      ['c', 'the plan has no state full/only:gone'],
      ['f', 'the plan has no l99'],
    ])
  })
})

describe('the last figure that an instrument shows', () => {
  const reads = (digit: number) =>
    logSchema.safeParse({
      ...EMPTY_LOG,
      readings: [{ id: 'r', time: '2026-10-10T09:00', at: 'hf', condition: 'full/idle', volts: 13, digit }],
    }).success
  it('is above nothing, and a hundred at most', () =>
    expect([0, -0.01, 1e-6, 0.01, 100, 100.1].map(reads)).toEqual([false, false, true, true, true, false]))
})
