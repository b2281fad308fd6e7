import { describe, expect, it } from 'vitest'
import { CHECKS } from '../../../core/checks/index'
import { carriesAged, carriesNew } from '../../../core/checks/landings'
import type { Lead, Plan } from '../../../core/plan/schema'
import { studyOf } from '../../../core/study/study'
import { PAIRS } from '../../data/pairs'
import { battery, lead, load, radio, smallPlan } from '../../data/plans'

/** What checks say and offer at the ends of what they tell apart: of one thing, of none, a hair beside a limit. */

const checkById = (id: string) => CHECKS.find(c => c.id === id)!
const told = (check: string) => checkById(check).find(studyOf(PAIRS[check]!.fires))

describe('of one thing', () => {
  it('a harness with one bare leg has a leg without a fuse, with two it has legs', () => {
    const { fires } = PAIRS['harness-unfused']!
    const find = checkById('harness-unfused').find
    const fused = (leadId: string, rest: readonly Lead[]) =>
      rest.map(l =>
        l.id === leadId ? { ...l, inline: [{ id: 'own', kind: 'fuse' as const, ratedA: 10, atM: 0.1 }] } : l,
      )
    const [one] = find(studyOf({ ...fires, leads: fused(fires.leads.at(-1)!.id, fires.leads) }))
    expect(one).toMatchObject({ title: expect.stringMatching(/^1 leg of /), numbers: { legs: 1 } })
    expect(one!.message).toMatch(/ leaves .* its own\.$/)
    const [two] = find(studyOf(fires))
    expect(two).toMatchObject({ title: expect.stringMatching(/^2 legs of /), numbers: { legs: 2 } })
    expect(two!.message).toMatch(/ leave .* their own\.$/)
  })
})

describe('of none', () => {
  it('a breaker between two packs leaves every terminal live', () => {
    expect(told('still-live')[0]!.message).toContain('every terminal is still live: there is a source on each side')
  })
})

describe('a hair beside a limit', () => {
  it('a gate is offered a voltage only where one lies between its supply and what its loads need', () => {
    const study = studyOf(PAIRS['gate-transfer']!.fires)
    const [found] = told('gate-transfer')
    const offered = (lowV: number) =>
      checkById('gate-transfer').fixes!({ ...found!, numbers: { ...found!.numbers, lowV } }, study).map(f => f.label)
    // Its radio needs 11 V.
    expect(offered(13)).toEqual(['Change over under 12.00 V'])
    expect(offered(11.2)).toEqual(['Change over under 11.10 V'])
    expect(offered(11.05)).toEqual([])
  })

  it('an aged contact carries what is within its rating and leaves its housing hard, and not the one alone', () => {
    const study = studyOf(smallPlan())
    const carries = (id: string, ratedA: number, amps: number) => carriesAged(study, { connector: id }, ratedA)(amps)
    // 35 °C, and 30 K at 45 A with a new one of 0.6 mΩ, so 150 K with an aged one of 3 mΩ: 145 °C at 38.54 A.
    expect([carries('stack-45', 45, 38.5), carries('stack-45', 45, 38.6)]).toEqual([true, false])
    // Of the small ones the housing stays hard beyond the rating.
    expect([carries('usb-c', 3, 3), carries('usb-c', 3, 3.1)]).toEqual([true, false])
    expect([carriesNew(45)(45), carriesNew(45)(45.1)]).toEqual([true, false])
  })
})

describe('of several', () => {
  const panel = (openCircuitV: number, shortCircuitA: number, maxPowerV: number, maxPowerA: number) => ({
    openCircuitV,
    shortCircuitA,
    maxPowerV,
    maxPowerA,
  })
  it.each([
    [
      'two in series: volts add, the weaker one gives the amps',
      [panel(22, 5.6, 18, 5), panel(22.5, 5.5, 18.5, 5.2)],
      { openCircuitV: 44.5, shortCircuitA: 5.5, maxPowerV: 36.5, maxPowerA: 5 },
    ],
    [
      'two in parallel: amps add, the lower one gives the volts',
      [panel(22, 5.6, 18, 5), { ...panel(22.5, 5.5, 18.5, 5.2), string: 2 }],
      { openCircuitV: 22, shortCircuitA: 11.1, maxPowerV: 18, maxPowerA: 10.2 },
    ],
  ] as const)('panels, %s', (_, members, whole) => {
    const { fires } = PAIRS['panel-members']!
    const parts = fires.parts.map(p => (p.id === 'sun' ? { ...p, maxPowerV: 100, members } : p)) as typeof fires.parts
    const study = studyOf({ ...fires, parts })
    const { find, fixes } = checkById('panel-members')
    const [found] = find(study)
    expect(found!.numbers).toEqual(Object.fromEntries(Object.entries(whole).map(([f, v]) => [f, expect.closeTo(v, 9)])))
    const [sum] = fixes!(found!, study)
    expect(sum!.patch.map(op => 'value' in op && op.value)).toEqual(expect.arrayContaining(Object.values(whole)))
  })
})

describe('what is offered', () => {
  const offered = (check: string, plan: Plan) => {
    const study = studyOf(plan)
    return checkById(check)
      .find(study)
      .flatMap(f => checkById(check).fixes!(f, study))
  }
  it('turns live pins round at the end at which they are', () => {
    const ends = (from: string, to: string) =>
      smallPlan({
        parts: [battery({ terminal: 'pack-t' }), radio({ terminal: 'pack-t' })],
        leads: [lead({ ends: { from: { connector: 'pack-t', sex: from }, to: { connector: 'pack-t', sex: to } } })],
      })
    const set = (path: string, value: string) => [{ op: 'replace', path: `/leads/0/ends/${path}/sex`, value }]
    expect(offered('exposed-pins', ends('socket', 'socket')).map(f => f.patch)).toEqual([set('from', 'plug')])
    expect(offered('exposed-pins', ends('plug', 'plug')).map(f => f.patch)).toEqual([set('to', 'socket')])
    expect(offered('exposed-pins', ends('plug', 'socket'))).toEqual([])
  })

  it('puts no second switch before a supply that is left on', () => {
    const { fires } = PAIRS['supply-as-charger']!
    const labels = (plan: Plan) => offered('supply-as-charger', plan).map(f => f.label)
    expect(labels(fires)).toEqual(['Set psu to 13.8 V', 'A switch in lead s, open when the battery is not in use'])
    const off = { id: 'k', kind: 'switch' as const, closed: true }
    const leads = fires.leads.map(l => (l.id === 's' ? { ...l, inline: [...(l.inline ?? []), off] } : l))
    expect(labels({ ...fires, leads })).toEqual(['Set psu to 13.8 V'])
  })

  it.each([
    ['inverter-load', 'W', ['runVA', 'startW'], [300, 600, 1000, 1500, 2000, 3000]],
    ['item-rating', 'A', ['amps'], [5, 10, 15, 20, 30, 40, 50, 80, 100, 150, 200]],
    ['panel-current', 'A', ['shortA'], [10, 15, 20, 30, 40, 60]],
  ])('%s: the next size that is sold, in %s', (check, unit, asked, sold) => {
    const study = studyOf(PAIRS[check]!.fires)
    const [found] = told(check)
    const sizeFor = (wanted: number) => {
      const numbers = { ...found!.numbers, ...Object.fromEntries(asked.map(name => [name, wanted])) }
      const [label] = checkById(check).fixes!({ ...found!, numbers }, study).map(f => f.label)
      return label === undefined ? null : Number(new RegExp(`(\\d+) ${unit}\\b`).exec(label)![1])
    }
    expect(sold.map(sizeFor)).toEqual(sold)
    expect(sold.map(size => sizeFor(size + 0.1))).toEqual([...sold.slice(1), null])
  })

  it('puts no bare wire on a lead as if it were a connector', () => {
    const plan = smallPlan({ parts: [battery(), radio({ terminal: 'bare' })] })
    const patches = offered('connector-mating', plan).flatMap(f => f.patch)
    expect(patches.length).toBeGreaterThan(0)
    expect(JSON.stringify(patches)).not.toContain('"connector":"bare"')
  })

  it('looks at the longest leads of a station that collapses, wherever they stand in the plan', () => {
    const small = (n: number) => load({ id: `s${n}`, draw: { model: 'constant-power', idleW: 1, activeW: 2 } })
    const others = [1, 2, 3, 4, 5]
    const plan = smallPlan({
      parts: [
        battery(),
        ...others.map(small),
        load({ id: 'far', draw: { model: 'constant-power', idleW: 5, activeW: 250 } }),
      ],
      leads: [
        ...others.map(n => lead({ id: `l${n}`, to: `s${n}`, ends: {} })),
        lead({ id: 'long', to: 'far', ends: {}, lengthM: 12, conductor: { awg: 16, insulationC: 105 } }),
      ],
    })
    const labels = offered('collapse', plan).map(f => f.label)
    expect(labels.filter(l => /AWG in lead long/.test(l))).toHaveLength(1)
  })
})
