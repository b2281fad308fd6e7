import type { Pair } from './pairs'
import { battery, block, fuse, lead, load, radio, smallPlan } from './plans'

/** Pairs of the checks on one battery, one lead and one radio, and the small plans they are made of. */

export const supply = (more: Record<string, unknown> = {}) => ({
  id: 'bat',
  kind: 'supply',
  setV: 13.8,
  continuousA: 12,
  peakA: 14,
  outputOhm: 0.01,
  terminal: 'ring-m6',
  ...more,
})
export const onBlock = (blockMore: Record<string, unknown> = {}, legMore: Record<string, unknown> = {}) =>
  smallPlan({
    parts: [battery(), block([15, 15], { ratedA: 12, ...blockMore }), radio()],
    leads: [
      lead({ id: 'm', to: 'blk.feed', ends: { from: { connector: 'ring-m6' }, to: { connector: 'ring-m6' } } }),
      lead({
        id: 'l1',
        from: 'blk.p1',
        ends: { from: { connector: 'stack-45' }, to: { connector: 'stack-45' } },
        inline: [],
        ...legMore,
      }),
    ],
  })
export const withRadio = (more: Record<string, unknown>, leadMore: Record<string, unknown> = {}) =>
  smallPlan({ parts: [battery(), radio(more)], leads: [lead(leadMore)] })
export const withLead = (more: Record<string, unknown>) => smallPlan({ leads: [lead(more)] })
export const withBattery = (more: Record<string, unknown>, leadMore: Record<string, unknown> = {}) =>
  smallPlan({ parts: [battery(more), radio()], leads: [lead(leadMore)] })
export const dropper = (more: Record<string, unknown> = {}) => ({
  id: 'd',
  kind: 'dropper',
  count: 1,
  ratedA: 20,
  stripe: 'to',
  atM: 0.8,
  ...more,
})

const joined = (more: Record<string, unknown>) =>
  smallPlan({
    parts: [
      battery({ maxChargeA: 50 }),
      radio(),
      battery({ id: 'agm', chemistry: 'agm', seriesCells: 6, capacityAh: 100, maxChargeA: 60 }),
    ],
    leads: [
      lead(),
      lead({ id: 'l2', from: 'agm', to: 'bat', ends: {}, inline: [fuse(40), { id: 's', kind: 'switch', ...more }] }),
    ],
  })

export const BASIC_PAIRS: Record<string, Pair> = {
  'fuse-missing': {
    fires: withLead({ inline: [] }),
    near: withLead({ inline: [fuse(15)] }),
    place: 'l1',
    severity: 'danger',
  },
  'fuse-place': {
    fires: withLead({ inline: [fuse(20, 0.19)] }),
    near: withLead({ inline: [fuse(20, 0.18)] }),
    place: 'l1',
    severity: 'danger',
  },
  // 10 AWG in open air carries 60 A at 30 °C, 57.97 A at 35 °C.
  'fuse-over-conductor': {
    fires: withLead({ inline: [fuse(60, 0.1, { type: 'strip' })] }),
    near: withLead({ inline: [fuse(50, 0.1, { type: 'strip' })] }),
    place: 'l1',
    severity: 'danger',
  },
  'fuse-nuisance': {
    fires: withRadio({ draw: { model: 'constant-current', idleA: 1, activeA: 16.5 } }),
    near: withRadio({ draw: { model: 'constant-current', idleA: 1, activeA: 16 } }),
    place: 'l1',
    severity: 'caution',
  },
  // 18 AWG carries 20 A at 30 °C, 19.32 A at 35 °C.
  ampacity: {
    fires: withRadio(
      { draw: { model: 'constant-current', idleA: 1, activeA: 19.5 } },
      { conductor: { awg: 18, insulationC: 105 }, lengthM: 0.3, inline: [fuse(15)] },
    ),
    near: withRadio(
      { draw: { model: 'constant-current', idleA: 1, activeA: 19 } },
      { conductor: { awg: 18, insulationC: 105 }, lengthM: 0.3, inline: [fuse(15)] },
    ),
    place: 'l1',
    severity: 'danger',
  },
  'copper-clad': {
    fires: withLead({ conductor: { awg: 10, insulationC: 105, material: 'cca' } }),
    near: withLead({ conductor: { awg: 10, insulationC: 105, material: 'copper' } }),
    place: 'l1',
  },
  // 12.92 V − 10 A × (10 + 6.56·(1.0082) + 1.5 + 3.75 mΩ) = 12.70 V.
  'arrival-under': {
    fires: withRadio({ supply: { minV: 12.72, nominalV: 13.8, maxV: 15.9 } }),
    near: withRadio({ supply: { minV: 12.68, nominalV: 13.8, maxV: 15.9 } }),
    place: 'hf',
    severity: 'fail',
  },
  'arrival-over': {
    fires: withRadio({ supply: { minV: 11, nominalV: 13, maxV: 13.55 } }),
    near: withRadio({ supply: { minV: 11, nominalV: 13, maxV: 13.6 } }),
    place: 'hf',
    severity: 'fail',
  },
  collapse: {
    fires: smallPlan({
      parts: [battery({ internalOhm: 0.5 }), load({ draw: { model: 'constant-power', idleW: 1, activeW: 95 } })],
      leads: [lead({ to: 'pc', ends: {} })],
    }),
    near: smallPlan({
      parts: [battery({ internalOhm: 0.5 }), load({ draw: { model: 'constant-power', idleW: 1, activeW: 75 } })],
      leads: [lead({ to: 'pc', ends: {} })],
    }),
    place: 'pc',
    severity: 'fail',
  },
  // 5 % of 13.8 V is 0.69 V: 10.2 m of 10 AWG, stranded and 2 °C warmed, at 10 A.
  drop: { fires: withLead({ lengthM: 10.4 }), near: withLead({ lengthM: 10.1 }), place: 'hf', severity: 'caution' },
  'power-sag': {
    fires: withRadio({ fullPowerAboveV: 12.8, powerW: 100 }),
    near: withRadio({ fullPowerAboveV: 12.6, powerW: 100 }),
    place: 'hf',
    severity: 'note',
  },
  'battery-peak': {
    fires: withBattery({ continuousA: 5, peakA: 9 }),
    near: withBattery({ continuousA: 11, peakA: 11 }),
    place: 'bat',
    severity: 'fail',
  },
  'battery-continuous': {
    fires: withBattery({ continuousA: 9.9, peakA: 20 }),
    near: withBattery({ continuousA: 10, peakA: 20 }),
    place: 'bat',
    severity: 'fail',
  },
  'lead-acid-depth': {
    fires: withBattery({ chemistry: 'agm', seriesCells: 6, usableFraction: 0.6 }),
    near: withBattery({ chemistry: 'agm', seriesCells: 6, usableFraction: 0.5 }),
    place: 'bat',
  },
  'supply-overload': {
    fires: smallPlan({ parts: [supply({ continuousA: 9 }), radio()] }),
    near: smallPlan({ parts: [supply({ continuousA: 10 }), radio()] }),
    place: 'bat',
    severity: 'fail',
  },
  // A rested lithium pack stands above an AGM battery, and fills it.
  'sources-joined': {
    fires: joined({}),
    near: joined({ closed: false }),
    place: 'agm',
    severity: 'caution',
  },
  island: {
    fires: smallPlan({ parts: [battery(), radio(), load()] }),
    near: smallPlan(),
    place: 'pc',
    severity: 'fail',
  },
  'block-rating': { fires: onBlock({ ratedA: 9.9 }), near: onBlock({ ratedA: 10 }), place: 'blk', severity: 'fail' },
  'port-rating': {
    fires: onBlock({ ports: [{ id: 'p1', ratedA: 9, fuse: { type: 'blade', ratedA: 15 }, connector: 'stack-45' }] }),
    near: onBlock({ ports: [{ id: 'p1', ratedA: 10, fuse: { type: 'blade', ratedA: 15 }, connector: 'stack-45' }] }),
    place: 'blk.p1',
    severity: 'fail',
  },
  'connector-mating': {
    fires: withRadio({ terminal: 'heavy-50' }),
    near: withRadio({ terminal: 'stack-30' }),
    place: 'hf',
    severity: 'fail',
  },
  'connector-rating': {
    fires: withRadio(
      { terminal: 'stack-30', draw: { model: 'constant-current', idleA: 1, activeA: 31 } },
      { conductor: { awg: 8, insulationC: 105 }, inline: [fuse(40)] },
    ),
    near: withRadio(
      { terminal: 'stack-45', draw: { model: 'constant-current', idleA: 1, activeA: 31 } },
      { conductor: { awg: 8, insulationC: 105 }, inline: [fuse(40)] },
    ),
    place: 'hf',
    severity: 'fail',
  },
  // 35 °C + 150 (I/45)² reaches 145 °C at 38.5 A.
  'connector-heat': {
    fires: withRadio(
      { draw: { model: 'constant-current', idleA: 1, activeA: 39 } },
      { conductor: { awg: 8, insulationC: 105 }, inline: [fuse(50, 0.1, { type: 'strip' })] },
    ),
    near: withRadio(
      { draw: { model: 'constant-current', idleA: 1, activeA: 38 } },
      { conductor: { awg: 8, insulationC: 105 }, inline: [fuse(50, 0.1, { type: 'strip' })] },
    ),
    place: 'hf',
    severity: 'caution',
  },
  'connector-conductor': {
    fires: withLead({ conductor: { awg: 8, insulationC: 105 } }),
    near: withLead({ conductor: { awg: 14, insulationC: 105 } }),
    place: 'hf',
    severity: 'caution',
  },
  'connector-crowded': {
    fires: smallPlan({
      parts: [battery(), radio(), load()],
      leads: [lead(), lead({ id: 'l2', to: 'pc', from: 'hf', ends: {}, inline: [fuse(5)] })],
    }),
    near: smallPlan({
      parts: [battery(), radio(), load()],
      leads: [lead(), lead({ id: 'l2', to: 'pc', ends: {}, inline: [fuse(5)] })],
    }),
    place: 'hf',
    severity: 'fail',
  },
  'dropper-idle': {
    fires: withRadio({ supply: { minV: 10, nominalV: 12, maxV: 12.7 } }, { inline: [fuse(20), dropper()] }),
    near: withRadio({ supply: { minV: 10, nominalV: 12, maxV: 13 } }, { inline: [fuse(20), dropper()] }),
    place: 'l1',
    severity: 'fail',
  },
  'dropper-rating': {
    fires: withLead({ inline: [fuse(20), dropper({ ratedA: 9 })] }),
    near: withLead({ inline: [fuse(20), dropper({ ratedA: 10 })] }),
    place: 'l1',
    severity: 'danger',
  },
  'dropper-direction': {
    fires: smallPlan({
      parts: [battery(), radio({ kind: 'load', draw: { model: 'resistive', idleW: 1, activeW: 20 } })],
      leads: [lead({ inline: [fuse(20), dropper({ stripe: 'from' })] })],
    }),
    near: smallPlan({
      parts: [battery(), radio({ kind: 'load', draw: { model: 'resistive', idleW: 1, activeW: 20 } })],
      leads: [lead({ inline: [fuse(20), dropper({ stripe: 'to' })] })],
    }),
    place: 'l1',
    severity: 'fail',
  },
}
