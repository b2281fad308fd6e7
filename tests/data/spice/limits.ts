import { battery, lead, window } from './parts'

const wire = (id: string, from: string, to: string, lengthM: number, awg: number) =>
  lead(id, from, to, lengthM, { awg }, ['ring-m6', 'ring-m6'])
const current = (id: string, idleA: number, activeA: number) => ({
  id,
  kind: 'radio',
  supply: window,
  draw: { model: 'constant-current', idleA, activeA },
})
const resistive = (id: string, activeOhm: number) => ({
  id,
  kind: 'load',
  supply: window,
  draw: { model: 'resistive', idleOhm: 200, activeOhm },
})
const power = (id: string, idleW: number, activeW: number) => ({
  id,
  kind: 'load',
  supply: window,
  draw: { model: 'constant-power', idleW, activeW },
})
const supply = (id: string, setV: number, continuousA: number, outputOhm = 0.01) => ({
  id,
  kind: 'supply',
  setV,
  continuousA,
  outputOhm,
})
const charger = (id: string, maxA: number, absorptionV: number) => ({
  id,
  kind: 'charger',
  maxA,
  set: 'lifepo4',
  chemistries: { lifepo4: { absorptionV } },
})
const limited = (name: string, parts: object[], leads: object[]) => ({
  format: 'wireman-plan',
  version: 1,
  name,
  site: { ambientC: { low: 0, typical: 20, high: 40 }, ampacity: 'open' },
  parts,
  leads,
})
const hub = { id: 'j', kind: 'joint', connector: 'ring-m6' }

/** Sources at their limits: each with what shares its wire. */
export function limits(): Record<string, { plan: any; conditions: string[] }> {
  const states = (...loads: string[]) => ['charging', 'bulk'].flatMap(s => loads.map(l => `${s}/${l}`))
  const pack = battery('bat', 20, 0.03)
  const packLead = wire('b', 'bat', 'j.a', 1, 10)
  const radioLead = wire('r', 'j.c', 'hf', 2, 10)
  return {
    'supply-on-pack': {
      plan: limited(
        'supply on a pack',
        [pack, supply('psu', 13.8, 12), hub, current('hf', 1, 20)],
        [packLead, wire('s', 'psu', 'j.b', 2, 12), radioLead],
      ),
      conditions: [...states('idle', 'all'), 'full/all', 'low/idle'],
    },
    'charger-and-loads': {
      plan: limited(
        'charger under its loads',
        [pack, charger('chg', 8, 14.4), hub, current('hf', 0.8, 18), power('pc', 12, 40)],
        [packLead, wire('s', 'chg', 'j.b', 1, 12), radioLead, wire('p', 'j.d', 'pc', 3, 14)],
      ),
      conditions: [...states('idle', 'all', 'only:pc'), 'low/all'],
    },
    'alternator-on-bank': {
      plan: limited(
        'alternator on a house bank',
        [
          battery('bat', 200, 0.004),
          { id: 'eng', kind: 'vehicle', engineOnV: 14.3, engineOffV: 12.6, alternatorSpareA: 60, internalOhm: 0.008 },
          hub,
          resistive('heater', 0.8),
        ],
        [wire('b', 'bat', 'j.a', 1, 4), wire('e', 'eng', 'j.b', 3, 4), wire('h', 'j.c', 'heater', 2, 8)],
      ),
      conditions: states('idle', 'all'),
    },
    'two-supplies': {
      plan: limited(
        'two supplies on one wire',
        [supply('a', 13.8, 15), supply('c', 13.6, 15, 0.02), hub, current('hf', 1, 22), resistive('lamp', 4)],
        [wire('x', 'a', 'j.a', 1, 10), wire('y', 'c', 'j.b', 1.5, 10), radioLead, wire('l', 'j.d', 'lamp', 2, 14)],
      ),
      conditions: ['nominal/idle', 'nominal/only:hf', 'nominal/only:lamp', 'nominal/all'],
    },
    'supply-on-heater': {
      plan: limited(
        'a supply that a heater asks for too much',
        [supply('a', 13.8, 10), hub, resistive('heater', 0.9), resistive('lamp', 5)],
        [wire('x', 'a', 'j.a', 1, 10), wire('y', 'j.b', 'heater', 2, 10), wire('l', 'j.c', 'lamp', 2, 14)],
      ),
      conditions: ['nominal/idle', 'nominal/only:lamp', 'nominal/all'],
    },
    'panel-on-heater': {
      plan: limited(
        'a panel straight on a load',
        [
          { id: 'sun', kind: 'panel', openCircuitV: 22, shortCircuitA: 6, maxPowerV: 18, maxPowerA: 5.5 },
          hub,
          resistive('heater', 2),
          resistive('lamp', 20),
        ],
        [wire('x', 'sun', 'j.a', 3, 12), wire('y', 'j.b', 'heater', 2, 10), wire('l', 'j.c', 'lamp', 2, 14)],
      ),
      conditions: ['nominal/idle', 'nominal/only:lamp', 'nominal/only:heater', 'nominal/all'],
    },
    'panel-on-pack': {
      plan: limited(
        'a panel straight on a pack',
        [
          pack,
          { id: 'sun', kind: 'panel', openCircuitV: 22, shortCircuitA: 6, maxPowerV: 18, maxPowerA: 5.5 },
          hub,
          current('hf', 0.5, 10),
        ],
        [packLead, wire('x', 'sun', 'j.b', 3, 12), radioLead],
      ),
      conditions: states('idle', 'all'),
    },
    'charger-from-engine': {
      plan: limited(
        'a DC-DC charger between engine and pack, at its limit in bulk',
        [
          pack,
          { id: 'eng', kind: 'vehicle', engineOnV: 14.3, engineOffV: 12.6, alternatorSpareA: 30, internalOhm: 0.008 },
          {
            id: 'dcdc',
            kind: 'converter',
            topology: 'buck-boost',
            input: { minV: 9, maxV: 18 },
            outV: 14.4,
            maxOutA: 12,
            efficiency: 0.88,
            idleW: 2,
            charges: { set: 'lifepo4', chemistries: { lifepo4: { absorptionV: 14.4 } } },
          },
          hub,
          current('hf', 1, 18),
        ],
        [packLead, wire('e', 'eng', 'dcdc.in', 4, 8), wire('c', 'dcdc.out', 'j.b', 1, 10), radioLead],
      ),
      conditions: states('idle', 'all'),
    },
    'converter-on-heater': {
      plan: limited(
        'a converter that a heater asks for too much',
        [
          battery('bat', 40, 0.02),
          {
            id: 'buck',
            kind: 'converter',
            topology: 'buck-boost',
            input: { minV: 9, maxV: 18 },
            outV: 9,
            maxOutA: 6,
            efficiency: 0.92,
            idleW: 0.5,
          },
          hub,
          resistive('heater', 0.9),
          resistive('lamp', 6),
        ],
        [
          wire('b', 'bat', 'buck.in', 2, 12),
          wire('c', 'buck.out', 'j.a', 1, 12),
          wire('h', 'j.b', 'heater', 1, 12),
          wire('l', 'j.c', 'lamp', 1, 14),
        ],
      ),
      conditions: ['full/idle', 'full/only:lamp', 'full/only:heater', 'low/all'],
    },
    'sun-and-charger': {
      plan: limited(
        'controller and charger on one pack',
        [
          pack,
          charger('chg', 5, 14.2),
          { id: 'sun', kind: 'panel', openCircuitV: 24, shortCircuitA: 6, maxPowerV: 20, maxPowerA: 5 },
          {
            id: 'ctl',
            kind: 'controller',
            type: 'mppt',
            maxPanelV: 75,
            maxChargeA: 15,
            selfA: 0.02,
            set: 'lifepo4',
            chemistries: { lifepo4: { absorptionV: 14.4 } },
          },
          hub,
          current('hf', 1, 16),
        ],
        [
          packLead,
          wire('s', 'chg', 'j.b', 1, 12),
          wire('c', 'ctl.battery', 'j.d', 2, 12),
          wire('x', 'sun', 'ctl.panel', 5, 12),
          radioLead,
        ],
      ),
      conditions: states('idle', 'all'),
    },
  }
}
