import type { Plan } from '../../core/plan/schema'
import { readPlan } from '../../core/plan/faults'

/** A made-up station of about `count` parts: one pack, blocks of ten ports in a chain, radios and computers on them. */
export function madeUpPlan(count: number): Plan {
  const parts: object[] = [
    {
      id: 'bat',
      kind: 'battery',
      chemistry: 'lifepo4',
      seriesCells: 4,
      capacityAh: 20 * count,
      internalOhm: 0.4 / count,
      continuousA: 5 * count,
      peakA: 10 * count,
      terminal: 'ring-m8',
    },
  ]
  const leads: object[] = []
  const end = (connector: string) => ({ connector, method: 'crimp' })
  const blocks = Math.max(1, Math.ceil((count - 2) / 10))
  const buses = Math.ceil(blocks / 25)
  for (let b = 0; b < buses; b++) {
    parts.push({ id: `bus${b}`, kind: 'joint', style: 'busbar', connector: 'ring-m8' })
    leads.push({
      id: `main${b}`,
      from: 'bat',
      to: `bus${b}.a`,
      lengthM: 0.5,
      conductor: { mm2: 95, insulationC: 105 },
      ends: { from: end('ring-m8'), to: end('ring-m8') },
      inline: [{ id: 'f', kind: 'fuse', type: 'strip-high', ratedA: 350, atM: 0.1 }],
    })
  }
  let made = 1 + buses
  for (let b = 0; b < blocks && made < count; b++, made++) {
    const ports = Array.from({ length: 10 }, (_, i) => ({
      id: `p${i + 1}`,
      fuse: { type: 'blade', ratedA: i % 2 ? 5 : 15 },
      connector: 'stack-30',
    }))
    parts.push({ id: `blk${b}`, kind: 'block', ratedA: 100, feed: 'ring-m6', ports })
    leads.push({
      id: `feed${b}`,
      from: `bus${Math.floor(b / 25)}.${'bcdefghijklmnopqrstuvwxyz'[b % 25]}`,
      to: `blk${b}.feed`,
      lengthM: 1 + (b % 5) / 4,
      conductor: { awg: 6, insulationC: 105 },
      ends: { from: end('ring-m8'), to: end('ring-m6') },
      inline: [{ id: 'f', kind: 'fuse', type: 'strip', ratedA: 80, atM: 0.1 }],
    })
    for (let i = 0; i < 9 && made < count - 1; i++, made++) {
      const id = `load${b}-${i}`
      const from = `blk${b}.p${i + 1}`
      if (i % 2) {
        parts.push({
          id,
          kind: 'load',
          supply: { minV: 10, nominalV: 12, maxV: 15 },
          draw: { model: 'constant-power', idleW: 4, activeW: 8 },
          terminal: 'barrel-5525',
        })
        leads.push({
          id: `l-${id}`,
          from,
          to: id,
          lengthM: 1 + i / 3,
          conductor: { awg: 16, insulationC: 105 },
          ends: { from: end('stack-30'), to: end('barrel-5525') },
        })
      } else {
        parts.push({
          id,
          kind: 'radio',
          supply: { minV: 11, nominalV: 13.8, maxV: 15.9 },
          draw: { model: 'constant-current', idleA: 0.5, activeA: 2 },
          powerW: 5,
          terminal: 'lead-t2',
        })
        leads.push({
          id: `l-${id}`,
          from,
          to: id,
          lengthM: 1 + i / 4,
          conductor: { awg: 12, insulationC: 105 },
          ends: { from: end('stack-30'), to: end('lead-t2') },
        })
      }
    }
  }
  const read = readPlan({
    format: 'wireman-plan',
    version: 1,
    name: `made-up, ${count} parts`,
    site: { ambientC: { low: 0, typical: 20, high: 35 }, ampacity: 'open' },
    parts,
    leads,
  })
  if (!read.ok) throw new Error(JSON.stringify(read.faults.slice(0, 3)))
  return read.plan
}
