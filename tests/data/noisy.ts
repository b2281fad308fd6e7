import { NEEDS, type AtHand } from '../../core/noise/test'
import { causesOf } from '../../core/noise/cause'
import { drawFault } from '../../core/noise/simulated/fault'
import { simulatedReceiver } from '../../core/noise/simulated/receiver'
import { followAdvice, informationBound } from '../../core/noise/simulated/solve'
import { readPlan } from '../../core/plan/faults'
import type { Plan } from '../../core/plan/schema'
import { demoPlan } from './plans'
import { randomFrom } from '../../core/chance/random'

/** Everything is at hand: the count of tests is judged, not the purse. */
export const ALL_AT_HAND: AtHand = new Set(NEEDS)

/** Seven devices that switch, around one battery. */
export function busyPlan(): Plan {
  const lead = (id: string, from: string, to: string, lengthM = 2) => ({
    id,
    from,
    to,
    lengthM,
    conductor: { mm2: 6, insulationC: 90 },
  })
  const chemistries = { lifepo4: { absorptionV: 14.4, floatV: 13.5 } }
  const read = readPlan({
    format: 'wireman-plan',
    version: 1,
    name: 'Busy shed',
    site: { bands: ['40 m'] },
    parts: [
      {
        id: 'bat',
        kind: 'battery',
        chemistry: 'lifepo4',
        seriesCells: 4,
        capacityAh: 100,
        internalOhm: 0.005,
        continuousA: 100,
        peakA: 200,
        maxChargeA: 50,
      },
      { id: 'pan', kind: 'panel', openCircuitV: 22, shortCircuitA: 10, maxPowerV: 18, maxPowerA: 9.5 },
      {
        id: 'ctl',
        kind: 'controller',
        name: 'Large controller',
        type: 'mppt',
        maxPanelV: 75,
        maxChargeA: 20,
        chemistries,
        set: 'lifepo4',
        switchingHz: 100e3,
      },
      {
        id: 'small',
        kind: 'controller',
        name: 'Small controller',
        type: 'pwm',
        maxPanelV: 25,
        maxChargeA: 10,
        chemistries,
        set: 'lifepo4',
        switchingHz: 300,
      },
      { id: 'chg', kind: 'charger', name: 'Mains charger', maxA: 20, chemistries, set: 'lifepo4', switchingHz: 65e3 },
      {
        id: 'inv',
        kind: 'inverter',
        name: 'Inverter',
        input: { minV: 10.5, maxV: 15.5 },
        ratedW: 300,
        switchingHz: 48e3,
        acLoads: [{ name: 'screen', watts: 40 }],
      },
      {
        id: 'buck',
        kind: 'converter',
        name: 'Converter to 5 V',
        topology: 'buck',
        input: { minV: 9, maxV: 30 },
        outV: 5,
        maxOutA: 5,
        efficiency: 0.9,
        idleW: 0.1,
        switchingHz: 340e3,
      },
      {
        id: 'boost',
        kind: 'converter',
        name: 'Regulator 13.8 V',
        topology: 'buck-boost',
        input: { minV: 9, maxV: 16 },
        outV: 13.8,
        maxOutA: 25,
        efficiency: 0.94,
        idleW: 0.4,
        switchingHz: 180e3,
      },
      { id: 'psu', kind: 'supply', name: 'Mains supply', setV: 13.8, continuousA: 25 },
      {
        id: 'hf',
        kind: 'radio',
        name: 'HF radio',
        supply: { minV: 11.7, nominalV: 13.8, maxV: 15.9 },
        draw: { model: 'constant-current', idleA: 1, activeA: 20 },
        powerW: 100,
      },
    ],
    leads: [
      lead('l1', 'pan', 'ctl.panel', 8),
      lead('l2', 'ctl.battery', 'bat'),
      lead('l3', 'small.battery', 'bat'),
      lead('l4', 'chg', 'bat'),
      lead('l5', 'bat', 'inv.in'),
      lead('l6', 'bat', 'buck.in'),
      lead('l7', 'bat', 'boost.in'),
      lead('l8', 'boost.out', 'hf'),
      lead('l9', 'psu', 'bat'),
    ],
  })
  if (!read.ok) throw new Error(JSON.stringify(read.faults))
  return read.plan
}

export const NOISY_STATIONS = [
  { name: 'Tern Rock light', plan: () => demoPlan('tern-rock-light'), bands: ['30 m'] },
  { name: 'Narrowboat Heron', plan: () => demoPlan('narrowboat-heron'), bands: ['20 m', '15 m'] },
  { name: 'Busy shed, seven devices', plan: busyPlan, bands: ['40 m'] },
] as const

export interface Scores {
  name: string
  faults: number
  right: number
  medianTests: number
  meanTests: number
  bound: number
  bits: number
  medianMinutes: number
}

/**
 * Hides faults in a station and follows the advice to each. `slips` is the share of readings that come out one step
 * wrong.
 */
export function hideAndSeek(station: (typeof NOISY_STATIONS)[number], faults: number, seed: number, slips = 0): Scores {
  const plan = station.plan()
  const causes = causesOf(plan, { bands: station.bands })
  const bound = informationBound(plan, causes)
  const solved = Array.from({ length: faults }, (_, i) => {
    const random = randomFrom(seed + i)
    const fault = drawFault(causes, station.bands, random)
    const receiver = simulatedReceiver(fault, causes, { site: 'rural', random, slips })
    return followAdvice(plan, causes, { receiver, fault }, ALL_AT_HAND)
  })
  const median = (pick: (s: (typeof solved)[number]) => number) =>
    solved.map(pick).sort((a, b) => a - b)[Math.floor(faults / 2)]!
  return {
    name: station.name,
    faults,
    right: solved.filter(s => s.right).length,
    medianTests: median(s => s.tests),
    meanTests: solved.reduce((n, s) => n + s.tests, 0) / faults,
    bound: bound.tests,
    bits: bound.bits,
    medianMinutes: median(s => s.minutes),
  }
}
