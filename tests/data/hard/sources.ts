import { battery, block, fuse, lead, load, radio, smallPlan } from '../plans'
import { wire, amps, busbar, fuseAt, mppt, panel, type HardPlan } from './hard'

export const SOURCES_PLANS: readonly HardPlan[] = [
  {
    name: '8 A charger vs USB',
    why: 'usb-voltage 9; starve; current 2.5>2; sleeps',
    plan: () =>
      smallPlan({
        parts: [
          {
            id: 'bank',
            kind: 'usbSource',
            voltages: [
              { volts: 5, amps: 3 },
              { volts: 9, amps: 2 },
            ],
            autoOffA: 0.05,
            terminal: 'usb-c',
          },
          { id: 'trg', kind: 'trigger', requestV: 12, maxA: 3, in: 'usb-c', out: 'barrel-5525' },
          radio({ supply: { minV: 11, maxV: 15 }, draw: amps(2.5, 0.02), terminal: 'barrel-5525' }),
        ],
        leads: [
          wire('u', ['bank', 'trg.in'], ['usb-c', 'usb-c'], {
            inline: [],
            conductor: { awg: 22, insulationC: 70 },
            lengthM: 0.5,
          }),
          wire('o', ['trg.out', 'hf'], ['barrel-5525', 'barrel-5525'], {
            inline: [],
            conductor: { awg: 20, insulationC: 70 },
            lengthM: 0.5,
          }),
        ],
      }),
    bad: ['fail arrival-under hf', 'fail usb-voltage trg', 'fail usb-current bank', 'fail usb-sleep bank'],
    told: [],
  },
  {
    name: 'pack 6 Ah drives 21 A',
    why: 'assumed 6 A; fail since > 2x',
    plan: () =>
      smallPlan({
        parts: [
          battery({ capacityAh: 6, continuousA: undefined, peakA: undefined, internalOhm: 0.03 }),
          radio({ draw: amps(21) }),
        ],
        leads: [lead({ inline: [fuse(30)] })],
      }),
    bad: ['fail battery-continuous bat'],
    told: [],
  },
  {
    name: 'bank 24 V radio 13.8',
    why: 'over-voltage fail (27 V)',
    plan: () => smallPlan({ parts: [battery({ seriesCells: 8 }), radio()] }),
    bad: ['danger fuse-interrupting l1', 'fail arrival-over hf'],
    told: [],
  },
  {
    name: 'buck 24→13.8 with 10 A on 21 A radio',
    why: 'converter overload: radio fails',
    plan: () =>
      smallPlan({
        parts: [
          battery({ seriesCells: 8 }),
          {
            id: 'b',
            kind: 'converter',
            topology: 'buck',
            input: { minV: 18, maxV: 32 },
            outV: 13.8,
            maxOutA: 10,
            in: 'screw',
            out: 'screw',
          },
          radio({ draw: amps(21) }),
        ],
        leads: [
          wire('i', ['bat', 'b.in'], ['ring-m6', 'fork'], { inline: [fuse(20)] }),
          wire('o', ['b.out', 'hf'], ['fork', 'stack-45'], { inline: [] }),
        ],
      }),
    bad: ['danger fuse-interrupting i', 'fail port-rating b.out'],
    told: [],
  },
  {
    name: 'controller reversed order panel cold 2x',
    why: '44*(1+.003*45)=49.94 <50 OK so no danger',
    plan: () =>
      smallPlan({
        site: { ambientC: { low: -20, typical: 10, high: 40 } },
        parts: [
          battery({ maxChargeA: 20, lockOut: true }),
          radio(),
          panel({ openCircuitV: 44, shortCircuitA: 5.6, maxPowerV: 36, maxPowerA: 5 }),
          mppt(),
        ],
        leads: [
          lead(),
          wire('c', ['ctl.battery', 'bat'], ['fork', 'ring-m6'], { inline: [fuse(20, 0.9)] }),
          wire('p', ['sun', 'ctl.panel'], ['pv-single', 'fork'], { inline: [] }),
        ],
      }),
    bad: [],
    told: [],
  },
  {
    name: 'alarm under radio min',
    why: 'threshold too late',
    plan: () =>
      smallPlan({
        parts: [
          battery(),
          radio({ supply: { minV: 11.7, maxV: 15.9 } }),
          { id: 'y', kind: 'joint', connector: 'ring-m6' },
          { id: 'mon', kind: 'monitor', underV: 11, drawA: 0.02, terminal: 'stack-15' },
        ],
        leads: [
          wire('m', ['bat', 'y.a'], ['ring-m6', 'ring-m6']),
          wire('r', ['y.b', 'hf'], ['ring-m6', 'stack-45'], { inline: [] }),
          wire('a', ['y.c', 'mon'], ['ring-m6', 'stack-15'], {
            conductor: { awg: 18, insulationC: 105 },
            inline: [fuse(2, 0.05)],
          }),
        ],
      }),
    bad: [],
    told: ['caution monitor-threshold mon'],
  },
  {
    name: 'reduced power only',
    why: 'note reduced power',
    plan: () => smallPlan({ parts: [battery(), radio({ supply: { minV: 11, maxV: 15.9 }, fullPowerAboveV: 13 })] }),
    bad: [],
    told: ['note power-sag hf'],
  },
  {
    name: 'amp follows radio: both over battery',
    why: '35>30 under only:hf too; peak 60 ok',
    plan: () =>
      smallPlan({
        parts: [
          battery({ continuousA: 30, peakA: 60, terminal: 'ring-m6' }),
          busbar(),
          radio({ draw: amps(10) }),
          load({
            id: 'pa',
            kind: 'load',
            follows: 'hf',
            supply: { minV: 11, maxV: 15 },
            draw: amps(25, 0.2),
            terminal: 'heavy-50',
          }),
        ],
        leads: [
          wire('m', ['bat', 'j.a'], ['ring-m6', 'ring-m6'], {
            conductor: { awg: 6, insulationC: 105 },
            inline: fuseAt(60, 0.1, { type: 'strip' }),
          }),
          wire('a', ['j.b', 'hf'], ['ring-m6', 'stack-45'], { inline: fuseAt(20) }),
          wire('b', ['j.c', 'pa'], ['ring-m6', 'heavy-50'], {
            conductor: { awg: 8, insulationC: 105 },
            inline: fuseAt(40),
          }),
        ],
      }),
    bad: ['fail battery-continuous bat'],
    told: ['caution fuse-selectivity b'],
  },
  {
    name: 'block total 30, loads 35',
    why: '35>30',
    plan: () =>
      smallPlan({
        parts: [
          battery(),
          block([25, 20], { ratedA: 30 }),
          radio({ draw: amps(20) }),
          radio({ id: 'v', draw: amps(15) }),
        ],
        leads: [
          wire('m', ['bat', 'blk.feed'], ['ring-m6', 'ring-m6'], {
            conductor: { awg: 8, insulationC: 105 },
            inline: fuseAt(50, 0.1, { type: 'strip' }),
          }),
          wire('a', ['blk.p1', 'hf'], ['stack-45', 'stack-45'], { inline: [] }),
          wire('b', ['blk.p2', 'v'], ['stack-45', 'stack-45'], { inline: [] }),
        ],
      }),
    bad: ['fail block-rating blk'],
    told: [],
  },
  {
    name: 'open switch',
    why: 'told unfed',
    plan: () =>
      smallPlan({
        leads: [lead({ inline: [fuse(20), { id: 'k', kind: 'switch', closed: false, ratedA: 30, atM: 0.3 }] })],
      }),
    bad: ['fail island hf'],
    told: [],
  },
  {
    name: 'named load state',
    why: 'all 30 A >25',
    plan: () =>
      smallPlan({
        parts: [
          battery({ continuousA: 25, peakA: 50 }),
          busbar(),
          radio({
            draw: amps(20),
            levels: [
              { powerW: 100, activeA: 20 },
              { powerW: 50, activeA: 14 },
            ],
            powerW: 100,
          }),
          radio({ id: 'v', draw: amps(10) }),
        ],
        leads: [
          wire('m', ['bat', 'j.a'], ['ring-m6', 'ring-m6'], {
            conductor: { awg: 8, insulationC: 105 },
            inline: fuseAt(40),
          }),
          wire('a', ['j.b', 'hf'], ['ring-m6', 'stack-45'], { inline: fuseAt(25) }),
          wire('b', ['j.c', 'v'], ['ring-m6', 'stack-45'], { inline: fuseAt(15) }),
        ],
        more: {
          loadStates: [{ id: 'half', name: 'one at half power', active: [{ part: 'hf', powerW: 50 }, { part: 'v' }] }],
        },
      }),
    bad: ['danger fuse-interrupting m', 'fail battery-continuous bat'],
    told: ['caution fuse-selectivity a'],
  },
]
