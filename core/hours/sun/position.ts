import { Body, Equator, Horizon, Observer } from 'astronomy-engine'

/** Where a station stands. North and east are positive, degrees. */
export interface Place {
  latDeg: number
  lonDeg: number
}

/** Where the sun stands: elevation without refraction, azimuth from north over east, degrees. */
export interface SunPosition {
  elevationDeg: number
  azimuthDeg: number
}

/** The sun as seen from a place (topocentric, of date), to a minute of arc. */
export function sunPosition(at: Date, { latDeg, lonDeg }: Place): SunPosition {
  const observer = new Observer(latDeg, lonDeg, 0)
  const { ra, dec } = Equator(Body.Sun, at, observer, true, true)
  const { altitude, azimuth } = Horizon(at, observer, ra, dec)
  return { elevationDeg: altitude, azimuthDeg: azimuth }
}
