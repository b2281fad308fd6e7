import { battery, fuse, lead, radio, smallPlan } from '../plans'
import { wire, profiles, amps, busbar, fuseAt, mppt, panel, type HardPlan } from './hard'

export const SUN_PLANS: readonly HardPlan[] = [
  {
    name: 'folding panel straight on radio',
    why: 'fail over volts 22, panel without controller; no fuse danger',
    plan: () =>
      smallPlan({
        parts: [panel({ shortCircuitA: 3, maxPowerA: 2.7 }), radio({ supply: { minV: 11, maxV: 15.9 } })],
        leads: [wire('p', ['sun', 'hf'], ['pv-single', 'stack-45'], { inline: [] })],
      }),
    bad: ['danger panel-direct sun', 'fail arrival-over hf', 'fail collapse hf'],
    told: [],
  },
  {
    name: 'load terminal radio 21A on 10A',
    why: 'load-terminal fail',
    plan: () =>
      smallPlan({
        parts: [
          battery({ maxChargeA: 20, lockOut: true }),
          radio({ draw: amps(21) }),
          {
            id: 'ctl',
            kind: 'controller',
            type: 'pwm',
            maxPanelV: 25,
            maxChargeA: 10,
            maxLoadA: 10,
            chemistries: profiles,
            set: 'lifepo4',
            panel: 'screw',
            battery: 'screw',
            load: 'screw',
          },
        ],
        leads: [
          wire('c', ['ctl.battery', 'bat'], ['fork', 'ring-m6'], { inline: [fuse(30, 0.9)] }),
          wire('l1', ['ctl.load', 'hf'], ['fork', 'stack-45'], { inline: [fuse(30, 0.05)] }),
        ],
      }),
    bad: ['danger fuse-interrupting c', 'fail load-terminal ctl.load'],
    told: ['caution radio-on-load-terminal ctl.load'],
  },
  {
    name: 'cold Voc 2x22.5 over 50',
    why: '45*1.135=51.1>50',
    plan: () =>
      smallPlan({
        site: { ambientC: { low: -20, typical: 10, high: 40 } },
        parts: [
          battery({ maxChargeA: 20, lockOut: true }),
          radio(),
          panel({ openCircuitV: 45, shortCircuitA: 5.6, maxPowerV: 36, maxPowerA: 5, voltsPerC: -0.003 }),
          mppt({ maxChargeA: 15 }),
        ],
        leads: [
          lead(),
          wire('c', ['ctl.battery', 'bat'], ['fork', 'ring-m6'], { inline: fuseAt(20, 0.9) }),
          wire('p', ['sun', 'ctl.panel'], ['pv-single', 'fork'], { inline: [] }),
        ],
      }),
    bad: ['danger panel-cold-voltage ctl'],
    told: [],
  },
  {
    name: 'hot panel for 24 V bank',
    why: '28*(1-.004*45)=~23 <28.8',
    plan: () =>
      smallPlan({
        parts: [
          battery({ seriesCells: 8, maxChargeA: 20, lockOut: true, internalOhm: 0.03 }),
          radio({ supply: { minV: 20, maxV: 30 } }),
          panel({ openCircuitV: 33, shortCircuitA: 5.6, maxPowerV: 28, maxPowerA: 5 }),
          mppt({ maxPanelV: 100, maxChargeA: 15, chemistries: { lifepo4: { absorptionV: 28.8, floatV: 27 } } }),
        ],
        leads: [
          lead(),
          wire('c', ['ctl.battery', 'bat'], ['fork', 'ring-m6'], { inline: fuseAt(20, 0.9) }),
          wire('p', ['sun', 'ctl.panel'], ['pv-single', 'fork'], { inline: [] }),
        ],
      }),
    bad: ['fail panel-hot-voltage ctl'],
    told: [],
  },
  {
    name: 'PV lead 1.56 Isc',
    why: '1.56*14=21.8 > 25*sqrt(35/75)=17 A',
    plan: () =>
      smallPlan({
        parts: [
          battery({ maxChargeA: 25, lockOut: true }),
          radio(),
          panel({ shortCircuitA: 14, maxPowerA: 13 }),
          mppt({ maxChargeA: 20 }),
        ],
        leads: [
          lead(),
          wire('c', ['ctl.battery', 'bat'], ['fork', 'ring-m6'], { inline: fuseAt(25, 0.9) }),
          wire('p', ['sun', 'ctl.panel'], ['pv-single', 'fork'], {
            inline: [],
            conductor: { awg: 16, insulationC: 70 },
            lengthM: 3,
          }),
        ],
      }),
    bad: ['fail panel-conductor p'],
    told: ['caution connector-conductor sun'],
  },
  {
    name: 'two panels on a Y, thin trunk',
    why: 'trunk carries 12 A: 18.7 wanted, 17.1 carried: fail; branches 9.4 fine; no fuse danger',
    plan: () =>
      smallPlan({
        parts: [
          battery({ maxChargeA: 40, lockOut: true }),
          radio(),
          panel({ id: 's1' }),
          panel({ id: 's2' }),
          busbar('y', 'pv-single'),
          mppt({ maxPanelA: 30, maxChargeA: 30 }),
        ],
        leads: [
          lead(),
          wire('c', ['ctl.battery', 'bat'], ['fork', 'ring-m6'], { inline: fuseAt(40, 0.9) }),
          wire('p', ['s1', 'y.a'], ['pv-single', 'pv-single'], { inline: [], conductor: { awg: 12, insulationC: 90 } }),
          wire('q', ['s2', 'y.b'], ['pv-single', 'pv-single'], { inline: [], conductor: { awg: 12, insulationC: 90 } }),
          wire('t', ['y.c', 'ctl.panel'], ['pv-single', 'fork'], {
            inline: [],
            conductor: { awg: 16, insulationC: 70 },
          }),
        ],
      }),
    bad: ['danger fuse-interrupting c', 'fail panel-conductor t'],
    told: ['caution fuse-over-contact ctl.battery', 'caution connector-conductor y.c'],
  },
  {
    name: 'three panels on a Y, no fuse each',
    why: '18 A: 28 wanted',
    plan: () =>
      smallPlan({
        parts: [
          battery({ maxChargeA: 40, lockOut: true }),
          radio(),
          panel({ id: 's1' }),
          panel({ id: 's2' }),
          panel({ id: 's3' }),
          busbar('y', 'pv-single'),
          mppt({ maxPanelA: 30, maxChargeA: 30 }),
        ],
        leads: [
          lead(),
          wire('c', ['ctl.battery', 'bat'], ['fork', 'ring-m6'], { inline: fuseAt(40, 0.9) }),
          ...['s1', 's2', 's3'].map((s, i) =>
            wire('p' + i, [s, 'y.' + 'abc'[i]], ['pv-single', 'pv-single'], {
              inline: [],
              conductor: { awg: 12, insulationC: 90 },
            }),
          ),
          wire('t', ['y.d', 'ctl.panel'], ['pv-single', 'fork'], {
            inline: [],
            conductor: { awg: 10, insulationC: 90 },
          }),
        ],
      }),
    bad: ['danger fuse-interrupting c', 'danger panel-strings s1'],
    told: ['caution fuse-over-contact ctl.battery'],
  },
  {
    name: 'thin wire on a big panel',
    why: '13.7 < 16: danger',
    plan: () =>
      smallPlan({
        parts: [
          battery({ maxChargeA: 40, lockOut: true }),
          radio(),
          panel({ shortCircuitA: 16, maxPowerA: 15 }),
          mppt({ maxPanelA: 30, maxChargeA: 30 }),
        ],
        leads: [
          lead(),
          wire('c', ['ctl.battery', 'bat'], ['fork', 'ring-m6'], { inline: fuseAt(40, 0.9) }),
          wire('p', ['sun', 'ctl.panel'], ['pv-single', 'fork'], {
            inline: [],
            conductor: { awg: 18, insulationC: 70 },
          }),
        ],
      }),
    bad: ['danger fuse-interrupting c', 'danger ampacity p', 'danger panel-conductor p'],
    told: ['caution fuse-over-contact ctl.battery', 'caution connector-conductor sun'],
  },
]
