import { describe, expect, it } from 'vitest'
import { tryPatch } from '../../../core/edit/patch'
import { withLargerPort } from '../../../core/fixes/parts'
import { graphOf } from '../../../core/graph/graph'
import { KINDS } from '../../../core/kinds/index'
import type { Plan } from '../../../core/plan/schema'
import { battery, smallPlan } from '../../data/plans'

/** A part whose terminal gives less than is taken from it, and the one that is offered in its place. */

type Loose = Record<string, unknown>
const aloneIn = (part: Loose) => smallPlan({ parts: [battery(), { ...part, id: 'it' }], leads: [] })
const givesA = (plan: Plan, name: string) => graphOf(plan).terminals.get(`it.${name}`)?.ratedA
const itsPart = (plan: Plan) => plan.parts.find(p => p.id === 'it') as unknown as Loose
const rowOf = (kind: string, label: RegExp) =>
  KINDS.get(kind)!.catalogue.find(r => label.test(r.label))!.part as unknown as Loose

function offered(part: Loose, name: string, amps: number) {
  const plan = aloneIn(part)
  const proposal = withLargerPort(plan, plan.parts[1]!, name, amps)
  return proposal && { label: proposal.label, after: tryPatch(plan, proposal.patch)! }
}

/** Every row of the catalogues with a named terminal that has amps of its own. */
const rows = [...KINDS.values()].flatMap(({ catalogue }) =>
  catalogue.flatMap(row => {
    const part = row.part as unknown as Loose
    return graphOf(aloneIn(part))
      .terminalsOf('it')
      .flatMap(({ id, ratedA }) =>
        id.includes('.') && ratedA !== undefined ? [{ catalogue, row, part, name: id.slice(3), ratedA }] : [],
      )
  }),
)

describe('the catalogue', () => {
  it('has some of each kind that has such a terminal', () =>
    expect(rows.map(r => r.part.kind)).toEqual(
      expect.arrayContaining(['powerStation', 'adapter', 'controller', 'converter', 'trigger', 'gate']),
    ))
  it.each([1, 1.02, 1.5, 2.5, 30])('offers its first that gives %d times as much and does the same', times => {
    for (const { catalogue, row, part, name, ratedA } of rows) {
      const amps = times * ratedA
      const found = offered(part, name, amps)
      const after = found && itsPart(found.after)
      const isScaled = found?.label.includes(' in place of ')
      if (found) expect(givesA(found.after, name), row.label).toBeGreaterThanOrEqual(amps)
      // What it gives in volts, passes, charges and is joined by stays.
      for (const field of ['kind', 'outV', 'setV', 'requestV', 'type', 'topology', 'a', 'b', 'dropper'])
        if (after) expect(after[field], `${row.label} ${field}`).toEqual(part[field])
      const before = catalogue.slice(
        0,
        isScaled ? undefined : catalogue.findIndex(r => found?.label.startsWith(r.label)),
      )
      for (const other of isScaled || found ? before : catalogue) {
        const gives = givesA(aloneIn(other.part as unknown as Loose), name)
        const isAlike = ['outV', 'requestV', 'type', 'topology', 'a', 'b', 'dropper'].every(
          f => JSON.stringify((other.part as unknown as Loose)[f]) === JSON.stringify(part[f]),
        )
        expect(isAlike && gives !== undefined && gives >= amps, `${row.label}: ${other.label} would do`).toBe(false)
      }
    }
  })
})

describe('by hand', () => {
  const converter = rowOf('converter', /buck-boost\) 13.8 V, 25 A/)
  const trigger = { ...rowOf('trigger', /12 V/), maxA: 2 }
  it.each<[string, [part: Loose, terminal: string, amps: number], string | undefined]>([
    [
      'the next controller of its type',
      [rowOf('controller', /PWM, 10 A/), 'load', 10.5],
      'Charge controller, PWM, 20 A in its place',
    ],
    ['none, where the largest is too small', [rowOf('controller', /PWM, 20 A/), 'load', 20.5], undefined],
    ['a converter of the next size', [converter, 'out', 25.5], 'A converter of 30 A in place of Regulator 13.8 V'],
    ['exactly that size', [converter, 'out', 40], 'A converter of 40 A in place of Regulator 13.8 V'],
    ['no converter over 60 A', [converter, 'out', 60.5], undefined],
    [
      'the trigger that asks for the same volts, not for fewer',
      [trigger, 'out', 2.5],
      'USB trigger, asks for 12 V in its place',
    ],
    ['no adapter without the diode', [rowOf('adapter', /diode/), 'b', 4], undefined],
    ['no adapter of other connectors', [rowOf('adapter', /30 A to barrel/), 'b', 6], undefined],
  ])('%s', (_, asked, label) => expect(offered(...asked)?.label).toBe(label))
})
