import { and, desc, eq, gt, isNull, lt } from 'drizzle-orm'
import { createHash, randomBytes, randomUUID } from 'node:crypto'
import { database, onDisk, room } from './client'
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

/** Taken out in this run, whether or not the disk had room to write it down. */
const shutOut = new Set<string>()

/** @returns the session, told once and never kept. Throws ENOSPC on a full disk. */
export async function pairDevice(name: string, now = new Date()): Promise<{ device: Device; token: string }> {
  await room(0)
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
  if (!row || shutOut.has(row.id)) return null
  if (now.getTime() - row.seenAt.getTime() > SEEN_EVERY_MS && (await hasRoom()))
    await db
      .update(devices)
      .set({ seenAt: now })
      .where(and(eq(devices.id, row.id), lt(devices.seenAt, now)))
  return { id: row.id, name: row.name }
}

/** Who only reads is answered on a full disk as well. */
const hasRoom = () =>
  room(0).then(
    () => true,
    () => false,
  )

/** Devices that may come in now, the one last seen first. */
export async function listDevices(now = new Date()): Promise<DeviceRow[]> {
  const db = await database()
  return db
    .select({ id: devices.id, name: devices.name, pairedAt: devices.pairedAt, seenAt: devices.seenAt })
    .from(devices)
    .where(isLive(now))
    .orderBy(desc(devices.seenAt))
}

/**
 * From here on it is not answered, whatever the disk says.
 * @returns whether there was such a device. Throws ENOSPC where that could not be written down: then it holds until
 * this server ends.
 */
export async function revokeDevice(id: string): Promise<boolean> {
  const db = await database()
  const [known] = await db
    .select({ id: devices.id })
    .from(devices)
    .where(and(eq(devices.id, id), isNull(devices.revokedAt)))
  if (!known) return false
  shutOut.add(id)
  await room(0)
  const rows = await db
    .update(devices)
    .set({ revokedAt: new Date() })
    .where(and(eq(devices.id, id), isNull(devices.revokedAt)))
    .returning({ id: devices.id })
  await onDisk()
  return rows.length > 0
}
