import { and, desc, eq, gt, isNull, lt } from 'drizzle-orm'
import { createHash, randomBytes, randomUUID } from 'node:crypto'
import { database, onDisk } from './client'
import { devices } from './schema'

/** Devices that were let in: each with a name and a session of its own, which can be taken back. */

export interface Device {
  id: string
  name: string
}
export interface DeviceRow extends Device {
  pairedAt: Date
  seenAt: Date
}

/** A session that nobody used for so long is over. */
export const SESSION_DAYS = 30
const DAY_MS = 86_400_000
/** When it was last seen is written no more often than this. */
const SEEN_EVERY_MS = 10 * 60_000

/** What is kept of a session is not what opens it. */
const hashOf = (token: string) => createHash('sha256').update(token).digest('hex')

const isLive = (now: Date) =>
  and(isNull(devices.revokedAt), gt(devices.seenAt, new Date(now.getTime() - SESSION_DAYS * DAY_MS)))

/** @returns the session, told once and never kept */
export async function pairDevice(name: string, now = new Date()): Promise<{ device: Device; token: string }> {
  const db = await database()
  const token = randomBytes(32).toString('base64url')
  const device = { id: randomUUID(), name }
  await db.insert(devices).values({ ...device, tokenHash: hashOf(token), pairedAt: now, seenAt: now })
  await onDisk()
  return { device, token }
}

/** The device of a session; null where it is over, taken back or nobody's. */
export async function deviceOf(token: string, now = new Date()): Promise<Device | null> {
  const db = await database()
  const [row] = await db
    .select()
    .from(devices)
    .where(and(eq(devices.tokenHash, hashOf(token)), isLive(now)))
  if (!row) return null
  if (now.getTime() - row.seenAt.getTime() > SEEN_EVERY_MS)
    await db
      .update(devices)
      .set({ seenAt: now })
      .where(and(eq(devices.id, row.id), lt(devices.seenAt, now)))
  return { id: row.id, name: row.name }
}

/** Devices that may come in now, the one last seen first. */
export async function listDevices(now = new Date()): Promise<DeviceRow[]> {
  const db = await database()
  return db
    .select({ id: devices.id, name: devices.name, pairedAt: devices.pairedAt, seenAt: devices.seenAt })
    .from(devices)
    .where(isLive(now))
    .orderBy(desc(devices.seenAt))
}

/** @returns whether there was such a device */
export async function revokeDevice(id: string): Promise<boolean> {
  const db = await database()
  const rows = await db
    .update(devices)
    .set({ revokedAt: new Date() })
    .where(and(eq(devices.id, id), isNull(devices.revokedAt)))
    .returning({ id: devices.id })
  await onDisk()
  return rows.length > 0
}
