import { describe, expect, it } from 'vitest'
import { EventCourse } from '../../../core/hours/course'
import { answersTo, heldWords, whatIfs } from '../../../core/hours/whatIf'
import { packFigures, rivalOf, rivalWords, worthOf } from '../../../core/hours/worth'
import { addVariant, editInVariant } from '../../../core/edit/variants'
import { setField } from '../../../core/edit/set'
import { tryPatch } from '../../../core/edit/patch'
import { courseOf, eventOf, packAnd, wide } from '../../data/events'
import { demoPlan, load, radio } from '../../data/plans'

describe('what if', () => {
  const tern = demoPlan('tern-rock-light')
  const event = eventOf(tern, {
    place: { latDeg: 54, lonDeg: -4 },
    activities: [{ part: 'hf', mode: 'digital', powerW: 50, share: 0.2, from: '08:00', to: '22:00' }],
  })
  const answers = answersTo(tern, event, whatIfs(tern, event))
  const of = (id: string) => answers.find(a => a.id === id)!

  it('a larger pack lasts longer, a smaller one less, and less power longer', () => {
    const now = of('as planned').lastsH
    expect(of('pack 2').lastsH).toBeGreaterThanOrEqual(of('pack 1.5').lastsH)
    expect(of('pack 1.5').lastsH).toBeGreaterThan(now)
    expect(of('pack 0.5').lastsH).toBeLessThan(now)
    expect(of('panels 2').lastsH).toBeGreaterThanOrEqual(now)
  })
  it('weighs what it adds', () => {
    expect(of('pack 2').moreG).toBeCloseTo(5800, 0)
    expect(of('panels 2').moreG).toBeCloseTo(8400, 0)
    expect(of('as planned').moreG).toBe(0)
  })
  it('is what a course of that plan gives by itself', () => {
    for (const a of answers) {
      const { ends } = new EventCourse(a.plan ?? tern, a.event ?? event).run()
      expect(a.lastsH).toBe(ends?.atH ?? event.hours)
      expect(a.holds).toBe(ends === null)
    }
  })
  it('held at 13.8 V: no decibels are lost, and energy is', () => {
    const held = of('held')
    expect(held.sag.every(s => s.db > -0.1)).toBe(true)
    expect(held.lossWh).toBeGreaterThan(of('as planned').lossWh)
    expect(heldWords(tern, answers)).toMatch(
      /Holding 13.8 V gives HF radio up to 0\.\d dB more.*Wh more are lost.*Seldom worth it/,
    )
    expect(
      heldWords(
        tern,
        answers.filter(a => a.id !== 'held'),
      ),
    ).toBeNull()
  })
  it('looks at the other ways of the station', () => {
    const { patch, id } = addVariant(tern, 'with 80 Ah', null)
    const whole = tryPatch(tern, patch)!
    const made = editInVariant(whole, id, setField(tern, 'bat', 'capacityAh', 80))
    if (!made.ok) throw new Error('no way')
    const way = whatIfs(tern, event, made.plan).find(w => w.way === id)!
    expect(way.label).toBe('The way “with 80 Ah”')
    expect(answersTo(tern, event, [way])[0]!.lastsH).toBeGreaterThan(of('as planned').lastsH)
  })
  it('offers nothing that the plan has not: no panel, no level', () => {
    const plan = packAnd(radio({ id: 'hf', supply: wide, draw: { model: 'constant-current', idleA: 1, activeA: 5 } }))
    const ids = whatIfs(plan, eventOf(plan)).map(w => w.id)
    expect(ids).not.toContain('panels 2')
    expect(ids.some(i => i.startsWith('power'))).toBe(false)
  })
})

describe('what a pack costs', () => {
  const amp = load({ id: 'x', supply: wide, draw: { model: 'constant-current', idleA: 1, activeA: 1 } })
  const figuresOf = (pack: Record<string, unknown>) => packFigures(courseOf(packAnd(amp, pack)).stores[0]!)

  it('of what it says: 20 Ah of four cells for 180, 2.6 kg', () => {
    const figures = figuresOf({ cost: 180, massG: 2600, cycleLife: 1000, lifeYears: 8, sizeMm: [180, 80, 170] })
    // 20 Ah · 4 · 3.2 V = 256 Wh, four fifths of it 204.8.
    expect(figures).toMatchObject({ wh: 256, usableWh: expect.closeTo(204.8, 6), assumed: [] })
    expect(figures.litres).toBeCloseTo(2.448, 6)
    const worth = worthOf(figures, 200)
    expect(worth.perUsableWh).toBeCloseTo(180 / 204.8, 9)
    expect(worth.usableWhPerKg).toBeCloseTo(204.8 / 2.6, 9)
    // A thousand cycles at two hundred a year: five years.
    expect(worth).toMatchObject({ lifeYears: 5, wornBy: 'cycles', perYear: 36 })
    expect(worth.perKWhOfLife).toBeCloseTo(180 / 204.8, 6)
    // Ten a year: it grows old first.
    expect(worthOf(figures, 10)).toMatchObject({ lifeYears: 8, wornBy: 'age', perYear: 22.5 })
  })
  it('names what it takes from its class', () => {
    expect(figuresOf({ massG: undefined }).assumed).toEqual(['mass', 'size', 'cost', 'cycles', 'years'])
  })
  it("against another maker's of half the life: dearer at two thirds of the price, cheaper at a third", () => {
    const own = figuresOf({ cost: 180, cycleLife: 1000, lifeYears: 8 })
    const says = (cost: number) => {
      const other = rivalOf(own, { cost, holdsShare: 1, lifeShare: 0.5 })
      return rivalWords(worthOf(own, 200), worthOf(other, 200))
    }
    expect(says(120)).toMatch(/33 % more/)
    expect(says(60)).toMatch(/33 % less/)
    expect(says(90)).toMatch(/about the same/)
  })
  it('of a bank: its cells printed, and what of them comes out', () => {
    const bank = { id: 'b', kind: 'usbSource', voltages: [{ volts: 5, amps: 3 }], energyWh: 100, terminal: 'usb-c' }
    const plan = packAnd(amp)
    const [, store] = courseOf({ ...plan, parts: [...plan.parts, bank] } as typeof plan).stores
    expect(packFigures(store!)).toMatchObject({ wh: 100, usableWh: 88 })
  })
})
