import { Body, Equator, Observer, SiderealTime } from 'astronomy-engine'
import type { Place, SunPosition } from './position'

const DAY_MS = 86400e3
const RAD = Math.PI / 180

/** Where the sun stands among the stars on one day: declination and hour angle, degrees. */
interface Sample {
  declinationDeg: number
  hourAngleDeg: number
}

/**
 * The sun over days, for thousands of moments: once a day where it really is, between them along a straight line, which
 * is within a hundredth of a degree.
 */
export class SunOverDays {
  private readonly samples: Sample[]
  private readonly startMs: number

  constructor(
    start: Date,
    hours: number,
    private readonly place: Place,
  ) {
    this.startMs = start.getTime()
    const days = Math.ceil(hours / 24) + 2
    this.samples = Array.from({ length: days }, (_, d) => this.sampled(new Date(this.startMs + d * DAY_MS)))
  }

  private sampled(at: Date): Sample {
    const { ra, dec } = Equator(Body.Sun, at, new Observer(this.place.latDeg, this.place.lonDeg, 0), true, true)
    return { declinationDeg: dec, hourAngleDeg: 15 * (SiderealTime(at) - ra) + this.place.lonDeg }
  }

  /** So many hours after the start. */
  at(h: number): SunPosition {
    const day = Math.max(0, Math.min(this.samples.length - 2, Math.floor(h / 24)))
    const share = h / 24 - day
    const [a, b] = [this.samples[day]!, this.samples[day + 1]!]
    // In a day it goes round once, nearly: what is over is the difference of the two.
    const over = ((b.hourAngleDeg - a.hourAngleDeg + 540) % 360) - 180
    const hour = (a.hourAngleDeg + share * (360 + over)) * RAD
    const dec = (a.declinationDeg + share * (b.declinationDeg - a.declinationDeg)) * RAD
    const lat = this.place.latDeg * RAD
    const sinE = Math.sin(lat) * Math.sin(dec) + Math.cos(lat) * Math.cos(dec) * Math.cos(hour)
    const east = -Math.cos(dec) * Math.sin(hour)
    const north = Math.sin(dec) * Math.cos(lat) - Math.cos(dec) * Math.sin(lat) * Math.cos(hour)
    const azimuth = Math.atan2(east, north) / RAD
    return { elevationDeg: Math.asin(Math.max(-1, Math.min(1, sinE))) / RAD, azimuthDeg: (azimuth + 360) % 360 }
  }
}
