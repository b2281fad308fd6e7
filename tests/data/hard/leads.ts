import { battery, fuse, lead, load, radio, smallPlan } from '../plans'
import { wire, amps, fuseAt, vehicle, type HardPlan } from './hard'

export const LEADS_PLANS: readonly HardPlan[] = [
  {
    name: 'diode wrong way',
    why: 'dropper direction; unfed',
    plan: () =>
      smallPlan({
        leads: [
          lead({
            inline: [fuse(20), { id: 'd', kind: 'dropper', ratedA: 20, stripe: 'from', atM: 0.5, labelled: true }],
          }),
        ],
      }),
    bad: ['fail dropper-direction l1'],
    told: [],
  },
  {
    name: 'dropper melts: 1 A diode on 10 A',
    why: 'danger dropper rating',
    plan: () =>
      smallPlan({
        leads: [lead({ inline: [fuse(20), { id: 'd', kind: 'dropper', ratedA: 1, atM: 0.5, labelled: true }] })],
      }),
    bad: ['danger dropper-rating l1'],
    told: [],
  },
  {
    name: '40 A fuse before pair-60, 35 A',
    why: 'connector over 30 A continuous',
    plan: () =>
      smallPlan({
        parts: [
          battery({ terminal: 'pair-60', continuousA: 100, capacityAh: 100 }),
          radio({ draw: amps(35), terminal: 'pair-60' }),
        ],
        leads: [
          wire('l1', ['bat', 'hf'], ['pair-60', 'pair-60'], {
            conductor: { awg: 10, insulationC: 105 },
            inline: [fuse(40)],
          }),
        ],
      }),
    bad: ['danger fuse-interrupting l1', 'fail connector-rating bat', 'fail connector-rating hf'],
    told: ['caution fuse-nuisance l1'],
  },
  {
    name: 'supply 25A feeds 2 radios 35A',
    why: 'supply overload fail',
    plan: () =>
      smallPlan({
        parts: [
          { id: 'psu', kind: 'supply', setV: 13.8, continuousA: 25, terminal: 'screw' },
          { id: 'j', kind: 'joint', connector: 'ring-m6' },
          radio({ draw: amps(21) }),
          radio({ id: 'v', draw: amps(14) }),
        ],
        leads: [
          wire('m', ['psu', 'j.a'], ['fork', 'ring-m6']),
          wire('a', ['j.b', 'hf'], ['ring-m6', 'stack-45'], { inline: [fuse(30, 0.05)] }),
          wire('b', ['j.c', 'v'], ['ring-m6', 'stack-45'], { inline: [fuse(20, 0.05)] }),
        ],
      }),
    bad: ['fail fuse-nuisance m', 'fail supply-overload psu', 'fail connector-shared psu'],
    told: [],
  },
  {
    name: 'two conductors in one stack contact',
    why: 'two leads in one contact',
    plan: () =>
      smallPlan({
        parts: [battery({ terminal: 'stack-45' }), radio(), radio({ id: 'v', draw: amps(5, 0.5) })],
        leads: [
          wire('a', ['bat', 'hf'], ['stack-45', 'stack-45']),
          wire('b', ['bat', 'v'], ['stack-45', 'stack-45'], { inline: [fuse(10)] }),
        ],
      }),
    bad: ['fail connector-crowded bat'],
    told: [],
  },
  {
    name: 'accessory socket transmitter',
    why: '11 A over 10 A socket; transmitter on accessory',
    plan: () =>
      smallPlan({
        parts: [
          vehicle({
            engineOffV: 12.5,
            internalOhm: 0.03,
            terminal: 'accessory-12v',
            fuse: { type: 'blade', ratedA: 15 },
            alternatorSpareA: undefined,
          }),
          radio({ draw: amps(11) }),
        ],
        leads: [wire('l1', ['car', 'hf'], ['accessory-12v', 'stack-45'], { inline: [fuse(15, 0.05)] })],
      }),
    bad: ['fail connector-rating car'],
    told: ['caution fuse-over-contact car', 'caution connector-conductor car', 'caution accessory-transmitter l1'],
  },
  {
    name: 'copper-clad',
    why: 'caution + ampacity',
    plan: () => smallPlan({ leads: [lead({ conductor: { awg: 10, insulationC: 105, material: 'cca' } })] }),
    bad: [],
    told: ['caution copper-clad l1'],
  },
  {
    name: '1 kW inverter thin wire',
    why: '900/.88/12.9=79 A; 8 AWG open 80*sqrt(70/75)=77; fuse 60 opens at 80',
    plan: () =>
      smallPlan({
        parts: [
          battery({ capacityAh: 200, continuousA: 200, peakA: 300, internalOhm: 0.004 }),
          {
            id: 'inv',
            kind: 'inverter',
            input: { minV: 10.5, maxV: 15.5 },
            ratedW: 1e3,
            in: 'ring-m8',
            acLoads: [{ name: 'kettle', watts: 900 }],
          },
        ],
        leads: [
          wire('i', ['bat', 'inv.in'], ['ring-m6', 'ring-m8'], {
            conductor: { awg: 8, insulationC: 105 },
            inline: fuseAt(60, 0.1, { type: 'strip-high' }),
          }),
        ],
      }),
    bad: ['danger ampacity i', 'fail fuse-nuisance i'],
    told: [],
  },
  {
    name: 'charge jack outlet 3 A feeds 10 A radio',
    why: '10 A from 3 A outlet; barrel 5 A',
    plan: () =>
      smallPlan({
        parts: [
          battery({
            terminal: undefined,
            outlets: [
              { id: 'main', connector: 'ring-m6' },
              { id: 'jack', connector: 'barrel-5525', ratedA: 3 },
            ],
          }),
          radio({ terminal: 'barrel-5525' }),
        ],
        leads: [
          wire('l1', ['bat.jack', 'hf'], ['barrel-5525', 'barrel-5525'], {
            inline: fuseAt(10),
            conductor: { awg: 16, insulationC: 105 },
          }),
        ],
      }),
    bad: [
      'fail fuse-nuisance l1',
      'fail port-rating bat.jack',
      'fail connector-rating bat.jack',
      'fail connector-rating hf',
    ],
    told: ['caution fuse-over-contact bat.jack', 'caution fuse-over-contact hf'],
  },
  {
    name: '2.1 in 2.5 barrel',
    why: 'fail',
    plan: () =>
      smallPlan({
        parts: [battery(), load({ terminal: 'barrel-5525' })],
        leads: [
          wire('l1', ['bat', 'pc'], ['ring-m6', 'barrel-5521'], {
            inline: fuseAt(5),
            conductor: { awg: 18, insulationC: 105 },
          }),
        ],
      }),
    bad: ['fail connector-mating pc'],
    told: [],
  },
  {
    name: 'M6 ring on M8 stud',
    why: 'M6 lug does not go on M8: fail',
    plan: () => smallPlan({ parts: [battery({ terminal: 'ring-m8' }), radio()] }),
    bad: ['fail connector-mating bat'],
    told: [],
  },
  {
    name: 'five lugs on a stud',
    why: '>4',
    plan: () =>
      smallPlan({
        parts: [
          battery({ capacityAh: 100, continuousA: 100 }),
          ...[1, 2, 3, 4, 5].map(i => radio({ id: 'r' + i, draw: amps(5) })),
        ],
        leads: [1, 2, 3, 4, 5].map(i => wire('l' + i, ['bat', 'r' + i], ['ring-m6', 'stack-45'])),
      }),
    bad: ['fail connector-crowded bat'],
    told: [],
  },
  {
    name: 'dropper keeps narrow rig under 13.8 at idle? 20 mA',
    why: '13.6-0.7=12.9 > 12.5',
    plan: () =>
      smallPlan({
        parts: [battery({ charged: 'elsewhere' }), radio({ supply: { minV: 9, maxV: 12.5 }, draw: amps(1, 0.02) })],
        leads: [lead({ inline: [fuse(3), { id: 'd', kind: 'dropper', ratedA: 3, atM: 0.4, labelled: true }] })],
      }),
    bad: ['fail arrival-over hf', 'fail dropper-idle l1'],
    told: [],
  },
  {
    name: 'power station port',
    why: '15>10',
    plan: () =>
      smallPlan({
        parts: [
          {
            id: 'ps',
            kind: 'powerStation',
            energyWh: 300,
            ports: [{ id: 'car', connector: 'accessory-12v', volts: 12.5, mode: 'regulated', ratedA: 10 }],
          },
          radio({ draw: amps(15), terminal: 'stack-45' }),
        ],
        leads: [
          wire('l1', ['ps.car', 'hf'], ['accessory-12v', 'stack-45'], {
            conductor: { awg: 14, insulationC: 105 },
            inline: fuseAt(20),
          }),
        ],
      }),
    bad: ['fail port-rating ps.car', 'fail connector-rating ps.car'],
    told: ['caution fuse-over-contact ps.car', 'caution accessory-transmitter l1'],
  },
  {
    name: 'reverse sex pack-t',
    why: 'socket on battery side: lead end must be pin... exposes battery pins',
    plan: () =>
      smallPlan({
        parts: [battery({ terminal: 'pack-t' }), radio({ terminal: 'stack-45' })],
        leads: [
          wire('l1', ['bat', 'hf'], ['pack-t', 'stack-45'], {
            ends: {
              from: { connector: 'pack-t', method: 'solder', sex: 'socket' },
              to: { connector: 'stack-45', method: 'crimp' },
            },
            conductor: { awg: 12, insulationC: 105 },
          }),
        ],
      }),
    bad: ['danger exposed-pins l1'],
    told: [],
  },
]
