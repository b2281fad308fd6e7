/* eslint-disable max-lines -- the hidden faults are made once for all that is counted of them */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { nextTests, outcomeRows, weigh } from '../../../core/noise/advice'
import { testsFor } from '../../../core/noise/tests'
import { believe, weightOf, type Belief } from '../../../core/noise/belief'
import { causesOf, MOST_DEVICES, pairKey, whenWords } from '../../../core/noise/cause'
import { onsetOf } from '../../../core/noise/onset'
import { isPart, OTHER, OUTSIDE, RECEIVER } from '../../../core/noise/suspect'
import { combLikelihood, fitting, likelihood, sniffLikelihood, type Observation } from '../../../core/noise/observation'
import { expected, SLIP } from '../../../core/noise/hear'
import { setupSchema, type Setup } from '../../../core/noise/setup'
import { capacityBits, informationBound } from '../../../core/noise/simulated/solve'
import { ALL_AT_HAND, busyPlan, hideAndSeek, NOISY_STATIONS } from '../../data/noisy'
import { physicsTrials, shares } from '../../data/physicsScores'
import { entropyBits } from '../../../core/reason/odds'
import { demoPlan } from '../../data/plans'

const heron = demoPlan('narrowboat-heron')
const tern = demoPlan('tern-rock-light')
let count = 0
const listen = (setup: Setup, heard: 'same' | 'weaker' | 'gone'): Observation => ({
  kind: 'listen',
  id: `o${++count}`,
  at: '',
  setup,
  heard,
})
const off = (...ids: string[]): Setup => ({ devices: Object.fromEntries(ids.map(i => [i, { state: 'off' as const }])) })
const massOf = (belief: ReturnType<typeof believe>, device: string) =>
  belief.pairs.filter(p => p.device === device).reduce((s, p) => s + p.probability, 0)

const openBits = ({ pairs }: Belief) => entropyBits(pairs.map(p => p.probability))

describe('the causes a plan allows', () => {
  it('have prior odds that sum to 1, and only devices with an AC side have a mains side', () => {
    for (const plan of [heron, tern, busyPlan()]) {
      const causes = causesOf(plan, { bands: ['20 m'] })
      expect(causes.priors.reduce((s, p) => s + p.odds, 0)).toBeCloseTo(1, 12)
      for (const { cause } of causes.priors.filter(p => p.cause.way === 'mains' && isPart(p.cause.device)))
        expect(causes.devices.find(d => d.id === cause.device)!.hasMains).toBe(true)
    }
  })
  it('are the switching parts and what lies outside; a start of charge only where there is a charge', () => {
    const causes = causesOf(heron, { bands: ['20 m'] })
    expect(causes.devices.map(d => d.id)).toEqual(['dcdc', 'fridge', 'inv', OTHER, RECEIVER, OUTSIDE])
    expect(causes.priors.some(p => p.cause.device === 'inv' && p.cause.when.kind === 'start')).toBe(false)
    expect(causes.priors.some(p => p.cause.device === 'dcdc' && p.cause.when.kind === 'start')).toBe(true)
  })
  it('lean on what the plan says: the bands it was heard on, the current it was quiet up to, the missing bond', () => {
    const [on, elsewhere] = [
      believe(causesOf(tern, { bands: ['30 m'] }), []),
      believe(causesOf(tern, { bands: ['2 m'] }), []),
    ]
    expect(massOf(on, 'ctl')).toBeGreaterThan(massOf(elsewhere, 'ctl'))
    const causes = causesOf(tern, { bands: ['30 m'] })
    // Quiet up to 6 of 15 A: it does not set in at a quarter.
    expect(
      causes.priors.some(p => p.cause.device === 'ctl' && p.cause.when.kind === 'over' && p.cause.when.share === 0.2),
    ).toBe(false)
    expect(causes.reasons.get('ctl')).toContain('it was quiet up to 6 A')
    const way = (plan: typeof heron) =>
      believe(causesOf(plan, { bands: [] }), []).pairs.find(p => p.device === 'inv' && p.way === 'dc-common')!
        .probability
    expect(way(heron)).toBeGreaterThan(way({ ...heron, site: { ...heron.site, ground: 'common' } }))
    expect(
      whenWords(
        { kind: 'over', share: 0.5 },
        causes.devices.find(d => d.id === 'ctl'),
      ),
    ).toBe('above about 7.5 A')
  })
})

describe('a very large plan', () => {
  it('reasons about the likeliest devices, says how many it left out, and keeps its odds whole', () => {
    const inverter = heron.parts.find(p => p.id === 'inv')!
    const crowd = {
      ...heron,
      parts: [
        ...heron.parts,
        ...Array.from({ length: 300 }, (_, i) => ({ ...inverter, id: `x${i}`, noise: undefined })),
      ],
    }
    const causes = causesOf(crowd, { bands: ['20 m'] })
    expect(causes.devices).toHaveLength(MOST_DEVICES + 3)
    expect(causes.devices.map(d => d.id)).toContain('inv')
    expect(causes.leftOut).toHaveLength(303 - MOST_DEVICES)
    expect(causes.priors.reduce((s, p) => s + p.odds, 0)).toBeCloseTo(1, 9)
  })
})

describe('the likelihoods', () => {
  const causes = causesOf(busyPlan(), { bands: ['40 m'] })
  const setups = fc.record({
    devices: fc.dictionary(
      fc.constantFrom('ctl', 'small', 'inv'),
      fc.record({
        state: fc.constantFrom('off' as const, 'idle' as const, 'working' as const),
        currentA: fc.option(fc.double({ min: 0, max: 30, noNaN: true }), { nil: undefined }),
      }),
    ),
    antenna: fc.option(fc.constantFrom('antenna' as const, 'dummy' as const), { nil: undefined }),
    feed: fc.option(fc.constantFrom('shared' as const, 'own-battery' as const), { nil: undefined }),
    rfGain: fc.option(fc.constantFrom('up' as const, 'down' as const), { nil: undefined }),
    added: fc.array(
      fc.record({
        what: fc.constantFrom(
          'choke' as const,
          'lc-filter' as const,
          'mains-filter' as const,
          'distance' as const,
          'bond' as const,
        ),
        at: fc.constantFrom('radio', 'ctl', 'inv'),
      }),
      { maxLength: 3 },
    ),
  })
  it('of same, weaker and gone sum to 1 for every cause and setup', () => {
    fc.assert(
      fc.property(setups, setup => {
        expect(setupSchema.safeParse(JSON.parse(JSON.stringify(setup))).success).toBe(true)
        for (const { cause } of causes.priors) {
          const odds = expected(cause, setup as Setup, causes.devices)
          const off = Math.abs(odds[0] + odds[1] + odds[2] - 1)
          if (off > 1e-9 || Math.min(...odds) < 0) expect(`${JSON.stringify(cause)} ${odds.join()}`).toBe('whole')
        }
      }),
      { numRuns: 20 },
    )
  })
  it('of every outcome of a walk round and of a comb sum to 1', () => {
    for (const { cause } of causes.priors) {
      expect(
        [...causes.devices.filter(d => isPart(d.id)).map(d => d.id), 'none'].reduce(
          (s, d) => s + sniffLikelihood(cause, d, causes.devices),
          0,
        ),
      ).toBeCloseTo(1, 9)
      expect(combLikelihood(cause, null, causes.devices)).toBeLessThanOrEqual(1)
    }
  })
  it('never grow when one more thing is taken away', () => {
    for (const { cause } of causes.priors) {
      const plain = expected(cause, { antenna: 'dummy' }, causes.devices)
      const both = expected(cause, { antenna: 'dummy', feed: 'own-battery' }, causes.devices)
      expect(both[0]).toBeLessThanOrEqual(plain[0] + 1e-12)
    }
  })
  it('fit a spacing to the frequency or twice it, within 6 %', () => {
    expect(fitting(62300, causesOf(heron, { bands: [] }).devices)).toEqual(['inv'])
    expect(fitting(124500, causesOf(heron, { bands: [] }).devices)).toEqual(['dcdc', 'inv'])
    expect(fitting(90000, causesOf(heron, { bands: [] }).devices)).toEqual([])
  })
})

describe('belief', () => {
  const causes = causesOf(heron, { bands: ['20 m', '15 m'] })
  it('is the prior times the likelihood, normalised: one observation worked by hand', () => {
    const observation = listen(off('inv'), 'gone')
    const odds = causes.priors.map(p => p.odds * likelihood(p.cause, observation, causes.devices))
    const total = odds.reduce((s, v) => s + v, 0)
    const inverter = causes.priors.reduce((s, p, i) => s + (p.cause.device === 'inv' ? odds[i]! / total : 0), 0)
    // By hand, of the inverter alone: off it is gone, heard as gone but for a slip; of another alone nothing falls.
    const alone = causes.priors.find(p => p.cause.device === 'inv' && !p.cause.second)!.cause
    expect(likelihood(alone, observation, causes.devices)).toBeCloseTo(1 - SLIP, 2)
    const other = causes.priors.find(p => p.cause.device === 'dcdc' && !p.cause.second)!.cause
    expect(likelihood(other, observation, causes.devices)).toBeLessThan(1e-3)
    // Two equal ones, one of them off: 3 dB less, which is heard as weaker in a quarter of the times at most.
    const two = { ...other, second: { ...alone, belowDb: 0 } }
    expect(expected(two, off('inv'), causes.devices)[0]).toBeGreaterThan(0.65)
    expect(massOf(believe(causes, [observation]), 'inv')).toBeCloseTo(inverter, 12)
  })
  it('does not depend on the order of the findings', () => {
    const findings = [
      listen(off('inv'), 'gone'),
      listen({ antenna: 'dummy' }, 'weaker'),
      listen({ feed: 'own-battery' }, 'gone'),
      listen({ rfGain: 'down' }, 'gone'),
    ]
    const once = believe(causes, findings).probabilities
    fc.assert(
      fc.property(fc.shuffledSubarray(findings, { minLength: 4 }), shuffled => {
        believe(causes, shuffled).probabilities.forEach((p, i) => expect(p).toBeCloseTo(once[i]!, 10))
      }),
    )
  })
  it(
    'finds the inverter, common mode, from what operators do: off and on, antenna off, a battery of its own, a ' +
      'choke',
    () => {
      const belief = believe(causes, [
        listen(off('inv'), 'gone'),
        listen({ antenna: 'dummy' }, 'same'),
        listen({ feed: 'own-battery' }, 'gone'),
        listen({ added: [{ what: 'choke', at: 'radio' }] }, 'weaker'),
        listen({ added: [{ what: 'lc-filter', at: 'radio' }] }, 'same'),
      ])
      expect(pairKey(belief.pairs[0]!)).toBe('inv dc-common')
      expect(belief.pairs[0]!.probability).toBeGreaterThan(0.9)
      expect(belief.contradictions).toEqual([])
    },
  )
  it('finds the current above which the controller is heard', () => {
    const sun = causesOf(tern, { bands: ['30 m'] })
    const at = (currentA: number): Setup => ({ devices: { ctl: { state: 'working', currentA } } })
    const belief = believe(sun, [listen(at(4), 'gone'), listen(at(9), 'same'), listen({ antenna: 'dummy' }, 'gone')])
    expect(pairKey(belief.pairs[0]!)).toBe('ctl antenna')
    expect(['over 0.4', 'over 0.6']).toContain(Object.values(belief.pairs[0]!.whens[0]!.when).join(' '))
    expect(onsetOf([listen(at(4), 'gone'), listen(at(9), 'same')], 'ctl')).toEqual({ quietUpToA: 4, heardFromA: 9 })
  })
  it('takes the current at which it was heard: what sets in only above it is ruled out', () => {
    const sun = causesOf(tern, { bands: ['30 m'] })
    const plain = listen({ antenna: 'dummy' }, 'gone')
    const whens = (o: Observation) => believe(sun, [o]).pairs.find(p => p.device === 'ctl' && p.way === 'antenna')!
    const share = (pair: ReturnType<typeof whens>, s: number) =>
      pair.whens.find(w => w.when.kind === 'over' && w.when.share === s)!.probability / pair.probability
    const heardAt8 = { ...plain, current: { device: 'ctl', amps: 8 } } as Observation
    expect(share(whens(plain), 0.8)).toBeGreaterThan(0.2)
    expect(share(whens(heardAt8), 0.8)).toBeLessThan(0.4 * share(whens(plain), 0.8))
    // A current of another device says nothing.
    expect(share(whens({ ...plain, current: { device: 'mains', amps: 5 } } as Observation), 0.8)).toBeCloseTo(
      share(whens(plain), 0.8),
      9,
    )
  })
  it('says a contradiction, and does not average it away', () => {
    const belief = believe(causes, [
      listen(off('inv'), 'gone'),
      listen({ antenna: 'dummy' }, 'gone'),
      listen(off('inv'), 'same'),
    ])
    expect(belief.contradictions).toEqual([[0, 2]])
    expect(believe(causes, [listen(off('inv'), 'gone'), listen(off('dcdc'), 'gone')]).contradictions).toHaveLength(1)
  })
  it('counts a test made again for less than a new one, whatever came out', () => {
    const once = believe(causes, [listen({ feed: 'own-battery' }, 'gone')])
    const twice = believe(causes, [listen({ feed: 'own-battery' }, 'gone'), listen({ feed: 'own-battery' }, 'gone')])
    const other = believe(causes, [listen({ feed: 'own-battery' }, 'gone'), listen({ rfGain: 'down' }, 'gone')])
    const conducted = (b: ReturnType<typeof believe>) =>
      b.pairs.filter(p => p.way.startsWith('dc-')).reduce((s, p) => s + p.probability, 0)
    expect(conducted(twice)).toBeGreaterThan(conducted(once))
    expect(openBits(twice)).toBeLessThan(openBits(once))
    expect(1 - conducted(other)).toBeLessThan(1 - conducted(twice))
    // Made twice with opposite results it says nothing, and the contradiction is told.
    const torn = believe(causes, [listen(off('inv'), 'gone'), listen(off('inv'), 'same')])
    expect(Math.abs(massOf(torn, 'inv') - massOf(believe(causes, []), 'inv'))).toBeLessThan(0.15)
    expect(torn.contradictions).toHaveLength(1)
  })
  it('says what each finding speaks for: the device or the way', () => {
    const findings = [listen(off('inv'), 'gone'), listen({ feed: 'own-battery' }, 'gone')]
    const pair = { device: 'inv', way: 'dc-common' as const }
    const belief = believe(causes, findings)
    const [first, second] = [weightOf(causes, pair, belief, 0), weightOf(causes, pair, belief, 1)]
    expect(first.device).toBeGreaterThan(10)
    expect(Math.abs(first.way - 1)).toBeLessThan(0.02)
    expect(second.way).toBeGreaterThan(2)
    expect(weightOf(causes, { device: 'inv', way: 'antenna' }, belief, 1).way).toBeLessThan(0.1)
  })
})

describe('the next test', () => {
  const causes = causesOf(busyPlan(), { bands: ['40 m'] })
  const plan = busyPlan()
  it('tells at most what is open, and its outcomes sum to 1', () => {
    for (const findings of [[], [listen({ antenna: 'dummy' }, 'same')]]) {
      const belief = believe(causes, findings)
      for (const test of testsFor({ plan, causes, belief })) {
        const { bits, outcomes } = weigh(test, causes, belief, ALL_AT_HAND)
        expect(bits).toBeLessThanOrEqual(openBits(belief) + 1e-9)
        expect(outcomes.reduce((s, o) => s + o.probability, 0)).toBeCloseTo(1, 9)
        for (const o of outcomes) expect(o.means).not.toBe('')
      }
    }
  })
  it('comes best first by bits a minute and euro; what one owns costs nothing, what wants sun waits for it', () => {
    const belief = believe(causes, [])
    const all = nextTests({ plan, causes, belief, atHand: ALL_AT_HAND })
    expect(all.map(t => t.rate)).toEqual([...all.map(t => t.rate)].sort((a, b) => b - a))
    expect(all.every(t => t.euro === 0)).toBe(true)
    const poor = nextTests({ plan, causes, belief, atHand: new Set(['load'] as const) })
    expect(poor.find(t => t.id === 'choke:radio')!.euro).toBe(20)
    expect(poor.find(t => t.id === 'choke:radio')!.lacks).toEqual(['choke'])
    // At night: tests that want sun come last.
    const sunny = poor.map(t => t.needs.includes('sun'))
    expect(sunny.indexOf(true)).toBeGreaterThan(sunny.lastIndexOf(false))
  })
  it('warns where the mains side is touched', () => {
    const filter = testsFor({ plan, causes, belief: believe(causes, []) }).find(t => t.id.startsWith('mains-filter:'))!
    expect(filter.caution).toMatch(/unplugged.*Never defeat a fuse or a safety earth/)
  })
  it('splits the devices in halves where there are many', () => {
    expect(
      testsFor({ plan, causes, belief: believe(causes, []) }).some(
        t => Object.keys(t.setup?.devices ?? {}).length === 3,
      ),
    ).toBe(true)
  })
})

describe('the information bound', () => {
  it('uses the capacity of a channel: a clean coin tells a bit, a useless test none, a symmetric one 1 − H(p)', () => {
    expect(
      capacityBits([
        [1, 0],
        [0, 1],
      ]),
    ).toBeCloseTo(1, 3)
    expect(
      capacityBits([
        [0.5, 0.5],
        [0.5, 0.5],
      ]),
    ).toBeCloseTo(0, 3)
    const h = -(0.1 * Math.log2(0.1) + 0.9 * Math.log2(0.9))
    expect(
      capacityBits([
        [0.9, 0.1],
        [0.1, 0.9],
      ]),
    ).toBeCloseTo(1 - h, 3)
  })
  it('grows with the devices that could be it', () => {
    const few = informationBound(heron, causesOf(heron, { bands: ['20 m'] }))
    const many = informationBound(busyPlan(), causesOf(busyPlan(), { bands: ['40 m'] }))
    expect(many.bits).toBeGreaterThan(few.bits)
    expect(outcomeRows({ what: 'comb' }, causesOf(heron, { bands: [] })).map(o => o.id)).toEqual([
      'hz:dcdc+inv',
      'hz:inv',
      'hz:other',
      'hz:none',
    ])
  })
})

describe('hidden faults of the simulated receiver, found by following the advice', () => {
  it.each(NOISY_STATIONS)('$name: device and way right in at least 85 %', station => {
    const scores = hideAndSeek(station, 12, 1)
    expect(scores.right / scores.faults).toBeGreaterThanOrEqual(0.85)
    // It cannot be done for nothing either.
    expect(scores.meanTests).toBeGreaterThan(scores.bound * 0.9)
  })
})

describe('hidden noise of a station made from physics', () => {
  const trials = physicsTrials(60, 11)
  const of = (name: string) => shares(trials).find(s => s.name === name)!
  it('is named rightly where it is stated at 90 % and above, in device and in way', () => {
    const sure = of('stated at 90 % and above')
    expect(sure.count).toBeGreaterThan(35)
    expect(sure.device).toBeGreaterThanOrEqual(0.88)
    expect(sure.way).toBeGreaterThanOrEqual(0.82)
  })
  it('is found where two devices make it, outside the station and in the receiver', () => {
    expect(of('all').device).toBeGreaterThan(0.85)
    expect(of('two culprits there').device).toBeGreaterThanOrEqual(0.75)
    const beside = of('stated: outside').count + of('stated: the receiver').count
    expect(beside).toBeGreaterThan(3)
    expect(of('stated: outside').device).toBeGreaterThan(0.85)
  })
})
