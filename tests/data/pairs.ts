/* eslint-disable max-lines -- a table of plans, one pair for each check */
import type { Plan } from '../../core/plan/schema'
import { BASIC_PAIRS } from './basicPairs'
import { FIELD_PAIRS } from './fieldPairs'
import { battery, block, fuse, lead, load, radio, smallPlan } from './plans'

/** For a check: a plan that makes it fire at a place, and one near it that does not. */
export interface Pair {
  fires: Plan
  near: Plan
  place: string
  severity?: string
}

type Loose = Record<string, unknown>
const ends = (from: string, to: string) => ({
  from: { connector: from, method: 'crimp' },
  to: { connector: to, method: 'crimp' },
})
const profile = (absorptionV: number, floatV: number | null) => ({ absorptionV, floatV })

/** A pack, a radio on it, and a charging device with what feeds it. */
const controller = (more: Loose = {}) => ({
  id: 'ctl',
  kind: 'controller',
  type: 'mppt',
  maxPanelV: 75,
  maxPanelA: 20,
  maxChargeA: 10,
  chemistries: { lifepo4: profile(14.4, 13.5), agm: profile(14.6, 13.6) },
  set: 'lifepo4',
  lockOut: true,
  panel: 'screw',
  battery: 'screw',
  load: 'screw',
  ...more,
})
const panel = (more: Loose = {}) => ({
  id: 'sun',
  kind: 'panel',
  openCircuitV: 44,
  shortCircuitA: 5.6,
  maxPowerV: 36,
  maxPowerA: 5,
  terminal: 'pv-single',
  ...more,
})
const chargeLead = (more: Loose = {}) =>
  lead({ id: 'c', from: 'ctl.battery', to: 'bat', ends: ends('fork', 'ring-m6'), inline: [fuse(20, 0.9)], ...more })
const panelLead = (more: Loose = {}) =>
  lead({ id: 'p', from: 'sun', to: 'ctl.panel', lengthM: 4, ends: ends('pv-single', 'fork'), inline: [], ...more })
const charger = (more: Loose = {}) => ({
  id: 'chg',
  kind: 'charger',
  maxA: 10,
  chemistries: { lifepo4: profile(14.4, 13.5), agm: profile(14.6, 13.6) },
  set: 'lifepo4',
  lockOut: true,
  terminal: 'ring-m6',
  ...more,
})
const gate = (more: Loose = {}) => ({
  id: 'g',
  kind: 'gate',
  maxA: 40,
  chargeAmps: [1, 4, 10],
  chargeA: 4,
  chemistries: { lifepo4: profile(14.4, 13.5) },
  set: 'lifepo4',
  lockOut: true,
  supply: 'stack-45',
  battery: 'stack-45',
  out: 'stack-45',
  ...more,
})
const sunny = (ctl: Loose = {}, sun: Loose = {}, bat: Loose = {}, site: Loose = {}, leads: Loose[] = []) =>
  smallPlan({
    site,
    parts: [battery({ maxChargeA: 25, ...bat }), radio(), controller(ctl), panel(sun)],
    leads: [lead(), chargeLead(), panelLead(), ...leads],
  })
const charged = (chg: Loose = {}, bat: Loose = {}, site: Loose = {}) =>
  smallPlan({
    site,
    parts: [battery({ maxChargeA: 25, ...bat }), radio(), charger(chg)],
    leads: [
      lead(),
      lead({ id: 'c', from: 'chg', to: 'bat', ends: ends('ring-m6', 'ring-m6'), inline: [fuse(20, 0.9)] }),
    ],
  })
const supplied = (more: Loose = {}, gateMore: Loose = {}) =>
  smallPlan({
    parts: [
      battery({ maxChargeA: 25 }),
      {
        id: 'psu',
        kind: 'supply',
        setV: 13.8,
        continuousA: 15,
        peakA: 17,
        outputOhm: 0.01,
        terminal: 'stack-45',
        ...more,
      },
      gate(gateMore),
      radio(),
    ],
    leads: [
      lead({ id: 's', from: 'psu', to: 'g.supply', ends: ends('stack-45', 'stack-45') }),
      lead({ id: 'b', from: 'bat', to: 'g.battery', ends: ends('ring-m6', 'stack-45') }),
      lead({ id: 'o', from: 'g.out', to: 'hf', ends: ends('stack-45', 'stack-45') }),
    ],
  })
const member = (more: Loose = {}) => ({ string: 1, ...more })
const withMembers = (members: Loose[], bat: Loose = {}) => smallPlan({ parts: [battery({ members, ...bat }), radio()] })
const regulated = (conv: Loose = {}, bat: Loose = {}, hf: Loose = {}) =>
  smallPlan({
    parts: [
      battery(bat),
      {
        id: 'bb',
        kind: 'converter',
        topology: 'buck-boost',
        input: { minV: 9, maxV: 20 },
        outV: 13.8,
        maxOutA: 25,
        in: 'stack-45',
        out: 'stack-45',
        ...conv,
      },
      radio(hf),
    ],
    leads: [
      lead({ id: 'l1', to: 'bb.in' }),
      lead({ id: 'l2', from: 'bb.out', inline: [], ends: ends('stack-45', 'stack-45') }),
    ],
  })
const usb = (bank: Loose = {}, log: Loose = {}, trigger: Loose = {}) =>
  smallPlan({
    parts: [
      {
        id: 'bank',
        kind: 'usbSource',
        voltages: [
          { volts: 5, amps: 3 },
          { volts: 9, amps: 3 },
          { volts: 12, amps: 3 },
        ],
        terminal: 'usb-c',
        ...bank,
      },
      { id: 'trig', kind: 'trigger', requestV: 12, maxA: 3, in: 'usb-c', out: 'barrel-5521', ...trigger },
      load({
        id: 'hf',
        supply: { minV: 8, nominalV: 12, maxV: 15 },
        draw: { model: 'constant-current', idleA: 0.2, activeA: 1 },
        terminal: 'barrel-5521',
        ...log,
      }),
    ],
    leads: [
      lead({
        id: 'u',
        from: 'bank',
        to: 'trig.in',
        lengthM: 0.3,
        conductor: { awg: 20 },
        ends: ends('usb-c', 'usb-c'),
        inline: [],
      }),
      lead({
        id: 'l1',
        from: 'trig.out',
        lengthM: 0.3,
        conductor: { awg: 20 },
        ends: ends('barrel-5521', 'barrel-5521'),
        inline: [],
      }),
    ],
  })
const inverter = (more: Loose = {}) =>
  smallPlan({
    parts: [
      battery({ continuousA: 100, peakA: 200 }),
      {
        id: 'inv',
        kind: 'inverter',
        input: { minV: 10.5, maxV: 15.5 },
        ratedW: 300,
        surgeW: 600,
        acLoads: [{ name: 'lamp', watts: 100, surgeW: 200 }],
        in: 'ring-m8',
        ...more,
      },
    ],
    leads: [
      lead({
        to: 'inv.in',
        conductor: { awg: 4, insulationC: 105 },
        ends: ends('ring-m6', 'ring-m8'),
        inline: [fuse(100, 0.1, { type: 'strip' })],
      }),
    ],
  })
const vehicle = (more: Loose = {}, inline: Loose[] = [fuse(40, 0.1, { type: 'strip' })], bat: Loose = {}) =>
  smallPlan({
    parts: [
      { id: 'car', kind: 'vehicle', engineOnV: 14.2, engineOffV: 12.5, internalOhm: 0.01, terminal: 'ring-m6' },
      {
        id: 'dc',
        kind: 'converter',
        topology: 'buck-boost',
        input: { minV: 11, maxV: 16 },
        outV: 14.4,
        maxOutA: 20,
        charges: { chemistries: { lifepo4: profile(14.4, 13.5) }, set: 'lifepo4' },
        lockOut: true,
        in: 'ring-m6',
        out: 'ring-m6',
        ...more,
      },
      battery({ maxChargeA: 25, ...bat }),
      radio(),
    ],
    leads: [
      lead({
        id: 'v',
        from: 'car',
        to: 'dc.in',
        conductor: { awg: 8, insulationC: 105 },
        ends: ends('ring-m6', 'ring-m6'),
        inline,
      }),
      lead({ id: 'c', from: 'dc.out', to: 'bat', ends: ends('ring-m6', 'ring-m6'), inline: [fuse(25, 0.9)] }),
      lead(),
    ],
  })
const harness = (legInline: Loose[]) =>
  smallPlan({
    parts: [
      battery(),
      { id: 'y', kind: 'joint', style: 'harness', connector: 'stack-45' },
      radio({ draw: { model: 'constant-current', idleA: 1, activeA: 6 } }),
      load({ terminal: 'stack-45' }),
    ],
    leads: [
      lead({ to: 'y.a' }),
      lead({ id: 'h', from: 'y.b', ends: ends('stack-45', 'stack-45'), inline: legInline }),
      lead({ id: 'k', from: 'y.c', to: 'pc', ends: ends('stack-45', 'stack-45'), inline: legInline }),
    ],
  })
const withLead = (more: Loose) => smallPlan({ leads: [lead(more)] })
const strongBattery = (internalOhm: number, fuseMore: Loose = {}) =>
  smallPlan({ parts: [battery({ internalOhm }), radio()], leads: [lead({ inline: [fuse(20, 0.1, fuseMore)] })] })
const adapters = (count: number) =>
  smallPlan({
    parts: [
      battery(),
      ...Array.from({ length: count }, (_, i) => ({
        id: `a${i}`,
        kind: 'adapter',
        a: 'stack-45',
        b: 'stack-45',
        ratedA: 45,
      })),
      radio(),
    ],
    leads: [
      lead({ to: 'a0.a' }),
      ...Array.from({ length: count }, (_, i) =>
        lead({
          id: `x${i}`,
          from: `a${i}.b`,
          to: i + 1 < count ? `a${i + 1}.a` : 'hf',
          lengthM: 0.1,
          ends: ends('stack-45', 'stack-45'),
          inline: [],
        }),
      ),
    ],
  })
const twoOnBlock = (hfA: number, pcW: number, feed = 'stack-45') =>
  smallPlan({
    parts: [
      battery(),
      block([40, 30], { feed }),
      radio({ draw: { model: 'constant-current', idleA: 1, activeA: hfA } }),
      radio({ id: 'r2', draw: { model: 'constant-current', idleA: 1, activeA: pcW } }),
    ],
    leads: [
      lead({ to: 'blk.feed', lengthM: 0.4, ends: ends('ring-m6', feed), inline: [fuse(60, 0.1, { type: 'strip' })] }),
      lead({ id: 'h', from: 'blk.p1', lengthM: 0.5, ends: ends('stack-45', 'stack-45'), inline: [] }),
      lead({ id: 'k', from: 'blk.p2', to: 'r2', lengthM: 0.5, ends: ends('stack-45', 'stack-45'), inline: [] }),
    ],
  })
const selective = (upstream: Loose) =>
  smallPlan({
    parts: [
      battery({ internalOhm: 0.02 }),
      block([15, 15]),
      radio(),
      radio({ id: 'vhf', draw: { model: 'constant-current', idleA: 0.5, activeA: 5 } }),
    ],
    leads: [
      lead({ id: 'm', to: 'blk.feed', ends: ends('ring-m6', 'ring-m6'), inline: [upstream] }),
      lead({ from: 'blk.p1', inline: [], ends: ends('stack-45', 'stack-45') }),
      lead({ id: 'l2', from: 'blk.p2', to: 'vhf', inline: [], ends: ends('stack-45', 'stack-45') }),
    ],
  })
const breakers = (note?: string) =>
  smallPlan({
    parts: [battery(), battery({ id: 'b2' }), radio()],
    leads: [
      lead(),
      lead({
        id: 'tie',
        from: 'bat',
        to: 'b2',
        ends: ends('ring-m6', 'ring-m6'),
        inline: [
          { id: 'k1', kind: 'breaker', ratedA: 30, atM: 0.1, ...(note && { note }) },
          fuse(30, 0.9, { id: 'f2', type: 'strip' }),
        ],
      }),
    ],
  })

const flooded = (more: Loose = {}) => ({
  chemistry: 'flooded',
  seriesCells: 6,
  internalOhm: 0.02,
  capacityAh: 100,
  ...more,
})
const floodedCharger = { chemistries: { flooded: profile(14.6, 13.4) }, set: 'flooded' }
const onLoadTerminal = (site: Loose = {}, maxLoadA = 20) =>
  smallPlan({
    site,
    parts: [battery({ maxChargeA: 25 }), radio(), controller({ maxLoadA }), panel()],
    leads: [lead({ from: 'ctl.load', ends: ends('fork', 'stack-45'), inline: [] }), chargeLead(), panelLead()],
  })
const onBattery = smallPlan({
  parts: [battery({ maxChargeA: 25 }), radio(), controller({ maxLoadA: 20 }), panel()],
  leads: [lead(), chargeLead(), panelLead()],
})
const hookUp = (order: string[]) => ({ ...sunny(), hookUp: order })
const generator = (ratedW: number) =>
  smallPlan({
    parts: [
      { id: 'gen', kind: 'generator', ratedW, feeds: ['psu'] },
      { id: 'psu', kind: 'supply', setV: 13.8, continuousA: 30, peakA: 32, terminal: 'ring-m6' },
      radio(),
    ],
    leads: [lead({ from: 'psu' })],
  })
/** A panel on a pack, with a controller between or not. */
const bareSun = (bare: boolean) =>
  smallPlan({
    parts: [
      battery({ maxChargeA: 25 }),
      { id: 'sun', kind: 'panel', openCircuitV: 22, shortCircuitA: 6, maxPowerV: 18, maxPowerA: 5.5 },
      {
        id: 'ctl',
        kind: 'controller',
        type: 'pwm',
        maxPanelV: 30,
        maxChargeA: 10,
        set: 'lifepo4',
        chemistries: { lifepo4: { absorptionV: 14.4 } },
      },
      radio(),
    ],
    leads: [
      lead(),
      lead({ id: 's', from: 'sun', to: bare ? 'bat' : 'ctl.panel', ends: {} }),
      lead({ id: 'c', from: 'ctl.battery', to: 'bat', ends: {} }),
    ],
  })

const inFrost = (low: number) =>
  smallPlan({
    site: { ambientC: { low, typical: 5, high: 30 } },
    parts: [battery({ chemistry: 'agm', seriesCells: 6 }), radio({ supply: { minV: 10, nominalV: 13.8, maxV: 15.9 } })],
  })
const fusedContact = (ratedA: number) =>
  smallPlan({ leads: [lead({ conductor: { awg: 6, insulationC: 105 }, inline: [fuse(ratedA)] })] })
/** 16 A of short-circuit current want 25 A of conductor. */
const sunLead = (awg: number) => {
  const plan = sunny({ maxPanelA: 30 }, { shortCircuitA: 16, maxPowerA: 15 })
  return {
    ...plan,
    leads: plan.leads.map(l => (l.from === 'sun' ? { ...l, conductor: { awg, insulationC: 105 } } : l)),
  }
}

/** A low lithium bank behind an isolator relay. */
const onAlternator = (alternatorSpareA: number) =>
  smallPlan({
    parts: [
      battery({ capacityAh: 200, internalOhm: 0.004, maxChargeA: 200 }),
      { id: 'eng', kind: 'vehicle', engineOnV: 14.2, engineOffV: 12.6, internalOhm: 0.006, alternatorSpareA },
      radio(),
    ],
    leads: [
      lead(),
      lead({ id: 'e', from: 'eng', to: 'bat', conductor: { awg: 2 }, ends: {}, inline: [{ id: 'r', kind: 'switch' }] }),
    ],
  })

/** A charger whose mains side hangs on an inverter on the battery that it fills. */
const looped = (fedBy: string | undefined) =>
  smallPlan({
    parts: [
      battery({ maxChargeA: 25 }),
      { id: 'inv', kind: 'inverter', input: { minV: 10.5, maxV: 15.5 }, ratedW: 600, efficiency: 0.88, idleW: 5 },
      { id: 'chg', kind: 'charger', maxA: 10, set: 'lifepo4', chemistries: { lifepo4: { absorptionV: 14.4 } }, fedBy },
      radio(),
    ],
    leads: [
      lead(),
      lead({ id: 'i', from: 'bat', to: 'inv.in', ends: {} }),
      lead({ id: 'c', from: 'chg', to: 'bat', ends: {} }),
    ],
  })

const switched = (ratedA: number) =>
  smallPlan({
    parts: [battery(), radio()],
    leads: [lead({ inline: [fuse(20), { id: 's', kind: 'switch', ratedA, atM: 0.3 }] })],
  })

const joinedSupply = (setV: number) =>
  smallPlan({
    parts: [
      battery(),
      {
        id: 'psu',
        kind: 'supply',
        setV,
        adjustable: { minV: 13, maxV: 15 },
        continuousA: 30,
        peakA: 32,
        outputOhm: 0.05,
        terminal: 'ring-m6',
      },
      radio(),
    ],
    leads: [
      lead(),
      lead({
        id: 's',
        from: 'psu',
        to: 'bat',
        ends: ends('ring-m6', 'ring-m6'),
        inline: [fuse(40, 0.9, { type: 'strip' })],
      }),
    ],
  })

/** Every check's pair. */
export const PAIRS: Record<string, Pair> = {
  ...BASIC_PAIRS,
  ...FIELD_PAIRS,
  'fuse-interrupting': {
    fires: strongBattery(0.004),
    near: strongBattery(0.004, { type: 'cartridge' }),
    place: 'l1',
    severity: 'danger',
  },
  'fuse-voltage': {
    fires: smallPlan({
      parts: [battery({ seriesCells: 12 }), radio({ supply: { minV: 30, maxV: 50 } })],
      leads: [lead()],
    }),
    near: smallPlan({
      parts: [battery({ seriesCells: 12 }), radio({ supply: { minV: 30, maxV: 50 } })],
      leads: [lead({ inline: [fuse(20, 0.1, { type: 'cartridge' })] })],
    }),
    place: 'l1',
    severity: 'danger',
  },
  // 22 AWG (0.33 mm², PVC) withstands (115 · 0.326)² = 1.4 kA²s; a 10 A thermal breaker lets far more through.
  'short-conductor': {
    fires: smallPlan({
      parts: [battery(), radio({ draw: { model: 'constant-current', idleA: 0.1, activeA: 2 } })],
      leads: [
        lead({ conductor: { awg: 22, insulationC: 70 }, inline: [{ id: 'k', kind: 'breaker', ratedA: 5, atM: 0.1 }] }),
      ],
    }),
    near: smallPlan({
      parts: [battery(), radio({ draw: { model: 'constant-current', idleA: 0.1, activeA: 2 } })],
      leads: [lead({ conductor: { awg: 22, insulationC: 70 }, inline: [fuse(5)] })],
    }),
    place: 'l1',
    severity: 'danger',
  },
  'fuse-selectivity': {
    fires: selective(fuse(20)),
    near: selective(fuse(60, 0.1, { type: 'strip' })),
    place: 'l1',
    severity: 'caution',
  },
  'fuse-legs': {
    fires: smallPlan({ site: { schools: { fuseLegs: 'both' } } }),
    near: smallPlan({
      site: { schools: { fuseLegs: 'both' } },
      leads: [lead({ inline: [fuse(20, 0.1, { legs: 'both' })] })],
    }),
    place: 'l1',
  },
  'fuse-each-connection': {
    fires: smallPlan({
      site: { schools: { fusePlacing: 'each-connection' } },
      parts: [battery(), { id: 'y', kind: 'joint', connector: 'stack-45' }, radio()],
      leads: [lead({ to: 'y.a' }), lead({ id: 'h', from: 'y.b', ends: ends('stack-45', 'stack-45'), inline: [] })],
    }),
    near: smallPlan({
      parts: [battery(), { id: 'y', kind: 'joint', connector: 'stack-45' }, radio()],
      leads: [lead({ to: 'y.a' }), lead({ id: 'h', from: 'y.b', ends: ends('stack-45', 'stack-45'), inline: [] })],
    }),
    place: 'h',
  },
  'harness-unfused': { fires: harness([]), near: harness([fuse(10)]), place: 'y', severity: 'caution' },
  'bms-as-fuse': {
    fires: smallPlan({ parts: [battery({ bms: { peakA: 60 } }), radio()], leads: [lead({ inline: [] })] }),
    near: smallPlan({ parts: [battery({ bms: { peakA: 60 } }), radio()] }),
    place: 'bat',
    severity: 'danger',
  },
  'breaker-over-bms': {
    fires: smallPlan({ parts: [battery({ bms: { peakA: 25 } }), radio()] }),
    near: smallPlan({ parts: [battery({ bms: { peakA: 30 } }), radio()] }),
    place: 'l1',
  },
  'still-live': { fires: breakers(), near: breakers('live on both sides when off'), place: 'tie', severity: 'note' },
  'insulation-heat': {
    fires: smallPlan({
      site: { zones: [{ id: 'bay', ambientC: { low: 0, typical: 30, high: 60 } }] },
      parts: [battery({ zone: 'bay' }), radio()],
      leads: [lead({ conductor: { awg: 10, insulationC: 70 } })],
    }),
    near: withLead({ conductor: { awg: 10, insulationC: 70 } }),
    place: 'l1',
    severity: 'caution',
  },
  'packs-parallel': {
    fires: withMembers([member({ restedV: 13.4 }), member({ string: 2, restedV: 13.1 })], { capacityAh: 50 }),
    near: withMembers([member({ restedV: 13.3 }), member({ string: 2, restedV: 13.28 })]),
    place: 'bat',
  },
  'packs-series': {
    fires: withMembers([member({ seriesCells: 2, capacityAh: 50 }), member({ seriesCells: 2, capacityAh: 40 })], {
      capacityAh: 40,
    }),
    near: withMembers([member({ seriesCells: 2 }), member({ seriesCells: 2 })]),
    place: 'bat',
  },
  'members-sum': {
    fires: withMembers([member({ seriesCells: 4 }), member({ seriesCells: 4 })]),
    near: withMembers([
      member({ seriesCells: 4, capacityAh: 25 }),
      member({ seriesCells: 4, capacityAh: 25, string: 2 }),
    ]),
    place: 'bat',
  },
  'converter-input': {
    fires: regulated({ input: { minV: 12.9, maxV: 20 } }),
    near: regulated(),
    place: 'bb',
    severity: 'fail',
  },
  'converter-dropout': {
    fires: regulated({ topology: 'buck', outV: 13 }),
    near: regulated({ topology: 'buck', outV: 12 }),
    place: 'bb',
    severity: 'caution',
  },
  'usb-voltage': {
    fires: usb({
      voltages: [
        { volts: 5, amps: 3 },
        { volts: 9, amps: 3 },
        { volts: 15, amps: 3 },
      ],
    }),
    near: usb(),
    place: 'trig',
    severity: 'fail',
  },
  'usb-current': {
    fires: usb({
      voltages: [
        { volts: 5, amps: 3 },
        { volts: 12, amps: 0.8 },
      ],
    }),
    near: usb(),
    place: 'bank',
    severity: 'fail',
  },
  'usb-sleep': { fires: usb({ autoOffA: 0.3 }), near: usb({ autoOffA: 0.1 }), place: 'bank', severity: 'fail' },
  'inverter-load': {
    fires: inverter({ acLoads: [{ name: 'drill', watts: 200, surgeW: 900 }] }),
    near: inverter(),
    place: 'inv',
    severity: 'fail',
  },
  // 44 V at 25 °C is 47.3 V at 0 °C.
  'panel-cold-voltage': {
    fires: sunny({ maxPanelV: 47 }),
    near: sunny({ maxPanelV: 48 }),
    place: 'ctl',
    severity: 'danger',
  },
  'panel-current': {
    fires: sunny({ maxPanelA: 6.9 }),
    near: sunny({ maxPanelA: 7.1 }),
    place: 'ctl',
    severity: 'fail',
  },
  'pwm-mismatch': {
    fires: sunny({ type: 'pwm' }),
    near: sunny({ type: 'pwm' }, { openCircuitV: 22, maxPowerV: 18 }),
    place: 'ctl',
    severity: 'caution',
  },
  'charge-chemistry': { fires: sunny({ set: 'agm' }), near: sunny(), place: 'ctl', severity: 'danger' },
  'charge-voltage': {
    fires: charged({ chemistries: { lifepo4: profile(15, 13.5) } }),
    near: charged({ chemistries: { lifepo4: profile(14.5, 13.5) } }),
    place: 'chg',
    severity: 'danger',
  },
  'charge-current': {
    fires: charged({ maxA: 15 }, { maxChargeA: 10 }),
    near: charged({ maxA: 10 }, { maxChargeA: 10 }),
    place: 'bat',
    severity: 'danger',
  },
  'charge-rate-low': { fires: charged({ maxA: 0.9 }), near: charged({ maxA: 2 }), place: 'chg', severity: 'caution' },
  'lithium-cold': {
    fires: charged({ lockOut: false }, {}, { ambientC: { low: -4, typical: 10, high: 30 } }),
    near: charged({}, {}, { ambientC: { low: -4, typical: 10, high: 30 } }),
    place: 'bat',
    severity: 'danger',
  },
  ventilation: {
    fires: charged(floodedCharger, flooded()),
    near: charged(floodedCharger, flooded({ ventilated: true })),
    place: 'bat',
    severity: 'danger',
  },
  'load-terminal': { fires: onLoadTerminal({}, 8), near: onLoadTerminal({}, 12), place: 'ctl.load', severity: 'fail' },
  'vehicle-engine-off': { fires: vehicle(), near: vehicle({ ignition: true }), place: 'dc', severity: 'caution' },
  'supply-charge': { fires: supplied({}, { chargeA: 10 }), near: supplied(), place: 'psu', severity: 'fail' },
  'supply-as-charger': { fires: joinedSupply(13.9), near: joinedSupply(13.8), place: 'psu', severity: 'caution' },
  'source-over-battery': {
    fires: joinedSupply(15),
    near: joinedSupply(14.6),
    place: 'bat',
    severity: 'danger',
  },
  'panel-hot-voltage': { fires: sunny({}, { maxPowerV: 17 }), near: sunny(), place: 'ctl', severity: 'fail' },
  'panel-conductor': { fires: sunLead(16), near: sunLead(14), place: 'p', severity: 'fail' },
  'panel-strings': {
    fires: sunny({}, { members: [1, 2, 3].map(string => ({ string })) }),
    near: sunny({}, { members: [1, 2].map(string => ({ string })) }),
    place: 'sun',
    severity: 'danger',
  },
  // Half empty it freezes at −25 °C.
  'battery-freezes': { fires: inFrost(-26), near: inFrost(-24), place: 'bat', severity: 'caution' },
  'fuse-over-contact': { fires: fusedContact(60), near: fusedContact(45), place: 'hf', severity: 'caution' },
  'panel-direct': { fires: bareSun(true), near: bareSun(false), place: 'sun', severity: 'danger' },
  'charger-unset': {
    fires: charged({ set: undefined, chemistries: { lifepo4: profile(14.4, 13.5), agm: profile(14.6, 13.6) } }),
    near: charged({ set: undefined, chemistries: { lifepo4: profile(14.4, 13.5) } }),
    place: 'chg',
    severity: 'caution',
  },
  'alternator-overdrawn': { fires: onAlternator(40), near: onAlternator(200), place: 'eng', severity: 'fail' },
  'charger-loop': { fires: looped('inv'), near: looped(undefined), place: 'chg', severity: 'fail' },
  'charged-elsewhere': {
    fires: charged({}, { charged: 'elsewhere' }),
    near: charged({}, { charged: 'in-place' }),
    place: 'bat',
    severity: 'caution',
  },
  'strings-unfused': {
    fires: withMembers([1, 2, 3].map(string => member({ string, fused: string > 1 }))),
    near: withMembers([1, 2, 3].map(string => member({ string, fused: true }))),
    place: 'bat',
    severity: 'danger',
  },
  'item-rating': { fires: switched(9), near: switched(10), place: 'l1', severity: 'caution' },
  'generator-load': { fires: generator(400), near: generator(600), place: 'gen', severity: 'fail' },
  'accessory-transmitter': {
    fires: smallPlan({
      parts: [battery({ terminal: 'accessory-12v' }), radio()],
      leads: [lead({ conductor: { awg: 14, insulationC: 105 }, ends: ends('accessory-12v', 'stack-45') })],
    }),
    near: smallPlan({
      parts: [
        battery({ terminal: 'accessory-12v' }),
        radio({ draw: { model: 'constant-current', idleA: 0.1, activeA: 2 } }),
      ],
      leads: [lead({ conductor: { awg: 14, insulationC: 105 }, ends: ends('accessory-12v', 'stack-45') })],
    }),
    place: 'l1',
    severity: 'caution',
  },
  'adapters-in-row': { fires: adapters(2), near: adapters(1), place: 'hf', severity: 'caution' },
  'exposed-pins': {
    fires: smallPlan({
      parts: [battery({ terminal: 'pack-t' }), radio()],
      leads: [
        lead({
          conductor: { awg: 12, insulationC: 105 },
          ends: { from: { connector: 'pack-t', sex: 'socket' }, to: { connector: 'stack-45' } },
        }),
      ],
    }),
    near: smallPlan({
      parts: [battery({ terminal: 'pack-t' }), radio()],
      leads: [
        lead({
          conductor: { awg: 12, insulationC: 105 },
          ends: { from: { connector: 'pack-t', sex: 'plug' }, to: { connector: 'stack-45' } },
        }),
      ],
    }),
    place: 'l1',
    severity: 'danger',
  },
  'polarity-trap': {
    fires: smallPlan({
      parts: [battery({ terminal: 'post-4mm' }), radio()],
      leads: [lead({ ends: ends('banana-4', 'stack-45') })],
    }),
    near: smallPlan({
      parts: [battery({ terminal: 'post-4mm' }), radio()],
      leads: [lead({ ends: ends('fork', 'stack-45') })],
    }),
    place: 'bat',
    severity: 'caution',
  },
  'connector-shared': { fires: twoOnBlock(25, 22), near: twoOnBlock(14, 8), place: 'blk.feed' },
  'hook-up-order': {
    fires: hookUp(['p', 'c', 'l1']) as Plan,
    near: hookUp(['c', 'p', 'l1']) as Plan,
    place: 'ctl',
    severity: 'danger',
  },
  'noise-known': {
    fires: sunny({ noise: { quietUpToA: 3, bands: ['30 m'] } }, {}, {}, { bands: ['30 m'] }),
    near: sunny({ noise: { quietUpToA: 3, bands: ['30 m'] } }, {}, {}, { bands: ['40 m'] }),
    place: 'ctl',
    severity: 'caution',
  },
  // 100 kHz: the 101st line is at 10.1 MHz.
  'noise-lines': {
    fires: sunny({ switchingHz: 100000 }, {}, {}, { bands: ['30 m'] }),
    near: sunny({ switchingHz: 97000 }, {}, {}, { bands: ['30 m'] }),
    place: 'ctl',
    severity: 'note',
  },
  'radio-on-load-terminal': { fires: onLoadTerminal(), near: onBattery, place: 'ctl.load', severity: 'caution' },
  'near-antenna-lead': {
    fires: sunny({ nearAntennaLead: true, switchingHz: 100000 }),
    near: sunny({ switchingHz: 100000 }),
    place: 'ctl',
    severity: 'caution',
  },
  'common-ground': {
    fires: sunny({ switchingHz: 100000 }, {}, {}, { ground: 'none' }),
    near: sunny({ switchingHz: 100000 }, {}, {}, { ground: 'common' }),
    place: 'ctl',
    severity: 'note',
  },
  'hidden-diode': {
    fires: withLead({ inline: [fuse(20), { id: 'd', kind: 'dropper', ratedA: 20, stripe: 'to', atM: 0.5 }] }),
    near: withLead({
      inline: [fuse(20), { id: 'd', kind: 'dropper', ratedA: 20, stripe: 'to', atM: 0.5, labelled: true }],
    }),
    place: 'l1',
    severity: 'caution',
  },
}
