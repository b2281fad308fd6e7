import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { clearSkyWm2, onPlaneWm2, splitIrradiance, throughClouds } from '../../../core/hours/sun/irradiance'
import { sunPosition } from '../../../core/hours/sun/position'

/**
 * The low-precision formula of the Astronomical Almanac (page C5), good to 0.01° between 1950 and 2050, and the usual
 * spherical triangle: another way to the same place. The earth's centre is taken for the observer: 0.0024° at most.
 */
function almanac(at: Date, latDeg: number, lonDeg: number) {
  const rad = Math.PI / 180
  const n = at.getTime() / 86400e3 + 2440587.5 - 2451545
  const L = 280.46 + 0.9856474 * n
  const g = (357.528 + 0.9856003 * n) * rad
  const lambda = (L + 1.915 * Math.sin(g) + 0.02 * Math.sin(2 * g)) * rad
  const epsilon = (23.439 - 0.0000004 * n) * rad
  const ra = Math.atan2(Math.cos(epsilon) * Math.sin(lambda), Math.cos(lambda))
  const dec = Math.asin(Math.sin(epsilon) * Math.sin(lambda))
  const gmstDeg = 280.46061837 + 360.98564736629 * n
  const hour = (gmstDeg + lonDeg) * rad - ra
  const lat = latDeg * rad
  const elevation = Math.asin(Math.sin(lat) * Math.sin(dec) + Math.cos(lat) * Math.cos(dec) * Math.cos(hour))
  const azimuth = Math.atan2(
    -Math.cos(dec) * Math.sin(hour),
    Math.sin(dec) * Math.cos(lat) - Math.cos(dec) * Math.sin(lat) * Math.cos(hour),
  )
  return { elevationDeg: elevation / rad, azimuthDeg: (((azimuth / rad) % 360) + 360) % 360 }
}

describe('the sun', () => {
  it('stands where an almanac puts it, anywhere, at any hour', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: Date.UTC(2020, 0, 1), max: Date.UTC(2040, 0, 1) }),
        fc.double({ min: -70, max: 70, noNaN: true }),
        fc.double({ min: -180, max: 180, noNaN: true }),
        (ms, lat, lon) => {
          const at = new Date(ms)
          const sun = sunPosition(at, { latDeg: lat, lonDeg: lon })
          const book = almanac(at, lat, lon)
          expect(Math.abs(sun.elevationDeg - book.elevationDeg)).toBeLessThan(0.03)
          // Near the zenith the azimuth turns on nothing.
          const turn = Math.abs(((sun.azimuthDeg - book.azimuthDeg + 540) % 360) - 180)
          expect(turn * Math.cos((book.elevationDeg * Math.PI) / 180)).toBeLessThan(0.03)
        },
      ),
      { numRuns: 300 },
    )
  })
  it.each([
    // Over the equator at the equinox of 2026 (20 March, 14:46 UTC): the sun goes through the zenith.
    ['2026-03-20T12:07:30Z', 0, 0, 90, 0.2],
    // Highest at noon of the longest day: 90 − 52 + 23.44.
    ['2026-06-21T12:02:00Z', 52, 0, 61.44, 0.05],
    // Midnight sun over 70° N: −90 + 70 + 23.44.
    ['2026-06-21T00:02:00Z', 70, 0, 3.44, 0.05],
    // And the shortest day at 52° S of the other half of the earth.
    ['2026-06-21T12:02:00Z', -52, 0, 14.56, 0.05],
  ])('at %s over %d, %d: %d° high', (...[at, latDeg, lonDeg, elevation, within]) => {
    const { elevationDeg } = sunPosition(new Date(at), { latDeg, lonDeg })
    expect(Math.abs(elevationDeg - elevation)).toBeLessThan(within)
  })
  it('rises in the east and sets in the west', () => {
    const morning = sunPosition(new Date('2026-09-22T07:00:00Z'), { latDeg: 50, lonDeg: 0 })
    const evening = sunPosition(new Date('2026-09-22T17:00:00Z'), { latDeg: 50, lonDeg: 0 })
    expect(morning.azimuthDeg).toBeGreaterThan(90)
    expect(morning.azimuthDeg).toBeLessThan(110)
    expect(evening.azimuthDeg).toBeGreaterThan(250)
    expect(evening.azimuthDeg).toBeLessThan(275)
  })
})

describe('irradiance', () => {
  it('under a clear sky is by the formula: overhead, at 30° and down', () => {
    expect(clearSkyWm2(90)).toBeCloseTo(1037.16, 1)
    expect(clearSkyWm2(30)).toBeCloseTo(549 * Math.exp(-0.114), 6)
    expect(clearSkyWm2(0)).toBe(0)
    expect(clearSkyWm2(-10)).toBe(0)
  })
  it('of an overcast sky is a quarter of it', () => {
    expect(throughClouds(0)).toBe(1)
    expect(throughClouds(1)).toBe(0.25)
    expect(throughClouds(0.5)).toBeCloseTo(0.929, 3)
  })
  const at = new Date('2026-06-21T12:00:00Z')
  it('on the level is what falls there, however it splits', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 2, max: 90, noNaN: true }),
        fc.double({ min: 0.05, max: 1, noNaN: true }),
        (e, share) => {
          const sky = splitIrradiance(share * clearSkyWm2(e), e, at)
          const sun = { elevationDeg: e, azimuthDeg: 120 }
          expect(onPlaneWm2(sky, sun, { tiltDeg: 0, azimuthDeg: 0 })).toBeCloseTo(sky.globalWm2, 6)
          expect(sky.beamWm2).toBeGreaterThanOrEqual(0)
          expect(sky.diffuseWm2).toBeLessThanOrEqual(sky.globalWm2)
        },
      ),
    )
  })
  it('a panel that faces the sun has more than one that turns its back, which has the sky', () => {
    const sky = splitIrradiance(clearSkyWm2(30), 30, at)
    const sun = { elevationDeg: 30, azimuthDeg: 180 }
    const towards = onPlaneWm2(sky, sun, { tiltDeg: 60, azimuthDeg: 180 })
    const away = onPlaneWm2(sky, sun, { tiltDeg: 60, azimuthDeg: 0 })
    // Square to the sun: all of the beam, three quarters of the sky, a quarter of the ground.
    expect(towards).toBeCloseTo(sky.beamWm2 + 0.75 * sky.diffuseWm2 + 0.25 * 0.2 * sky.globalWm2, 6)
    expect(away).toBeCloseTo(0.75 * sky.diffuseWm2 + 0.25 * 0.2 * sky.globalWm2, 6)
  })
})
