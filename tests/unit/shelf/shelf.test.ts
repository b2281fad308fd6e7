import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import shelfItems from '../../../demo/shelf.json'
import { CONNECTOR_IDS } from '../../../core/catalog/connectors'
import { mate } from '../../../core/connector/mate'
import { applyEdit } from '../../../core/edit/patch'
import { shelfFromCsv, shelfToCsv } from '../../../core/shelf/csv'
import { shelfSchema, type ShelfItem } from '../../../core/shelf/item'
import { waysToJoin } from '../../../core/shelf/ways'
import { itemWords } from '../../../core/shelf/words'
import { shoppingList } from '../../../core/sheets/needs'
import { fixesOf } from '../../../core/verdict/fixes'
import { judge } from '../../../core/verdict/verdict'
import { battery, demoPlan, lead, radio, smallPlan } from '../../data/plans'

const shelf = shelfSchema.parse(shelfItems)
const withoutIds = (items: ShelfItem[]) => items.map(({ id: _id, ...item }) => item)

describe('a line of the shelf in words', () => {
  const pack = { id: 'x', what: 'pack', seriesCells: 4, capacityAh: 12, count: 1 } as const
  it.each<[string, ShelfItem]>([
    ['12 AWG, 105 °C', { id: 'x', what: 'conductor', awg: 12, insulationC: 105, metres: 3 }],
    ['7.5 A blade', { id: 'x', what: 'fuse', type: 'blade', ratedA: 7.5, count: 2 }],
    ['Spare pack: LiFePO4 4S, 12 Ah', { ...pack, name: 'Spare pack', chemistry: 'lifepo4' }],
    ['salt water 4S, 12 Ah', { ...pack, chemistry: 'salt water' }],
  ])('%s', (words, item) => expect(itemWords(item)).toBe(words))
  it('names every thing of the demo shelf apart', () => {
    const names = shelf.map(itemWords)
    expect(new Set(names).size).toBe(names.length)
  })
})

describe('the shelf as CSV', () => {
  it('comes back as it went', () => {
    const read = shelfFromCsv(shelfToCsv(shelf), n => `i${n + 1}`)
    expect(read.ok && read.items).toEqual(shelf)
  })
  it('of any items comes back, with commas, quotes and line ends in a note', () => {
    const item = fc.oneof(
      fc.record({
        id: fc.constant('x'),
        what: fc.constant('conductor' as const),
        mm2: fc.double({ min: 0.1, max: 95, noNaN: true }).map(v => Number(v.toPrecision(6))),
        metres: fc.integer({ min: 0, max: 1000 }),
        note: fc.constantFrom('a, b', 'say "red"', 'two\nlines', 'é ü'),
      }),
      fc.record({
        id: fc.constant('x'),
        what: fc.constant('fuse' as const),
        type: fc.constantFrom('blade', 'strip'),
        ratedA: fc.integer({ min: 1, max: 300 }),
        count: fc.integer({ min: 0, max: 50 }),
      }),
    )
    fc.assert(
      fc.property(fc.array(item, { minLength: 1, maxLength: 8 }), items => {
        const read = shelfFromCsv(shelfToCsv(items as ShelfItem[]), () => 'x')
        expect(read.ok || read.faults).toBe(true)
        expect(read.ok && withoutIds(read.items)).toEqual(withoutIds(items as ShelfItem[]))
      }),
      { numRuns: 60 },
    )
  })
  it('reads semicolons with decimal commas, and a byte order mark', () => {
    const read = shelfFromCsv('\uFEFFwhat;mm2;metres\nconductor;2,5;12,5\n', n => `i${n}`)
    expect(read.ok && read.items).toEqual([{ id: 'i0', what: 'conductor', mm2: 2.5, metres: 12.5 }])
  })
  it.each([
    ['', 1, 'empty'],
    ['name,count\nx,1', 1, 'no column what'],
    ['what,shoe_size\nfuse,44', 1, 'shoe_size'],
    ['what,type,rated_a,count\nfuse,blade,15,2\nfuse,blade,minus,2', 3, 'ratedA'],
    ['what,count\nbanana,1', 2, 'what is banana'],
    ['what,connector,count\ncontact,stack-46,1', 2, 'connector is stack-46'],
  ])('refuses %j by its line, and says what is wrong', (text, line, words) => {
    const read = shelfFromCsv(text, n => `i${n}`)
    expect(read.ok).toBe(false)
    if (!read.ok) expect(`${read.faults[0]!.line} ${read.faults[0]!.wrong}`).toMatch(new RegExp(`^${line} .*${words}`))
  })
})

describe('the ways to join two connectors', () => {
  it('are none where they mate', () => expect(waysToJoin('stack-45', 'stack-30', 10, shelf)).toEqual([]))
  it('take the adapter one owns first', () => {
    const [way] = waysToJoin('stack-45', 'inlet-4', 20, shelf)
    expect(way!.steps).toMatchObject([{ from: 'owned', itemId: 'i12', a: 'stack-45', b: 'inlet-4' }])
    expect(way!.dropV).toBeCloseTo(20 * (0.002 + 2 * 0.0006 + 2 * 0.0015), 9)
  })
  it('make one where both contacts are in the drawer, before buying', () => {
    const ways = waysToJoin('barrel-5521', 'stack-30', 3, shelf)
    expect(ways[0]!.steps.map(s => s.from)).toEqual(['made'])
    expect(waysToJoin('barrel-5521', 'stack-30', 3, []).map(w => w.steps[0]!.from)).toContain('bought')
  })
  it('go over two owned ones rather than past a rating', () => {
    const mine: ShelfItem[] = [
      { id: 'a', what: 'adapter', a: 'pack-t', b: 'stack-45', count: 1 },
      { id: 'b', what: 'adapter', a: 'stack-45', b: 'lead-t2', count: 1 },
    ]
    expect(waysToJoin('pack-t', 'lead-t2', 10, mine).some(w => w.steps.map(s => s.itemId).join() === 'a,b')).toBe(true)
    expect(waysToJoin('stack-45', 'barrel-5521', 12, [])).toEqual([])
  })
  it('always end mated, step by step, and cost what they say', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...CONNECTOR_IDS),
        fc.constantFrom(...CONNECTOR_IDS),
        fc.double({ min: 0.1, max: 20, noNaN: true }),
        (end, terminal, amps) => {
          for (const way of waysToJoin(end, terminal, amps, shelf)) {
            const faces = [end, ...way.steps.flatMap(s => [s.a, s.b]), terminal]
            for (let i = 0; i < faces.length; i += 2)
              expect(mate({ connector: faces[i]! }, { connector: faces[i + 1]! }).mates, faces.join(' ')).toBe(true)
            expect(way.dropV).toBeGreaterThan(0)
            expect(way.failures).toBe(way.steps.length + 1)
          }
        },
      ),
      { numRuns: 150 },
    )
  })
  it('are a fix of a mating that does not go together, the owned adapter first', () => {
    const own = shelf.map(({ madeUp: _madeUp, ...item }) => item as (typeof shelf)[number])
    const plan = smallPlan({ parts: [battery(), radio({ terminal: 'inlet-4' })], leads: [lead()] })
    const { verdict, study } = judge(plan, own)
    const finding = verdict.findings.find(f => f.check === 'connector-mating')!
    const [fix] = fixesOf(finding, study, verdict)
    expect(fix!.label).toContain('Your adapter')
    const edit = applyEdit(plan, fix!.patch)
    expect(edit.ok && edit.plan.parts.at(-1)).toMatchObject({ kind: 'adapter', a: 'stack-45', b: 'inlet-4' })
  })
})

describe('the shopping list', () => {
  it('leaves out nothing that came with the sample stations, but for those themselves', () => {
    const plan = demoPlan('tern-rock-light')
    const mine = shoppingList({ ...plan, madeUp: undefined }, shelf)
    expect(mine.every(r => r.has === 0 && r.buy === r.needs)).toBe(true)
    expect(shoppingList(plan, shelf).some(r => r.has > 0)).toBe(true)
  })
  it('is what the plan needs less what the shelf has', () => {
    const plan = demoPlan('tern-rock-light')
    const rows = shoppingList(plan, shelf)
    const row = (words: string) => rows.find(r => r.what.startsWith(words))!
    // Main lead 1.36 m and evening lead 2.73 m, two conductors each.
    expect(row('8 AWG')).toMatchObject({ needs: 8.18, has: 6, buy: 2.18, unit: 'm' })
    expect(row('bolt-down strip fuse 50 A')).toMatchObject({ needs: 2, has: 1, buy: 1 })
    expect(row('stacking contact, 30 A')).toMatchObject({ buy: 0 })
    for (const r of rows) {
      expect(r.needs).toBeCloseTo(r.has + r.buy, 6)
      expect(r.buy).toBeGreaterThanOrEqual(0)
    }
  })
  it('without a shelf is all of it', () =>
    expect(shoppingList(demoPlan('clean-bench'), []).every(r => r.buy === r.needs)).toBe(true))
})
