import { describe, expect, it } from 'vitest'
import { BANDS } from '../../../core/catalog/bands'
import { causesOf, type Cause } from '../../../core/noise/cause'
import { hearRecording, hearSpectrum } from '../../../core/noise/listen/listen'
import { drawFault, faultOf, type Fault } from '../../../core/noise/simulated/fault'
import { simulatedReceiver } from '../../../core/noise/simulated/receiver'
import { readSMeter } from '../../../core/noise/level'
import { demoPlan } from '../../data/plans'
import { randomFrom } from '../../../core/chance/random'

const plan = demoPlan('narrowboat-heron')
const causes = causesOf(plan, { bands: ['20 m'] })
const band = BANDS.find(b => b.id === '20 m')!
const made = (cause: Partial<Cause> = {}, more: Partial<Fault> = {}, seed = 5) => {
  const random = randomFrom(seed)
  const fault = {
    ...faultOf({ device: 'inv', way: 'dc-common', when: { kind: 'always' }, ...cause }, causes, ['20 m'], random),
    lines: true,
    oddOnly: false,
    riseDb: 25,
    ...more,
  }
  return { fault, receiver: simulatedReceiver(fault, causes, { site: 'rural', random }) }
}

describe('the simulated receiver', () => {
  it('is reproducible from its seed', () => {
    const draw = () => drawFault(causes, ['20 m'], randomFrom(42))
    expect(draw()).toEqual(draw())
    expect(made().receiver.sReading({}, band)).toBe(made().receiver.sReading({}, band))
  })
  it('reacts to what is switched: the floor rises by the fault, and falls with its device off', () => {
    const { receiver } = made()
    const [on, off, other] = [
      receiver.levelDbm({}, 14.175e6),
      receiver.levelDbm({ devices: { inv: { state: 'off' } } }, 14.175e6),
      receiver.levelDbm({ devices: { dcdc: { state: 'off' } } }, 14.175e6),
    ]
    expect(on - off).toBeGreaterThan(20)
    expect(Math.abs(on - other)).toBeLessThan(4)
    expect(readSMeter(receiver.sReading({}, band))).not.toBeNull()
    // Off its bands it is far weaker.
    expect(receiver.levelDbm({}, 14.175e6) - receiver.levelDbm({}, 10.1e6)).toBeGreaterThan(10)
  })
  it('sets in above a current, and at the start of a charge only for minutes', () => {
    const over = made({ when: { kind: 'over', share: 0.5 } }, { setInShare: 0.5 }).receiver
    const at = (currentA: number) => over.levelDbm({ devices: { inv: { state: 'working', currentA } } }, 14.175e6)
    expect(at(40) - at(10)).toBeGreaterThan(20)
    const start = made({ device: 'dcdc', when: { kind: 'start' } }).receiver
    const after = (minutesOn: number) =>
      start.levelDbm({ devices: { dcdc: { state: 'working', minutesOn } } }, 14.175e6)
    expect(after(2) - after(20)).toBeGreaterThan(20)
  })
  it('lets a battery of its own take conducted noise away, and the antenna radiated noise', () => {
    const conducted = made().receiver
    const radiated = made({ way: 'antenna' }).receiver
    const perform = (r: typeof conducted, setup: object) =>
      (r.perform({ id: 't', what: 'listen', setup }, 'o1', '') as { heard: string }).heard
    expect(perform(conducted, { feed: 'own-battery' })).not.toBe('same')
    expect(perform(radiated, { feed: 'own-battery' })).toBe('same')
    expect(perform(radiated, { antenna: 'dummy' })).toBe('gone')
    expect(perform(conducted, { rfGain: 'down' })).toBe('gone')
    const ripple = made({ way: 'audio' }).receiver
    expect(perform(ripple, { rfGain: 'down' })).toBe('same')
    expect(ripple.audioRiseDb({})).toBeGreaterThan(10)
    expect(ripple.audioRiseDb({ devices: { inv: { state: 'off' } } })).toBe(0)
  })
  it('makes spectra and recordings in which the comb is found, at its spacing', () => {
    const { fault, receiver } = made()
    const [swept] = hearSpectrum(receiver.spectrum({}, 13.4e6, 15e6)).combs
    expect(Math.abs(swept!.spacingHz / fault.spacingHz - 1)).toBeLessThan(0.002)
    const recorded = hearRecording(receiver.recording({}, 14.175e6, 0.6, 768e3), 14.175e6)!
    expect(Math.abs(recorded.combs[0]!.spacingHz / fault.spacingHz - 1)).toBeLessThan(0.002)
    expect(hearSpectrum(receiver.spectrum({ devices: { inv: { state: 'off' } } }, 13.4e6, 15e6)).combs).toEqual([])
    expect(receiver.perform({ id: 'comb', what: 'comb' }, 'o1', '')).toMatchObject({ kind: 'comb' })
  })
})
