import { battery, lead, radio, smallPlan } from '../plans'
import { wire, amps, fuseAt, charger, vehicle, type HardPlan } from './hard'

/** A truck's 28 V through a converter to a radio. */
const truck = (internalOhm: number, topology: string, input: { minV: number; maxV: number }) =>
  smallPlan({
    parts: [
      vehicle({ engineOnV: 28, engineOffV: 24.8, internalOhm }),
      {
        id: 'b',
        kind: 'converter',
        topology,
        input,
        outV: 13.8,
        maxOutA: 30,
        efficiency: 0.9,
        in: 'screw',
        out: 'screw',
      },
      radio({ draw: amps(21) }),
    ],
    leads: [
      wire('i', ['car', 'b.in'], ['ring-m8', 'fork'], { inline: fuseAt(20) }),
      wire('o', ['b.out', 'hf'], ['fork', 'stack-45'], { inline: [], lengthM: 0.5 }),
    ],
  })

export const VEHICLES_PLANS: readonly HardPlan[] = [
  {
    name: '28 V truck, buck 20-30 to 13.8 V 30 A',
    why: 'nothing; 28/.03=930 A under 1 kA',
    plan: () => truck(0.03, 'buck', { minV: 20, maxV: 30 }),
    bad: [],
    told: [],
  },
  {
    name: '28 V truck, regulator 9-20',
    why: 'input over 20 V: fail',
    plan: () => truck(0.05, 'buck-boost', { minV: 9, maxV: 20 }),
    bad: ['fail converter-input b'],
    told: [],
  },
  {
    name: 'inverter on starter battery',
    why: '200 W with the engine off empty a starter battery: a caution',
    plan: () =>
      smallPlan({
        parts: [
          vehicle(),
          {
            id: 'inv',
            kind: 'inverter',
            input: { minV: 10.5, maxV: 15.5 },
            ratedW: 300,
            in: 'ring-m8',
            acLoads: [{ name: 'charger', watts: 200 }],
          },
        ],
        leads: [
          wire('i', ['car', 'inv.in'], ['ring-m8', 'ring-m8'], {
            conductor: { awg: 8, insulationC: 105 },
            inline: fuseAt(40),
          }),
        ],
      }),
    bad: [],
    told: ['caution vehicle-engine-off inv'],
  },
  {
    name: 'generator 1 kW runs 1.2 kW',
    why: '80*14.4/.85=1355',
    plan: () =>
      smallPlan({
        parts: [
          battery({ capacityAh: 200, maxChargeA: 100, continuousA: 100, lockOut: true }),
          radio(),
          { id: 'gen', kind: 'generator', ratedW: 1e3, feeds: ['chg'] },
          charger({ maxA: 80, set: 'lifepo4', fedBy: 'gen' }),
        ],
        leads: [
          lead(),
          wire('c', ['chg', 'bat'], ['ring-m6', 'ring-m6'], {
            conductor: { awg: 4, insulationC: 105 },
            inline: fuseAt(100, 0.9, { type: 'strip-high' }),
          }),
        ],
      }),
    bad: ['fail generator-load gen'],
    told: [],
  },
  {
    name: 'vehicle radio 13.8 ±10 % engine off 12.0',
    why: '12.0 <12.42',
    plan: () =>
      smallPlan({
        parts: [
          vehicle({ engineOffV: 12.2, internalOhm: 0.01, alternatorSpareA: 40 }),
          radio({ supply: { minV: 12.42, nominalV: 13.8, maxV: 15.2 }, draw: amps(10) }),
        ],
        leads: [wire('l1', ['car', 'hf'], ['ring-m8', 'stack-45'])],
      }),
    bad: ['fail arrival-under hf'],
    told: ['note both-legs-asked hf'],
  },
]
