import { describe, expect, it } from 'vitest'
import { fuzz, notFinite } from '../../fuzz/fuzz'
import { TARGETS } from '../../fuzz/targets'
import { readLine } from '../../../core/instruments/protocol'
import { readQuantity } from '../../../core/units/quantity'
import { surveyFromCsv } from '../../../core/formats/surveyCsv'

/** `./run fuzz --minutes N` reads on for longer, from other seeds. */
const INPUTS = 16_000

describe('broken files', () => {
  const { taken, wrong } = fuzz(1, inputs => inputs < INPUTS)
  it('never throw, take long, give what is no figure, or are refused without a word', () => {
    expect(wrong).toEqual([])
  })
  it.each(TARGETS.map(t => t.name))('%s: some are taken all the same, so that what comes after is tried', name => {
    expect(taken[name]!.taken).toBeGreaterThan(0)
  })
})

describe('what was found so', () => {
  it('a word that every object knows is no line of an instrument', () => {
    expect(readLine('constructor 1 2')).toMatchObject({ ok: false })
    expect(readLine('toString')).toMatchObject({ ok: false })
  })
  it('a number beyond all numbers is refused', () => {
    expect(readQuantity('1e308 kV', 'voltage').ok).toBe(false)
  })
  it('a survey of blanks is refused in words', () => {
    expect(surveyFromCsv(',\n,', 's', 'S')).toMatchObject({ ok: false })
    expect(surveyFromCsv('\u0000', 's', 'S')).toMatchObject({ ok: false })
    expect(surveyFromCsv(';', 's', 'S')).toMatchObject({ ok: false })
  })
})

describe('figures of an answer', () => {
  it('that are none are found where they are', () => {
    expect(notFinite({ a: [1, { b: NaN }] })).toBe('/a/1/b is NaN')
    expect(notFinite({ a: [1, 'x', null] })).toBeNull()
  })
})
