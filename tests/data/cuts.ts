import { existsSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { randomFrom, type Random } from '../../core/chance/random'
import { EMPTY_LOG, type Log } from '../../core/log/log'
import { checkpoints, close, database } from '../../server/db/client'
import { readLog, saveLog } from '../../server/db/log'
import { readShelf, saveShelf } from '../../server/db/shelf'
import { createStation, listRevisions, readStation, saveStation } from '../../server/db/stations'
import { demoPlan } from './plans'
import { CuttableDisk } from './powerCut'

/** Edits to a station, its log and the shelf, with the power cut now and then; and what is lost of them. */

export interface CutsAsked {
  cuts: number
  edits: number
  seed: number
}
export interface CutsTold {
  acknowledged: number
  cuts: number
  /** Cuts while files were being written by the engine: as it opened, made a checkpoint, or closed. */
  whileHeld: number
  lost: string[]
}

/** Acknowledged so far. */
interface Known {
  station: number
  log: number
  shelf: number
}

const SYNCS_A_STOP = 2000
const SYNCS_OF_A_CHECKPOINT = 1000
const KEPT = [0, 0.5, 1, 0.2, 0.9]
export async function cutsOf({ cuts, edits, seed }: CutsAsked): Promise<CutsTold> {
  const root = mkdtempSync(join(tmpdir(), 'wireman-cuts-'))
  const folder = join(root, 'data')
  process.env.WIREMAN_DATA = folder
  process.env.WIREMAN_MIGRATIONS = 'server/db/migrations'
  process.env.WIREMAN_TEMPLATE ??= '.output/template'
  const random = randomFrom(seed)
  const known: Known = { station: 0, log: 0, shelf: 0 }
  const images: { place: string; known: Known; held: boolean }[] = []
  const plan = demoPlan('tern-rock-light')
  // So that checkpoints come between the edits, too.
  Object.assign(checkpoints, { looksEvery: 10, logBytes: 100_000 })

  await database()
  const { id } = await createStation(plan, { note: 'first' })
  known.station = 1
  known.shelf = (await readShelf()).revision
  // Half the cuts between edits, half while it is stopped and started: some two thousand syncs each time.
  const stops = Math.ceil(cuts / 4)
  const atEdit = chosen(cuts - 2 * stops, edits, random)
  const stopAt = [...chosen(stops, edits, random)]
  const atSync = new Set<number>()
  const cut = () => {
    const place = join(root, `cut-${images.length}`)
    disk.cutInto(place, KEPT[images.length % KEPT.length]!)
    images.push({ place, known: { ...known }, held: existsSync(join(folder, 'pg.hold')) })
  }
  // From here on as the machine was left running for a while.
  const disk = new CuttableDisk(folder, seed, () => void (atSync.delete(disk.syncs) && cut()))

  try {
    for (let n = 0; n < edits; n++) {
      const which = n % 3
      if (which === 0) {
        await saveStation(id, known.station, { ...plan, name: `edit ${known.station + 1}` }, { note: 'edit' })
        known.station++
      } else if (which === 1) {
        await saveLog(id, known.log, logOf(known.log + 1))
        known.log++
      } else {
        await saveShelf(known.shelf, [])
        known.shelf++
      }
      // Every other one later, in the middle of what is being synced: a checkpoint, as likely as not.
      if (atEdit.has(n) && n % 2) cut()
      else if (atEdit.has(n)) atSync.add(disk.syncs + Math.floor(SYNCS_OF_A_CHECKPOINT * random.uniform()))
      if (!stopAt.includes(n)) continue
      for (const at of chosen(2, SYNCS_A_STOP, random)) atSync.add(disk.syncs + at)
      await close()
      await database()
    }
    await close()
  } finally {
    disk.release()
  }
  const lost: string[] = []
  for (const [n, { place, known }] of images.entries()) {
    process.env.WIREMAN_DATA = place
    lost.push(...(await lostIn(id, known)).map(l => `cut ${n}: ${l}`))
    await close()
    rmSync(place, { recursive: true, force: true })
  }
  rmSync(root, { recursive: true, force: true })
  return { acknowledged: edits, cuts: images.length, whileHeld: images.filter(i => i.held).length, lost }
}

/** So many different ones of the first `below` numbers. */
function chosen(count: number, below: number, random: Random): Set<number> {
  const all = new Set<number>()
  while (all.size < Math.min(count, below)) all.add(Math.floor(random.uniform() * below))
  return all
}

const logOf = (n: number): Log => ({
  ...EMPTY_LOG,
  steps: [{ id: `step-${n}`, time: '2026-05-02T10:00:00' }],
})

/** What was acknowledged and is not there. */
async function lostIn(id: string, known: Known): Promise<string[]> {
  const lost: string[] = []
  await database()
  const station = await readStation(id)
  if (!station || station.revision < known.station) lost.push(`station at ${station?.revision}, not ${known.station}`)
  const last = await readStation(id, known.station)
  if (known.station > 1 && last?.plan.name !== `edit ${known.station}`) lost.push(`plan ${known.station} is not itself`)
  const numbers = (await listRevisions(id)).length
  if (numbers < Math.min(500, known.station)) lost.push(`${numbers} revisions of ${known.station}`)
  const log = await readLog(id)
  if (!log || log.revision < known.log) lost.push(`log at ${log?.revision}, not ${known.log}`)
  if (log && known.log && log.log.steps[0]?.id !== `step-${log.revision}`) lost.push('the log is not itself')
  const shelf = await readShelf()
  if (shelf.revision < known.shelf) lost.push(`shelf at ${shelf.revision}, not ${known.shelf}`)
  // And it goes on from there.
  const next = station && (await saveStation(id, station.revision, station.plan, { note: 'after the cut' }))
  if (next?.status !== 'saved') lost.push('it cannot be saved to any more')
  return lost
}
