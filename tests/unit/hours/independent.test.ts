import { describe, expect, it } from 'vitest'
import { randomFrom } from '../../../core/chance/random'
import { clearSkyWm2, onPlaneWm2, splitIrradiance, throughClouds } from '../../../core/hours/sun/irradiance'
import { sunPosition } from '../../../core/hours/sun/position'
import { courseOf, wide } from '../../data/events'
import { battery, lead, load, radio, smallPlan } from '../../data/plans'

/**
 * Stations made at random, gone through minute by minute with other means: one battery, its loads each on its own lead
 * right at the post, a charger or a tracking controller at the post. No tables, no network, no solver: each minute the
 * post's voltage is searched by halving.
 */

const CURVE = [
  [0, 2.8],
  [0.05, 3.05],
  [0.1, 3.18],
  [0.2, 3.23],
  [0.3, 3.26],
  [0.4, 3.28],
  [0.5, 3.29],
  [0.6, 3.3],
  [0.7, 3.32],
  [0.8, 3.33],
  [0.9, 3.34],
  [0.95, 3.35],
  [1, 3.4],
] as const
function restedV(charge: number): number {
  const i = Math.max(
    1,
    CURVE.findIndex(p => p[0] >= charge),
  )
  const [[c0, v0], [c1, v1]] = [CURVE[i - 1]!, CURVE[i]!]
  return 4 * (v0 + ((v1 - v0) * (charge - c0)) / (c1 - c0))
}

interface Made {
  capacityAh: number
  ohm: number
  start: number
  radio: { idleA: number; activeA: number; keyed: number; share: number; fromH: number; toH: number }
  loadW: number
  chargerA: number
  charges: [number, number]
  panelW: number
  cloud: number
}
function made(seed: number): Made {
  const { uniform } = randomFrom(seed)
  const between = (a: number, b: number) => a + (b - a) * uniform()
  const from = Math.floor(between(0, 6))
  const share = between(0.1, 0.5)
  return {
    capacityAh: Math.round(between(15, 80)),
    ohm: between(0.004, 0.02),
    start: between(0.4, 1),
    radio: {
      idleA: between(0.3, 1.2),
      activeA: between(4, 21),
      share,
      keyed: share * 0.4,
      fromH: from,
      toH: from + 10,
    },
    loadW: between(3, 25),
    chargerA: uniform() < 0.5 ? Math.round(between(3, 15)) : 0,
    charges: [Math.floor(between(8, 12)), Math.floor(between(13, 18))],
    panelW: uniform() < 0.6 ? Math.round(between(40, 200)) : 0,
    cloud: between(0, 1),
  }
}

function planOf(m: Made) {
  const short = { lengthM: 0.01, conductor: { mm2: 95 }, inline: [], ends: {} }
  const profile = { lifepo4: { absorptionV: 14.4, floatV: 13.5 } }
  return smallPlan({
    parts: [
      battery({
        id: 'bat',
        capacityAh: m.capacityAh,
        internalOhm: m.ohm,
        continuousA: 500,
        peakA: 500,
        maxChargeA: 200,
      }),
      radio({
        id: 'hf',
        supply: wide,
        draw: { model: 'constant-current', idleA: m.radio.idleA, activeA: m.radio.activeA },
      }),
      load({ id: 'pc', supply: wide, draw: { model: 'constant-power', idleW: m.loadW, activeW: m.loadW } }),
      { id: 'chg', kind: 'charger', chemistries: profile, set: 'lifepo4', maxA: Math.max(1, m.chargerA) },
      {
        id: 'sun',
        kind: 'panel',
        openCircuitV: 22,
        shortCircuitA: Math.max(1, m.panelW) / 17,
        maxPowerV: 18,
        maxPowerA: Math.max(1, m.panelW) / 18,
      },
      {
        id: 'ctl',
        kind: 'controller',
        type: 'mppt',
        maxPanelV: 60,
        maxChargeA: 20,
        chemistries: profile,
        set: 'lifepo4',
      },
    ],
    leads: [
      lead({ id: 'l1', from: 'bat', to: 'hf', ...short }),
      lead({ id: 'l2', from: 'bat', to: 'pc', ...short }),
      lead({ id: 'l3', from: 'chg', to: 'bat', ...short }),
      lead({ id: 'l4', from: 'ctl.battery', to: 'bat', ...short }),
      lead({ id: 'l5', from: 'sun', to: 'ctl.panel', ...short }),
    ],
  })
}
const HOURS = 24
const PLACE = { latDeg: 48, lonDeg: 11 }
const eventOf = (m: Made) => ({
  hours: HOURS,
  ...(m.panelW && { place: PLACE }),
  weather: { cloud: m.cloud, airC: { low: 20, high: 20 } },
  panels: [{ part: 'sun', tiltDeg: 30, azimuthDeg: 180 }],
  activities: [{ part: 'hf', mode: 'voice', share: m.radio.share, from: m.radio.fromH, to: m.radio.toH }],
  ...(m.chargerA && { supplied: [{ parts: ['chg'], from: m.charges[0], to: m.charges[1] }] }),
  stores: [{ part: 'bat', startCharge: m.start }],
})

/** Sun at the controller's output, W. */
function sunW(m: Made, h: number): number {
  if (!m.panelW) return 0
  const at = new Date(Date.UTC(2026, 5, 13, 8) + h * 3600e3)
  const sun = sunPosition(at, PLACE)
  const global = clearSkyWm2(sun.elevationDeg) * throughClouds(m.cloud)
  const plane = onPlaneWm2(splitIrradiance(global, sun.elevationDeg, at), sun, { tiltDeg: 30, azimuthDeg: 180 })
  const cellC = 20 + 0.03125 * plane
  return 0.95 * m.panelW * (plane / 1000) * Math.max(0, 1 - 0.004 * (cellC - 25))
}

/** Charge at the end, minute by minute. */
function walked(m: Made): number {
  let charge = m.start
  let [chargerFloats, sunFloats] = [charge >= 0.99, charge >= 0.99]
  for (let minute = 0; minute < HOURS * 60; minute++) {
    const h = minute / 60
    const floats = (was: boolean) => (was ? charge >= 0.95 : charge >= 0.99)
    chargerFloats = floats(chargerFloats)
    sunFloats = floats(sunFloats)
    const watts = sunW(m, h + 1 / 120)
    const chargerOn = m.chargerA > 0 && h >= m.charges[0] && h < m.charges[1]
    const accepts = acceptsA(m, charge)
    const empty = charge <= 0
    const amps = (keyed: boolean) => {
      // Empty, everything is off until something has come in.
      const taken = (v: number) => (empty ? 0 : (keyed ? m.radio.activeA : m.radio.idleA) + m.loadW / v)
      // What flows into the battery, at the voltage where everything adds up.
      const flow = (v: number) => Math.min(accepts, (v - restedV(charge)) / m.ohm)
      const given = (v: number) =>
        (chargerOn && v < (chargerFloats ? 13.5 : 14.4) ? m.chargerA : 0) +
        (watts > 0 && v < (sunFloats ? 13.5 : 14.4)
          ? Math.min(watts / v, Math.min(20, (0.95 * m.panelW) / (0.87 * 14.4)))
          : 0)
      let [low, high] = [5, 16]
      for (let n = 0; n < 60; n++) {
        const v = (low + high) / 2
        if (given(v) - taken(v) - flow(v) > 0) low = v
        else high = v
      }
      // At a charger's own voltage it gives just what is asked: then the battery's share is what that voltage says.
      return flow((low + high) / 2)
    }
    const keyed = h >= m.radio.fromH && h < m.radio.toH ? m.radio.keyed : 0
    const into = (1 - keyed) * amps(false) + keyed * amps(true)
    charge += (into > 0 ? 0.99 * into : into) / 60 / m.capacityAh
    charge = Math.min(1, Math.max(0, charge))
  }
  return charge
}
function acceptsA(m: Made, charge: number): number {
  if (charge >= 1) return 0
  if (charge <= 0.95) return 200
  const tail = 0.03 * m.capacityAh
  return 200 + (tail - 200) * ((charge - 0.95) / 0.05)
}

describe('stations made at random', () => {
  it.each(Array.from({ length: 24 }, (_, i) => i + 1))('seed %d ends where other means put it', seed => {
    const m = made(seed)
    const { leaves } = courseOf(planOf(m), eventOf(m)).run()
    expect(Math.abs(leaves.bat! - walked(m)), JSON.stringify(m)).toBeLessThan(0.002)
  })
})
