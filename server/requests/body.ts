import type { H3Event } from 'h3'
import { z } from 'zod'
import { readPlan } from '../../core/plan/faults'
import { eventSchema } from '../../core/hours/event'
import { logSchema } from '../../core/log/log'
import { logbookSchema } from '../../core/noise/logbook'
import { shelfSchema } from '../../core/shelf/item'
import type { Plan } from '../../core/plan/schema'

const note = z.string().max(200).default('')
const createSchema = z.strictObject({ plan: z.unknown(), note })
const saveSchema = z.strictObject({ plan: z.unknown(), note, baseRevision: z.int().min(1) })

async function bodyOf<T>(event: H3Event, schema: z.ZodType<T>): Promise<T> {
  const raw = await readRawBody(event, 'utf8')
  let value: unknown
  try {
    value = JSON.parse(raw ?? '')
  } catch {
    throw createError({ statusCode: 400, message: 'The body is not JSON.' })
  }
  const parsed = schema.safeParse(value)
  if (!parsed.success)
    throw createError({
      statusCode: 400,
      message: parsed.error.issues.map(i => `${i.path.join('.') || 'body'}: ${i.message}`).join('; '),
    })
  return parsed.data
}

/** The plan of a body, refused with every fault where it is not one. */
function planOf(value: unknown): Plan {
  const read = readPlan(value)
  if (read.ok) return read.plan
  throw createError({ statusCode: 422, message: 'The plan has faults.', data: { faults: read.faults } })
}

export async function createBody(event: H3Event) {
  const body = await bodyOf(event, createSchema)
  return { note: body.note, plan: planOf(body.plan) }
}

export async function saveBody(event: H3Event) {
  const body = await bodyOf(event, saveSchema)
  return { note: body.note, baseRevision: body.baseRevision, plan: planOf(body.plan) }
}

export async function shelfBody(event: H3Event) {
  return bodyOf(event, z.strictObject({ items: shelfSchema, baseRevision: z.int().min(0) }))
}

export async function logbookBody(event: H3Event) {
  return bodyOf(event, z.strictObject({ logbook: logbookSchema, baseRevision: z.int().min(0) }))
}

export async function logBody(event: H3Event) {
  return bodyOf(event, z.strictObject({ log: logSchema, baseRevision: z.int().min(0) }))
}

/** Most events of one station. */
const MOST_EVENTS = 100

export async function eventsBody(event: H3Event) {
  return bodyOf(event, z.strictObject({ events: z.array(eventSchema).max(MOST_EVENTS), baseRevision: z.int().min(0) }))
}

export async function commandBody(event: H3Event) {
  return bodyOf(event, z.strictObject({ session: z.uuid(), command: z.string().max(200) }))
}

/** `hide`: seed of a fault that is hidden; null: none. */
export async function instrumentsBody(event: H3Event) {
  return bodyOf(event, z.strictObject({ hide: z.int().min(0).max(1e6).nullable() }))
}

export async function backupBody(event: H3Event) {
  return bodyOf(event, z.strictObject({ text: z.string(), restores: z.boolean() }))
}

export const notFound = () => createError({ statusCode: 404, message: 'There is no such station.' })

export async function lanBody(event: H3Event) {
  return bodyOf(event, z.strictObject({ on: z.boolean() }))
}

/** One line, so that it stays one in every list. */
const oneLine = /^[^\p{C}]*$/u

export async function revisionNameBody(event: H3Event) {
  return bodyOf(event, z.strictObject({ name: z.string().trim().max(80).regex(oneLine) }))
}
