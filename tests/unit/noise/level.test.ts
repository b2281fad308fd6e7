import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  added,
  calibratedDbm,
  dbmToMicrovolts,
  dbmToS,
  inBandwidth,
  manMadeFactorDb,
  microvoltsToDbm,
  normalDbm,
  readSMeter,
  sToDbm,
} from '../../../core/noise/level'

describe('levels', () => {
  it.each([
    ['S9', 7e6, -73],
    ['S9', 145e6, -93],
    ['S1', 7e6, -121],
    ['S9+20', 14e6, -53],
    ['s 4.5', 7e6, -100],
    ['S9 + 10 dB', 145e6, -83],
  ])('%s at %f Hz is %f dBm', (text, hz, dbm) => {
    expect(sToDbm(readSMeter(text)!, hz)).toBeCloseTo(dbm, 9)
  })
  it.each(['', 'S10', 'S7+20', 'nine', 'S', '-73'])('%j is no reading', text => expect(readSMeter(text)).toBeNull())
  it('S9 below 30 MHz is 50 µV over 50 Ω', () => {
    expect(dbmToMicrovolts(-73)).toBeCloseTo(50.06, 2)
    expect(microvoltsToDbm(dbmToMicrovolts(-87.3))).toBeCloseTo(-87.3, 9)
  })
  it('go to S-units and back within a tenth of a unit', () => {
    fc.assert(
      fc.property(fc.double({ min: -121, max: -40, noNaN: true }), dbm => {
        expect(Math.abs(sToDbm(readSMeter(dbmToS(dbm, 7e6))!, 7e6) - dbm)).toBeLessThanOrEqual(0.51)
      }),
    )
  })
  it('know no S9.1: just over nine is nine', () => {
    expect(dbmToS(-72.5001, 7e6)).toBe('S9')
    expect(dbmToS(-72.4, 7e6)).toBe('S9+1')
  })
  it("count the attenuator, and a meter's own calibration", () => {
    expect(calibratedDbm('S5', 7e6, { attenuatorDb: 12 })).toBeCloseTo(-85, 9)
    const calibration = [
      { shown: 'S3', dbm: -100 },
      { shown: 'S9', dbm: -75 },
    ]
    expect(calibratedDbm('S3', 7e6, { calibration })).toBeCloseTo(-100, 9)
    expect(calibratedDbm('S6', 7e6, { calibration })).toBeCloseTo(-87.5, 9)
    expect(calibratedDbm('S9+20', 7e6, { calibration })).toBeCloseTo(-55, 9)
  })
  it('of noise go with bandwidth', () => expect(inBandwidth(-100, 500, 2500)).toBeCloseTo(-93.01, 2))
})

describe('what a device adds', () => {
  it('is the difference in milliwatts: 3 dB more means that it makes as much as was there', () =>
    expect(added(-97, -100).dbm).toBeCloseTo(-100.02, 1))
  it('20 dB more is the device alone', () => expect(added(-80, -100).dbm).toBeCloseTo(-80.04, 2))
  it('within the error is not known, only that it is less than so much', () => {
    const none = added(-99.5, -100, 1)
    expect(none.dbm).toBeNull()
    expect(none.atMostDbm).toBeGreaterThan(-101)
    expect(none.atMostDbm).toBeLessThan(-95)
  })
})

describe('what is normal (ITU-R P.372)', () => {
  it.each([
    ['city', 1e6, 76.8],
    ['residential', 10e6, 44.8],
    ['rural', 10e6, 39.5],
    ['quiet-rural', 10e6, 25],
  ] as const)('%s at %f Hz is %f dB above kT0', (site, hz, db) => expect(manMadeFactorDb(site, hz)).toBeCloseTo(db, 6))
  it('residential on 7.1 MHz in 500 Hz is −98.1 dBm, S4.8', () => {
    // −174 + 26.99 + 72.5 − 27.7 · log10(7.1) = −98.09.
    expect(normalDbm('residential', 7.1e6, 500)).toBeCloseTo(-98.09, 2)
    expect(dbmToS(normalDbm('residential', 7.1e6, 500), 7.1e6)).toBe('S4.8')
  })
})
