import { battery, fuse, lead, radio, smallPlan } from '../plans'
import { wire, profiles, busbar, fuseAt, charger, vehicle, type HardPlan } from './hard'

export const CHARGING_PLANS: readonly HardPlan[] = [
  {
    name: 'supply 15 V on lithium pack',
    why: 'danger: 15 V over 14.6; charge current 10 A exceeded',
    plan: () =>
      smallPlan({
        parts: [
          battery({ maxChargeA: 10, capacityAh: 20 }),
          radio(),
          { id: 'psu', kind: 'supply', setV: 15, continuousA: 30, terminal: 'ring-m6' },
        ],
        leads: [lead(), wire('s', ['psu', 'bat'], ['ring-m6', 'ring-m6'], { inline: [fuse(30, 0.9)] })],
      }),
    bad: [
      'danger fuse-interrupting s',
      'danger source-over-battery bat',
      'danger charge-current bat',
      'fail fuse-nuisance s',
    ],
    told: [],
  },
  {
    name: 'four packs parallel no fuse (members)',
    why: 'strings unfused',
    plan: () =>
      smallPlan({
        parts: [
          battery({
            capacityAh: 200,
            continuousA: 100,
            members: [1, 2, 3, 4].map(s => ({ string: s, capacityAh: 50 })),
          }),
          radio(),
        ],
      }),
    bad: ['danger strings-unfused bat'],
    told: [],
  },
  {
    name: 'charger on default AGM over lifepo4',
    why: 'charger unset finding',
    plan: () =>
      smallPlan({
        parts: [battery({ maxChargeA: 25 }), radio(), charger()],
        leads: [lead(), wire('c', ['chg', 'bat'], ['ring-m6', 'ring-m6'], { inline: [fuse(20, 0.9)] })],
      }),
    bad: [],
    told: ['caution charger-unset chg'],
  },
  {
    name: '12 V charger on 24 V bank',
    why: 'fail other system',
    plan: () =>
      smallPlan({
        parts: [
          battery({ seriesCells: 8, maxChargeA: 25 }),
          radio({ supply: { minV: 20, maxV: 30 } }),
          charger({ set: 'lifepo4' }),
        ],
        leads: [lead(), wire('c', ['chg', 'bat'], ['ring-m6', 'ring-m6'], { inline: [fuse(20, 0.9)] })],
      }),
    bad: ['danger fuse-interrupting l1', 'fail charge-voltage chg'],
    told: [],
  },
  {
    name: 'agm charged 20 A of 40 Ah unsaid',
    why: 'charge current 0.2C = 8 A assumed; 20>16 danger',
    plan: () =>
      smallPlan({
        parts: [
          battery({ chemistry: 'agm', seriesCells: 6, capacityAh: 40 }),
          radio(),
          charger({ maxA: 20, set: 'agm' }),
        ],
        leads: [lead(), wire('c', ['chg', 'bat'], ['ring-m6', 'ring-m6'], { inline: [fuse(25, 0.9)] })],
      }),
    bad: ['danger charge-current bat'],
    told: [],
  },
  {
    name: 'gel on 14.7',
    why: 'danger charge-voltage over 14.4',
    plan: () =>
      smallPlan({
        parts: [
          battery({ chemistry: 'gel', seriesCells: 6, capacityAh: 100, maxChargeA: 20 }),
          radio(),
          charger({ chemistries: { gel: { absorptionV: 14.7, floatV: 13.6 } }, set: 'gel' }),
        ],
        leads: [lead(), wire('c', ['chg', 'bat'], ['ring-m6', 'ring-m6'], { inline: [fuse(20, 0.9)] })],
      }),
    bad: ['danger charge-voltage chg'],
    told: [],
  },
  {
    name: 'one stage charger 14.4 on agm',
    why: 'float too high',
    plan: () =>
      smallPlan({
        parts: [
          battery({ chemistry: 'agm', seriesCells: 6, capacityAh: 100, maxChargeA: 20 }),
          radio(),
          charger({ stages: 1, chemistries: { agm: { absorptionV: 14.4, floatV: 13.6 } }, set: 'agm' }),
        ],
        leads: [lead(), wire('c', ['chg', 'bat'], ['ring-m6', 'ring-m6'], { inline: [fuse(20, 0.9)] })],
      }),
    bad: [],
    told: ['caution charge-voltage chg'],
  },
  {
    name: 'inverter fed from own charger',
    why: 'charger-loop + inverter 339 W>300',
    plan: () =>
      smallPlan({
        parts: [
          battery({ maxChargeA: 30, capacityAh: 100, continuousA: 100 }),
          { id: 'inv', kind: 'inverter', input: { minV: 10.5, maxV: 15.5 }, ratedW: 300, in: 'ring-m8', acLoads: [] },
          charger({ maxA: 20, set: 'lifepo4', fedBy: 'inv' }),
        ],
        leads: [
          wire('i', ['bat', 'inv.in'], ['ring-m6', 'ring-m8'], {
            conductor: { awg: 4, insulationC: 105 },
            inline: [fuse(60, 0.1, { type: 'strip' })],
          }),
          wire('c', ['chg', 'bat'], ['ring-m6', 'ring-m6'], { inline: [fuse(30, 0.9)] }),
        ],
      }),
    bad: ['danger fuse-interrupting c', 'fail inverter-load inv', 'fail charger-loop chg'],
    told: [],
  },
  {
    name: 'frozen AGM',
    why: 'discharged flooded freezes',
    plan: () =>
      smallPlan({
        site: { ambientC: { low: -25, typical: 0, high: 30 } },
        parts: [battery({ chemistry: 'flooded', seriesCells: 6, capacityAh: 100, charged: 'elsewhere' }), radio()],
      }),
    bad: [],
    told: ['caution battery-freezes bat'],
  },
  {
    name: 'LiFePO4 and AGM on one bus',
    why: 'different chemistries',
    plan: () =>
      smallPlan({
        parts: [
          battery({}),
          battery({ id: 'b2', chemistry: 'agm', seriesCells: 6, capacityAh: 100, continuousA: 30, peakA: 60 }),
          busbar(),
          radio(),
        ],
        leads: [
          wire('a', ['bat', 'j.a'], ['ring-m6', 'ring-m6']),
          wire('b', ['b2', 'j.b'], ['ring-m6', 'ring-m6']),
          wire('c', ['j.c', 'hf'], ['ring-m6', 'stack-45'], { inline: [] }),
        ],
      }),
    bad: ['danger packs-parallel b2', 'fail fuse-nuisance a'],
    told: ['caution fuse-nuisance b', 'caution sources-joined b2'],
  },
  {
    name: 'supply on AGM bus at 14.4 all day',
    why: 'above float 13.8, below absorption 14.4: caution',
    plan: () =>
      smallPlan({
        parts: [
          battery({ chemistry: 'agm', seriesCells: 6, capacityAh: 100, maxChargeA: 20 }),
          busbar(),
          radio(),
          { id: 'psu', kind: 'supply', setV: 14.2, continuousA: 15, terminal: 'screw' },
        ],
        leads: [
          wire('m', ['bat', 'j.a'], ['ring-m6', 'ring-m6']),
          wire('r', ['j.b', 'hf'], ['ring-m6', 'stack-45'], { inline: [] }),
          wire('s', ['psu', 'j.c'], ['fork', 'ring-m6']),
        ],
      }),
    bad: [],
    told: ['caution supply-as-charger psu'],
  },
  {
    name: 'selected charge 10 A on 7 Ah',
    why: '10 > .3*7=2.1 assumed, >2x so danger',
    plan: () =>
      smallPlan({
        parts: [
          battery({ capacityAh: 7, continuousA: 14, peakA: 20, maxChargeA: undefined, lockOut: true }),
          { id: 'psu', kind: 'supply', setV: 13.8, continuousA: 25, outputOhm: 0.01, terminal: 'stack-45' },
          {
            id: 'g',
            kind: 'gate',
            maxA: 40,
            chargeA: 10,
            chemistries: profiles,
            set: 'lifepo4',
            supply: 'stack-45',
            battery: 'stack-45',
            out: 'stack-45',
          },
          radio(),
        ],
        leads: [
          wire('s', ['psu', 'g.supply'], ['stack-45', 'stack-45']),
          wire('b', ['bat', 'g.battery'], ['ring-m6', 'stack-45']),
          wire('o', ['g.out', 'hf'], ['stack-45', 'stack-45']),
        ],
      }),
    bad: ['danger charge-current bat', 'fail fuse-nuisance s'],
    told: [],
  },
  {
    name: 'elsewhere with charger wired',
    why: 'finding',
    plan: () =>
      smallPlan({
        parts: [battery({ charged: 'elsewhere', maxChargeA: 25 }), radio(), charger({ maxA: 5, set: 'lifepo4' })],
        leads: [lead(), wire('c', ['chg', 'bat'], ['ring-m6', 'ring-m6'], { inline: fuseAt(10, 0.9) })],
      }),
    bad: [],
    told: ['caution charged-elsewhere bat'],
  },
  {
    name: 'DC-DC from starter onto lithium 30 A on 20 A alternator',
    why: '30*14.4/.9/14=34 > 20',
    plan: () =>
      smallPlan({
        parts: [
          vehicle({ internalOhm: 0.01, alternatorSpareA: 20 }),
          battery({ capacityAh: 100, maxChargeA: 50, lockOut: true }),
          {
            id: 'd',
            kind: 'converter',
            topology: 'buck-boost',
            input: { minV: 11, maxV: 16 },
            outV: 14.4,
            maxOutA: 30,
            charges: { chemistries: profiles, set: 'lifepo4' },
            ignition: true,
            in: 'ring-m6',
            out: 'ring-m6',
          },
          radio(),
        ],
        leads: [
          wire('i', ['car', 'd.in'], ['ring-m8', 'ring-m6'], {
            conductor: { awg: 8, insulationC: 105 },
            inline: fuseAt(50, 0.1, { type: 'strip-high' }),
          }),
          wire('o', ['d.out', 'bat'], ['ring-m6', 'ring-m6'], {
            conductor: { awg: 8, insulationC: 105 },
            inline: fuseAt(40, 0.9, { type: 'strip-high' }),
          }),
          lead(),
        ],
      }),
    bad: ['fail alternator-overdrawn car'],
    told: [],
  },
]
