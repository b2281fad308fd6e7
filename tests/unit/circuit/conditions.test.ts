import { describe, expect, it } from 'vitest'
import {
  conditionsOf,
  conditionWords,
  findCondition,
  loadStateNames,
  loadStatesOf,
  sourceStatesOf,
} from '../../../core/circuit/conditions'
import { battery, demoPlan, lead, pointOf, radio, smallPlan } from '../../data/plans'

describe('a load state', () => {
  it('that a plan does not have is called by its id, whether the plan has states of its own or none', () => {
    const { loadStates, ...without } = demoPlan('tern-rock-light')
    expect(loadStates).toBeDefined()
    expect(loadStateNames(without)('evening')).toBe('evening')
    expect(loadStateNames({ ...without, loadStates })('nowhere')).toBe('nowhere')
    expect(loadStateNames({ ...without, loadStates })(loadStates![0]!.id)).toBe(loadStates![0]!.name)
  })
})

describe('conditions', () => {
  it('that are not there are refused with those that are, the load states up to twenty', () => {
    const radios = (count: number) => Array.from({ length: count }, (_, i) => ({ ...radio(), id: `r${i + 1}` }))
    const refusal = (count: number) => findCondition(smallPlan({ parts: radios(count), leads: [] }), 'low/none')
    expect(refusal(1)).toBe(
      'There is no condition low/none in this plan. Source states: nominal; load states: idle, all, only:r1.',
    )
    expect(refusal(18)).toMatch(/only:r17, only:r18\.$/)
    expect(refusal(19)).toMatch(/only:r17, only:r18, …\.$/)
  })
  const tern = demoPlan('tern-rock-evening')
  it('are the whole matrix of source and load states', () => {
    const ids = conditionsOf(tern).map(c => c.id)
    expect(ids).toHaveLength(5 * 8)
    expect(ids).toEqual(
      expect.arrayContaining(['charging/idle', 'low/all', 'full/only:vhf', 'nominal/both-operators', 'low/hf-half']),
    )
  })
  it("of a plan without a battery are the supply's alone", () =>
    expect(sourceStatesOf(demoPlan('clean-bench'))).toEqual(['nominal']))
  it('leave out charging for a pack charged elsewhere, or one that is not recharged', () => {
    expect(sourceStatesOf(smallPlan({ parts: [battery({ charged: 'elsewhere' }), radio()] }))).toEqual([
      'full',
      'nominal',
      'low',
    ])
    expect(sourceStatesOf(smallPlan({ parts: [battery({ chemistry: 'alkaline', seriesCells: 8 }), radio()] }))).toEqual(
      ['full', 'nominal', 'low'],
    )
  })
  it('let an amplifier follow its radio, and never stand alone', () => {
    const plan = smallPlan({
      parts: [battery(), radio(), radio({ id: 'amp', follows: 'hf' })],
      leads: [lead(), lead({ id: 'l2', to: 'amp' })],
    })
    const states = loadStatesOf(plan)
    expect(states.map(s => s.id)).toEqual(['idle', 'all', 'only:hf'])
    expect([...states[2]!.active.keys()]).toEqual(['hf', 'amp'])
  })
  it('a named state may turn a radio down', () => {
    expect(pointOf(tern, 'low/hf-half').parts.hf).toMatchObject({ amps: 14 })
    expect(pointOf(tern, 'low/hf-half').parts.vhf).toMatchObject({ amps: 0.6 })
  })
  it('says which there are when asked for one there is not', () =>
    expect(findCondition(tern, 'empty/all')).toContain('charging, bulk, full, nominal, low'))
  it('have words', () => {
    expect(conditionWords(tern, 'low/all')).toBe('nearly empty, all active')
    expect(conditionWords(tern, 'full/only:hf')).toBe('full, HF radio transmits')
    expect(conditionWords(demoPlan('clean-bench'), 'nominal/idle')).toBe('all idle')
    expect(conditionWords(tern, 'low/both-operators')).toBe('nearly empty, both radios transmit')
  })
  it('a level that is set decides the current', () => {
    const levels = [
      { powerW: 100, activeA: 20 },
      { powerW: 10, activeA: 5 },
    ]
    const plan = smallPlan({
      parts: [battery(), radio({ powerW: 10, levels, draw: { model: 'constant-current', idleA: 1, activeA: 20 } })],
    })
    expect(pointOf(plan, 'full/all').parts.hf!.amps).toBe(5)
  })
})

describe('what an ignition switches', () => {
  const heater = {
    id: 'h',
    kind: 'load',
    control: 'ignition',
    draw: { model: 'constant-current', idleA: 1, activeA: 4 },
  }
  const supply = { minV: 10, nominalV: 12, maxV: 16 }
  const car = { id: 'car', kind: 'vehicle', engineOnV: 14.2, engineOffV: 12.5, internalOhm: 0.01 }
  const amps = (source: object, condition: string) => {
    const { id } = source as { id: string }
    const plan = smallPlan({
      parts: [source, { ...heater, supply }] as never,
      leads: [lead({ from: id, to: 'h', ends: {} })],
    })
    return pointOf(plan, condition).parts.h!.amps
  }
  it('takes nothing while the engine is off', () => {
    expect(amps(car, 'engine-on/all')).toBe(4)
    expect(amps(car, 'engine-off/all')).toBe(0)
  })
  it('is on where there is no engine', () => {
    expect(amps(battery(), 'full/all')).toBe(4)
    expect(amps(battery(), 'low/idle')).toBe(1)
  })
})
