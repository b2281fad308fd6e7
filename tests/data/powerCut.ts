import { mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs'
import { join, relative } from 'node:path'
import { randomFrom, type Random } from '../../core/chance/random'
import { realDisk } from '../../server/db/disk'

/**
 * A disk whose power may be cut: it knows what was synced, and makes the folder that a cut would leave. What was not
 * synced is there or not, by chance and in any order: blocks of files, their lengths, names in folders.
 */

const BLOCK = 4096
/** The lock of a server that is gone with the machine. */
const LEFT_OUT = new Set(['wireman.lock'])

interface Entry {
  ino: number
  isFolder: boolean
}
type Names = Map<string, Entry>

export class CuttableDisk {
  /** By inode: a file keeps its content when it is renamed. */
  private readonly contents = new Map<number, Buffer>()
  /** By folder's inode. */
  private readonly names = new Map<number, Names>()
  private readonly random: Random
  private readonly realSync = realDisk.sync
  syncs = 0

  /** @param onSync called before each sync: a moment at which the power may be cut */
  constructor(
    private readonly folder: string,
    seed: number,
    private readonly onSync: () => void,
  ) {
    this.random = randomFrom(seed)
    this.learn(folder)
    realDisk.sync = async path => {
      await this.realSync(path)
      if (relative(folder, path).startsWith('..')) return
      this.onSync()
      this.syncs++
      const stat = statSync(path)
      if (stat.isDirectory()) this.names.set(stat.ino, namesIn(path))
      else this.contents.set(stat.ino, readFileSync(path))
    }
  }

  /** Everything is on the disk, as after a quiet while. */
  private learn(folder: string) {
    this.names.set(statSync(folder).ino, namesIn(folder))
    for (const [name, { ino, isFolder }] of namesIn(folder)) {
      if (isFolder) this.learn(join(folder, name))
      else this.contents.set(ino, readFileSync(join(folder, name)))
    }
  }

  release() {
    realDisk.sync = this.realSync
  }

  /** What a cut now would leave. `kept`: the share of what was not synced that is there all the same. */
  cutInto(place: string, kept: number) {
    this.leave(this.folder, statSync(this.folder).ino, place, kept)
  }

  private chance = (share: number) => this.random.uniform() < share

  private leave(live: string | null, ino: number, place: string, kept: number) {
    mkdirSync(place, { recursive: true })
    const now: Names = live === null ? new Map() : namesIn(live)
    const were: Names = this.names.get(ino) ?? new Map()
    for (const name of new Set([...now.keys(), ...were.keys()])) {
      if (LEFT_OUT.has(name)) continue
      const [is, was] = [now.get(name), were.get(name)]
      const isSame = is !== undefined && was !== undefined && is.ino === was.ino
      const chosen = isSame || this.chance(kept) ? is : was
      if (!chosen) continue
      const path = join(place, name)
      const there = live !== null && is?.ino === chosen.ino ? join(live, name) : null
      if (chosen.isFolder) this.leave(there, chosen.ino, path, kept)
      else writeFileSync(path, this.mixed(there, chosen.ino, kept))
    }
  }

  /** Blocks as they were synced or as they are. */
  private mixed(there: string | null, ino: number, kept: number): Buffer {
    const synced = this.contents.get(ino) ?? Buffer.alloc(0)
    const live = there === null ? synced : readFileSync(there)
    if (synced.equals(live)) return live
    const length = this.chance(kept) ? live.length : synced.length
    const out = Buffer.alloc(length)
    for (let at = 0; at < length; at += BLOCK) {
      const from = this.chance(kept) ? live : synced
      from.copy(out, at, Math.min(at, from.length), Math.min(at + BLOCK, from.length, length))
    }
    return out
  }
}

const namesIn = (folder: string): Names =>
  new Map(
    readdirSync(folder, { withFileTypes: true }).map(e => {
      const { ino } = statSync(join(folder, e.name))
      return [e.name, { ino, isFolder: e.isDirectory() }]
    }),
  )
