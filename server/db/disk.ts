import { copyFileSync, existsSync, mkdirSync, readdirSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { open } from 'node:fs/promises'
import { dirname, join } from 'node:path'

/**
 * What is acknowledged is on the disk, so that the power may be cut at any moment.
 *
 * The embedded engine writes its log of changes (`pg_wal`) and its files, and syncs neither. Here
 * - the log is synced before a change is acknowledged, once for all that wait;
 * - its other files change only when the engine opens, makes a checkpoint or closes. Meanwhile a copy of the log, and
 *   of the small files that the log does not bring back, lies beside (`pg.hold`), whole and synced before and dropped
 *   only once all files are synced. A start that finds it puts it back: from there the log brings every page of the
 *   tables to what was acknowledged, since it holds each page whole that changed after a checkpoint (full_page_writes).
 */
export interface Disk {
  /** Comes back when what a file or folder holds would outlive a power cut. */
  sync: (path: string) => Promise<void>
}

export const realDisk: Disk = {
  async sync(path) {
    const handle = await open(path, 'r')
    try {
      await handle.sync()
    } finally {
      await handle.close()
    }
  },
}

const WAL = 'pg_wal'
/** What a checkpoint writes beside the pages of tables, and the log that leads on from it. */
const HELD = [
  join('global', 'pg_control'),
  join('global', 'pg_filenode.map'),
  WAL,
  'pg_logical',
  'pg_xact',
  'pg_multixact',
  'pg_commit_ts',
  'pg_twophase',
  'pg_replslot',
]
/** Written last into a copy that is whole. */
const COMPLETE = 'complete'
const AT_ONCE = 16

const filesIn = (folder: string) =>
  readdirSync(folder, { withFileTypes: true })
    .filter(e => e.isFile())
    .map(e => e.name)

export class DurableFiles {
  private readonly pg: string
  private readonly hold: string
  private syncing: Promise<void> | null = null
  private next: Promise<void> | null = null
  /** While the copy lies beside, nothing is acknowledged: it would be put back over what came since. */
  private settling: Promise<void> | null = null
  private isSettled = true

  constructor(
    private readonly folder: string,
    private readonly disk: Disk = realDisk,
  ) {
    this.pg = join(folder, 'pg')
    this.hold = join(folder, 'pg.hold')
  }

  /** Before the engine opens: puts back what a power cut left half done, and lays the copy beside. */
  async beforeOpen(): Promise<void> {
    this.isSettled = false
    // The engine's own note of who runs it, perhaps torn: wireman.lock is what guards the folder.
    rmSync(join(this.pg, 'postmaster.pid'), { force: true })
    if (existsSync(join(this.hold, COMPLETE))) await this.putBack()
    else await this.layBeside()
  }

  /** Once the engine has opened, and after a checkpoint: all files are as on the disk, and the copy goes. */
  async settled(): Promise<void> {
    await this.syncAll(this.pg)
    await this.dropCopy()
    this.isSettled = true
  }

  /**
   * Lets the engine write its files. Nothing else may change them meanwhile.
   * @param work a checkpoint, or the engine's end
   */
  async whileHeld(work: () => Promise<unknown>): Promise<void> {
    const held = (async () => {
      this.isSettled = false
      await this.layBeside()
      await work()
      await this.settled()
    })()
    this.settling = held.catch(() => {})
    try {
      await held
    } finally {
      this.settling = null
    }
  }

  /** Comes back when all that was changed before is on the disk. Those who ask together wait together. */
  async acknowledged(): Promise<void> {
    await this.settling
    // A disk that failed in the midst of it is asked again.
    if (!this.isSettled) await this.settled()
    // What runs may have begun before the last change was written: the one after it counts.
    if (!this.syncing) return this.begin()
    this.next ??= this.syncing
      .catch(() => {})
      .then(() => {
        this.next = null
        return this.begin()
      })
    return this.next
  }

  private begin(): Promise<void> {
    const mine = this.syncLog().finally(() => {
      if (this.syncing === mine) this.syncing = null
    })
    this.syncing = mine
    return mine
  }

  private async syncLog(): Promise<void> {
    const wal = join(this.pg, WAL)
    await Promise.all(filesIn(wal).map(name => this.syncIfThere(join(wal, name))))
    await this.disk.sync(wal)
  }

  /** A log file may be taken out or renamed by the engine while it is on its way. */
  private async syncIfThere(path: string): Promise<void> {
    try {
      await this.disk.sync(path)
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'ENOENT') throw error
    }
  }

  private async layBeside(): Promise<void> {
    const { hold, pg } = this
    rmSync(hold, { recursive: true, force: true })
    mkdirSync(hold)
    for (const path of HELD) copyOver(join(pg, path), join(hold, path))
    await this.syncAll(hold)
    writeFileSync(join(hold, COMPLETE), '')
    await this.disk.sync(join(hold, COMPLETE))
    await this.disk.sync(hold)
    await this.disk.sync(this.folder)
  }

  private async putBack(): Promise<void> {
    const { hold, pg } = this
    for (const path of HELD) copyOver(join(hold, path), join(pg, path))
    await this.syncAll(pg)
  }

  private async dropCopy(): Promise<void> {
    const { hold } = this
    // First its mark, for good: a copy half gone would be put back else, or an old one over what came since.
    rmSync(join(hold, COMPLETE), { force: true })
    await this.disk.sync(hold)
    rmSync(hold, { recursive: true, force: true })
  }

  private async syncAll(folder: string): Promise<void> {
    const paths = pathsIn(folder)
    let at = 0
    const worker = async () => {
      while (at < paths.length) await this.syncIfThere(paths[at++]!)
    }
    await Promise.all(Array.from({ length: AT_ONCE }, worker))
  }
}

/** A file or folder in place of another, as it was: what only the other has goes. */
function copyOver(from: string, to: string) {
  rmSync(to, { recursive: true, force: true })
  if (!existsSync(from)) return
  if (!statSync(from).isDirectory()) {
    mkdirSync(dirname(to), { recursive: true })
    return copyFileSync(from, to)
  }
  mkdirSync(to, { recursive: true })
  for (const name of readdirSync(from)) copyOver(join(from, name), join(to, name))
}

/** All files and folders, folders after what they hold. */
function pathsIn(folder: string): string[] {
  const inside = readdirSync(folder, { withFileTypes: true }).flatMap(e => {
    const path = join(folder, e.name)
    return e.isDirectory() ? pathsIn(path) : [path]
  })
  return [...inside, folder]
}

/** Puts a folder that was made aside into place, for good. */
export async function placeForGood(aside: string, place: string, folder: string, disk = realDisk): Promise<void> {
  for (const path of pathsIn(aside)) await disk.sync(path)
  renameSync(aside, place)
  await disk.sync(folder)
}
