import type { Pair } from './pairs'
import { battery, fuse, lead, load, radio, smallPlan } from './plans'

type Loose = Record<string, unknown>
const end = (connector: string) => ({ connector, method: 'crimp' })
const ends = (from: string, to: string) => ({ from: end(from), to: end(to) })

/** A pack, a radio, and an alarm on the radio's wire. */
const alarmed = (monitor: Loose, hf: Loose = {}) =>
  smallPlan({
    parts: [
      battery(),
      radio(hf),
      { id: 'mon', kind: 'monitor', style: 'alarm', terminal: 'stack-15', ...monitor },
      { id: 'y', kind: 'joint', style: 'busbar', connector: 'ring-m6' },
    ],
    leads: [
      lead({ to: 'y.a', ends: ends('ring-m6', 'ring-m6') }),
      lead({ id: 'l2', from: 'y.b', ends: ends('ring-m6', 'stack-45'), inline: [fuse(20, 0.05, { id: 'f2' })] }),
      lead({
        id: 'l3',
        from: 'y.c',
        to: 'mon',
        conductor: { awg: 18, insulationC: 105 },
        ends: ends('ring-m6', 'stack-15'),
        inline: [fuse(2, 0.05, { id: 'f3' })],
      }),
    ],
  })

/** A supply and a pack on a gate, a radio and what else hangs on its output. */
const gated = (gate: Loose, hf: Loose = {}, supply: Loose = {}) =>
  smallPlan({
    parts: [
      battery({ maxChargeA: 25, lockOut: true }),
      {
        id: 'psu',
        kind: 'supply',
        setV: 13.8,
        continuousA: 25,
        outputOhm: 0.01,
        terminal: 'stack-45',
        ...supply,
      },
      { id: 'g', kind: 'gate', maxA: 40, supply: 'stack-45', battery: 'stack-45', out: 'stack-45', ...gate },
      radio(hf),
    ],
    leads: [
      lead({ id: 's', from: 'psu', to: 'g.supply', ends: ends('stack-45', 'stack-45') }),
      lead({ id: 'b', from: 'bat', to: 'g.battery', ends: ends('ring-m6', 'stack-45') }),
      lead({ id: 'o', from: 'g.out', to: 'hf', ends: ends('stack-45', 'stack-45') }),
    ],
  })

/** A pack with a controller in full sun, a lamp on the controller's load terminal. */
const onTerminal = (controller: Loose) =>
  smallPlan({
    parts: [
      battery({ maxChargeA: 25, lockOut: true }),
      {
        id: 'ctl',
        kind: 'controller',
        type: 'mppt',
        maxPanelV: 75,
        maxPanelA: 20,
        maxChargeA: 10,
        maxLoadA: 10,
        chemistries: { lifepo4: { absorptionV: 14.4, floatV: 13.5 } },
        set: 'lifepo4',
        panel: 'screw',
        battery: 'screw',
        load: 'screw',
        ...controller,
      },
      load({ terminal: 'screw' }),
    ],
    leads: [
      lead({ id: 'c', from: 'ctl.battery', to: 'bat', ends: ends('fork', 'ring-m6'), inline: [fuse(20, 0.9)] }),
      lead({ id: 'l1', from: 'ctl.load', to: 'pc', ends: ends('fork', 'fork'), inline: [fuse(10, 0.05)] }),
    ],
  })

/** A compressor on an inverter on a pack. */
const inverted = (compressor: Loose, bat: Loose = {}) =>
  smallPlan({
    parts: [
      battery({ capacityAh: 100, continuousA: 100, peakA: 150, ...bat }),
      {
        id: 'inv',
        kind: 'inverter',
        input: { minV: 10.5, maxV: 15.5 },
        ratedW: 600,
        surgeW: 1500,
        acLoads: [{ name: 'Compressor', watts: 200, ...compressor }],
        in: 'ring-m8',
      },
    ],
    leads: [
      lead({
        to: 'inv.in',
        conductor: { awg: 4, insulationC: 105 },
        ends: ends('ring-m6', 'ring-m8'),
        inline: [fuse(100, 0.1, { type: 'strip-high' })],
      }),
    ],
  })

/** A radio on a vehicle's battery. */
const mobile = (site: Loose, vehicle: Loose = {}) =>
  smallPlan({
    site,
    parts: [
      {
        id: 'car',
        kind: 'vehicle',
        engineOnV: 14.2,
        engineOffV: 12.6,
        internalOhm: 0.01,
        terminal: 'ring-m8',
        ...vehicle,
      },
      radio(),
    ],
    leads: [
      lead({ from: 'car', ends: ends(vehicle.terminal === 'accessory-12v' ? 'accessory-12v' : 'ring-m8', 'stack-45') }),
    ],
  })

/** Two panels in series on a controller, as one part. */
const twoPanels = (second: Loose) => {
  const one = { openCircuitV: 22, shortCircuitA: 5.6, maxPowerV: 18, maxPowerA: 5 }
  const whole = { openCircuitV: 44, shortCircuitA: 5.6, maxPowerV: 36, maxPowerA: 5 }
  const plan = onTerminal({})
  return smallPlan({
    parts: [
      ...plan.parts,
      { id: 'sun', kind: 'panel', ...whole, members: [one, { ...one, ...second }], terminal: 'pv-single' },
    ] as Loose[],
    leads: [
      ...plan.leads,
      lead({ id: 'p', from: 'sun', to: 'ctl.panel', lengthM: 4, ends: ends('pv-single', 'fork'), inline: [] }),
    ] as Loose[],
  })
}

const bothLegs = [fuse(20, 0.1, { legs: 'both' })]

/** Plans for what a part says of itself beside its voltages and currents. */
export const FIELD_PAIRS: Record<string, Pair> = {
  'monitor-threshold': {
    fires: alarmed({ underV: 10.5 }),
    near: alarmed({ underV: 11.5, overV: 15.5 }),
    place: 'mon',
    severity: 'caution',
  },
  'monitor-shunt': {
    fires: alarmed({ style: 'shunt', shuntA: 5 }),
    near: alarmed({ style: 'shunt', shuntA: 50 }),
    place: 'mon',
    severity: 'caution',
  },
  'gate-transfer': { fires: gated({ transferV: 13.8 }), near: gated({ transferV: 13 }), place: 'g', severity: 'fail' },
  'gate-gap': { fires: gated({ gapMs: 60 }), near: gated({ gapMs: 5 }), place: 'g', severity: 'caution' },
  'load-cut-off': {
    fires: onTerminal({ lowVoltageCutV: 13 }),
    near: onTerminal({ lowVoltageCutV: 12 }),
    place: 'ctl',
    severity: 'fail',
  },
  'load-timer': { fires: onTerminal({ loadTimerH: 5 }), near: onTerminal({}), place: 'ctl', severity: 'caution' },
  // 2,000 W at 0.88 and about 12.5 V is 182 A, over the 150 A the pack gives for a moment; 1,200 W is 109 A.
  'inverter-surge': {
    fires: inverted({ surgeW: 2000 }),
    near: inverted({ surgeW: 1200 }),
    place: 'inv',
    severity: 'fail',
  },
  'inverter-unsaid': {
    fires: inverted({ watts: 0 }),
    near: inverted({ watts: 1 }),
    place: 'inv',
    severity: 'note',
  },
  'panel-members': {
    fires: twoPanels({ maxPowerA: 3 }),
    near: twoPanels({ maxPowerA: 4.9 }),
    place: 'sun',
    severity: 'caution',
  },
  'own-pack-uncharged': {
    fires: smallPlan({ parts: [battery(), radio({ internalBattery: { capacityAh: 2.4, chargesAboveV: 14 } })] }),
    near: smallPlan({ parts: [battery(), radio({ internalBattery: { capacityAh: 2.4, chargesAboveV: 13 } })] }),
    place: 'hf',
    severity: 'note',
  },
  'shield-return': {
    fires: smallPlan({ site: { ground: 'common' }, leads: [lead({ inline: bothLegs })] }),
    near: smallPlan({ site: { ground: 'none' }, leads: [lead({ inline: bothLegs })] }),
    place: 'l1',
    severity: 'caution',
  },
  'both-legs-asked': {
    fires: mobile({}),
    near: mobile({ schools: { fuseLegs: 'positive' } }),
    place: 'hf',
    severity: 'note',
  },
  'socket-fuse': {
    fires: mobile({}, { terminal: 'accessory-12v' }),
    near: mobile({}, { terminal: 'accessory-12v', fuse: { type: 'blade', ratedA: 15 } }),
    place: 'car',
    severity: 'note',
  },
}
