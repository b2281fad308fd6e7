import { kindOf } from '../kinds/index'
import { partById } from '../plan/find'
import type { Plan } from '../plan/schema'
import type { Patch } from './patch'
import { appendTo } from './set'

/** A new port's fuse, A: one that fits most of what is added later. */
const NEW_PORT_A = 10

/** One port more on a part from whose ports loads are fed, like its last one; none on another part. */
export function addPort(plan: Plan, partId: string): Patch {
  const part = partById(plan, partId)!
  const { ports } = kindOf(part)
  if (!ports?.distributes) return []
  const own = (part as unknown as Record<string, { id: string; connector?: string }[] | undefined>)[ports.field] ?? []
  let n = own.length + 1
  while (own.some(p => p.id === `p${n}`)) n++
  const connector = own.at(-1)?.connector
  const fuse = { type: 'blade', ratedA: NEW_PORT_A }
  return appendTo(plan, partId, ports.field, { id: `p${n}`, fuse, ...(connector && { connector }) })
}
