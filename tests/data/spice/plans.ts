import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { limits } from './limits'
import { battery, lead, window } from './parts'

const demo = (file: string) =>
  JSON.parse(
    readFileSync(join(import.meta.dirname, file === 'clean-bench.json' ? '../../../demo' : '..', file), 'utf8'),
  ) as any

/**
 * Two unlike packs in parallel over unlike leads, a ring of three joints, a dropper, every kind of draw, drawn
 * backwards in places.
 */
function mesh(ampacity: 'open' | 'enclosed') {
  return {
    format: 'wireman-plan',
    version: 1,
    name: `mesh ${ampacity}`,
    site: { ambientC: { low: 0, typical: 27, high: 40 }, ampacity },
    parts: [
      battery('b1', 50, 0.012),
      battery('b2', 20, 0.025),
      { id: 'j1', kind: 'joint', connector: 'ring-m6' },
      { id: 'j2', kind: 'joint', connector: 'ring-m6', contactOhm: 0.0004 },
      { id: 'j3', kind: 'joint', connector: 'ring-m6' },
      {
        id: 'hf',
        kind: 'radio',
        supply: window,
        draw: { model: 'constant-current', idleA: 1.2, activeA: 21 },
        terminal: 'inlet-4',
      },
      {
        id: 'pc',
        kind: 'load',
        supply: window,
        draw: { model: 'constant-power', idleW: 15, activeW: 60 },
        terminal: 'barrel-5525',
      },
      {
        id: 'pad',
        kind: 'load',
        supply: window,
        draw: { model: 'resistive', idleOhm: 100, activeOhm: 3 },
        terminal: 'screw',
      },
      {
        id: 'qrp',
        kind: 'radio',
        supply: window,
        draw: { model: 'constant-current', idleA: 0.06, activeA: 0.9 },
        terminal: 'stack-15',
      },
    ],
    leads: [
      lead(
        'a',
        'b1',
        'j1.a',
        1.1,
        { awg: 8 },
        ['ring-m6', 'ring-m6'],
        [{ id: 'f', kind: 'fuse', ratedA: 50, atM: 0.1, legs: 'both' }],
      ),
      lead(
        'b',
        'j2.a',
        'b2',
        2.3,
        { awg: 10 },
        ['ring-m6', 'ring-m6'],
        [{ id: 'f', kind: 'breaker', ratedA: 30, atM: 2.2 }],
      ),
      lead('c', 'j1.b', 'j2.b', 0.8, { awg: 12 }, ['ring-m6', 'ring-m6']),
      lead('d', 'j2.c', 'j3.a', 1.4, { awg: 12 }, ['ring-m6', 'ring-m6']),
      lead('e', 'j3.b', 'j1.c', 2.9, { awg: 14 }, ['ring-m6', 'ring-m6']),
      lead('g', 'j3.c', 'hf', 1.5, { awg: 10 }, ['ring-m6', 'inlet-4']),
      lead(
        'h',
        'pc',
        'j1.d',
        3.5,
        { awg: 14 },
        ['barrel-5525', 'ring-m6'],
        [{ id: 'f', kind: 'fuse', ratedA: 10, atM: 3.4 }],
      ),
      lead('i', 'j2.d', 'pad', 4, { awg: 16 }, ['ring-m6', 'fork']),
      lead(
        'k',
        'j3.d',
        'qrp',
        1,
        { awg: 18 },
        ['ring-m6', 'stack-15'],
        [{ id: 'd', kind: 'dropper', count: 2, stripe: 'to' }],
      ),
    ],
  }
}

/** A lead-acid battery and a supply feeding one metric harness. */
function metric() {
  return {
    format: 'wireman-plan',
    version: 1,
    name: 'metric',
    site: { ambientC: { low: 0, typical: 18, high: 40 }, ampacity: 'open' },
    parts: [
      {
        id: 'agm',
        kind: 'battery',
        chemistry: 'agm',
        seriesCells: 6,
        capacityAh: 100,
        internalOhm: 0.006,
        terminal: 'ring-m8',
      },
      { id: 'psu', kind: 'supply', setV: 13.2, continuousA: 20, outputOhm: 0.03, terminal: 'screw' },
      {
        id: 'blk',
        kind: 'block',
        feed: 'ring-m6',
        ports: [
          { id: 'p1', fuse: { type: 'blade', ratedA: 20 }, connector: 'stack-30' },
          { id: 'p2', connector: 'screw' },
        ],
      },
      {
        id: 'vhf',
        kind: 'radio',
        supply: window,
        draw: { model: 'constant-current', idleA: 0.6, activeA: 11 },
        terminal: 'lead-t2',
      },
      {
        id: 'hub',
        kind: 'load',
        supply: window,
        draw: { model: 'constant-power', idleW: 6, activeW: 25 },
        terminal: 'screw',
      },
    ],
    leads: [
      lead(
        'm',
        'agm',
        'blk.feed',
        1.8,
        { mm2: 6 },
        ['ring-m8', 'ring-m6'],
        [{ id: 'f', kind: 'fuse', type: 'strip', ratedA: 40, atM: 0.1 }],
      ),
      lead('s', 'psu', 'blk.p2', 2.5, { mm2: 4 }, ['fork', 'fork']),
      lead('v', 'blk.p1', 'vhf', 3, { mm2: 2.5 }, ['stack-30', 'lead-t2']),
      lead('w', 'vhf', 'hub', 5, { mm2: 0.75 }, ['fork', 'fork']),
    ],
  }
}

/** Tern Rock with its evening supply switched on: a battery and a supply in one mesh. */
function ternRockEvening() {
  const plan = demo('tern-rock-evening.json')
  plan.leads.at(-1).inline[0].closed = true
  return plan
}

export function spicePlans(): Record<string, { plan: any; conditions: string[] }> {
  return {
    'tern-rock-light': {
      plan: demo('tern-rock-evening.json'),
      conditions: ['charging/idle', 'charging/all', 'full/idle', 'nominal/only:hf', 'low/all'],
    },
    'tern-rock-evening': { plan: ternRockEvening(), conditions: ['full/all', 'low/all', 'low/idle'] },
    'clean-bench': { plan: demo('clean-bench.json'), conditions: ['nominal/idle', 'nominal/all', 'nominal/only:vhf'] },
    'mesh-open': { plan: mesh('open'), conditions: ['full/idle', 'low/all', 'nominal/only:pc', 'full/all'] },
    'mesh-enclosed': { plan: mesh('enclosed'), conditions: ['low/all', 'full/only:hf', 'full/only:qrp'] },
    ...limits(),
    metric: { plan: metric(), conditions: ['full/all', 'low/all', 'charging/only:hub', 'nominal/idle'] },
  }
}
