import { PGlite } from '@electric-sql/pglite'
import { closeSync, fstatSync, openSync, writeSync } from 'node:fs'
import { join } from 'node:path'
import type { Plan } from '../../core/plan/schema'
import { demoPlan } from './plans'

/** A plan so long that it lies in pages of its own, in the table that keeps long values. */
export function longPlan(): Plan {
  const plan = demoPlan('tern-rock-light')
  const noiseOf = (from: number) =>
    Array.from({ length: 20 }, (_, n) => (((from * 20 + n) * 7919) % 99_991).toString(36)).join('')
  const many = Array.from({ length: 1500 }, (_, n) => ({
    id: `x${n}`,
    kind: 'load' as const,
    name: noiseOf(n),
    supply: { minV: 10, nominalV: 12, maxV: 15 },
    draw: { model: 'constant-power' as const, idleW: 1, activeW: 2 },
  }))
  return { ...plan, parts: [...plan.parts, ...many] }
}

/** Of the engine, bytes. */
const PAGE = 8192

/** Writes over pages in the midst of those in which a table of a closed database keeps its long values. */
export async function damageLongValues(folder: string, table: string) {
  const client = await PGlite.create(folder)
  const { rows } = await client.query<{ path: string }>(
    'SELECT pg_relation_filepath(reltoastrelid) AS path FROM pg_class WHERE relname = $1',
    [table],
  )
  await client.exec('CHECKPOINT')
  await client.close()
  const file = openSync(join(folder, rows[0]!.path), 'r+')
  const pages = fstatSync(file).size / PAGE
  if (pages <= 8) throw new Error(`${table} keeps long values in ${pages} pages: too few to damage`)
  for (let page = pages >> 1; page < pages * 0.75; page++)
    writeSync(file, Buffer.alloc(PAGE, 0xa5), 0, PAGE, page * PAGE)
  closeSync(file)
}
