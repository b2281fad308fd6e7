import { linkSync, mkdirSync, readFileSync, readlinkSync, renameSync, rmSync, writeFileSync } from 'node:fs'
import { hostname } from 'node:os'
import { join } from 'node:path'
import { setTimeout as sleep } from 'node:timers/promises'

/**
 * One server a data folder: the database engine does not guard against two of them on the same files.
 * The lock is a file naming its process; one left by a process that is gone (killed, or the machine went down) is taken
 * over. In another container, or on another machine that shares the folder, a process id means nothing: there the lock
 * is held for as long as a second file changes, which its holder writes every few seconds.
 */
export interface Lock {
  release: () => void
}

export class FolderInUse extends Error {}

interface Holder {
  pid: number
  started: string
  /** Where it runs; unsaid: an older Wireman's, taken for here. */
  where?: Place
}

/** A machine, its kernel since it was started, and whose count of processes it is. */
interface Place {
  machine: string
  boot: string
  processes: string
}

export interface LockOptions {
  /** So often the holder writes, ms. */
  beatMs?: number
  /** Told when somebody else has taken the folder meanwhile, as after a standstill of many beats. */
  onLost?: () => void
}

const BEAT_MS = 3000
/** So many beats without one, and the holder is gone. */
const MISSED = 4

/** Takes a folder. Throws FolderInUse where somebody else has it. */
export async function lockFolder(folder: string, { beatMs = BEAT_MS, onLost }: LockOptions = {}): Promise<Lock> {
  mkdirSync(folder, { recursive: true })
  const path = join(folder, 'wireman.lock')
  const mine = `${path}.${process.pid}.${Math.random().toString(36).slice(2)}`
  const self: Holder = { pid: process.pid, started: processAt(process.pid)?.started ?? '', where: HERE }
  writeFileSync(mine, JSON.stringify(self))
  try {
    for (let attempt = 0; attempt < 5; attempt++) {
      try {
        // A link either makes the lock whole or fails: no half-written lock is ever seen.
        linkSync(mine, path)
        return held(path, self, { beatMs, onLost })
      } catch (error) {
        if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error
      }
      const holder = readHolder(path)
      if (await isHeld(path, holder, beatMs)) throw new FolderInUse(inUse(folder, holder!))
      // Only one of several takers gets to move the stale lock away.
      try {
        renameSync(path, `${mine}.stale`)
        rmSync(`${mine}.stale`, { force: true })
      } catch {
        /* somebody else moved it: try again */
      }
    }
    throw new FolderInUse(`The data folder ${folder} is being taken by another Wireman.`)
  } finally {
    rmSync(mine, { force: true })
  }
}

function inUse(folder: string, { pid, where }: Holder): string {
  const who = isHere(where) ? `process ${pid}` : 'in another container, or on another machine'
  return (
    `Another Wireman (${who}) is running on the data folder ${folder}. Use that one, stop ` +
    'it first, or choose another folder with WIREMAN_DATA.'
  )
}

/** Keeps a lock by writing beside it, until it is let go. */
function held(path: string, self: Holder, { beatMs, onLost }: Required<Pick<LockOptions, 'beatMs'>> & LockOptions) {
  const isOwn = () => JSON.stringify(readHolder(path)) === JSON.stringify(self)
  let count = 0
  const beat = () => {
    // A lock that cannot be read for a moment is not another's.
    if (readHolder(path) && !isOwn()) {
      clearInterval(timer)
      onLost?.()
      return
    }
    try {
      writeFileSync(beatOf(path), `${HERE.machine} ${HERE.processes} ${self.pid} ${++count}`)
    } catch {
      /* a disk that is full or away for a moment: the next beat tells */
    }
  }
  const timer = setInterval(beat, beatMs)
  timer.unref()
  beat()
  return {
    release() {
      clearInterval(timer)
      if (!isOwn()) return
      rmSync(beatOf(path), { force: true })
      rmSync(path, { force: true })
    },
  }
}

const beatOf = (path: string) => `${path}.beat`

/** Whether whoever made the lock still has it. */
async function isHeld(path: string, holder: Holder | null, beatMs: number): Promise<boolean> {
  if (!holder) return false
  if (isHere(holder.where)) return isAlive(holder)
  // The same machine, started anew since: nothing of then runs.
  if (holder.where!.machine === HERE.machine && holder.where!.boot !== HERE.boot) return false
  const now = () => {
    try {
      return readFileSync(beatOf(path), 'utf8')
    } catch {
      return ''
    }
  }
  const was = now()
  for (let waited = 0; waited < MISSED * beatMs; waited += beatMs / 2) {
    await sleep(beatMs / 2)
    if (now() !== was) return true
  }
  return false
}

/** This machine, and the numbering of processes that is seen here. */
const HERE: Place = {
  machine: `${hostname()} ${orNone(() => readFileSync('/etc/machine-id', 'utf8').trim())}`,
  boot: orNone(() => readFileSync('/proc/sys/kernel/random/boot_id', 'utf8').trim()),
  processes: orNone(() => readlinkSync('/proc/self/ns/pid')),
}

function orNone(read: () => string): string {
  try {
    return read()
  } catch {
    return ''
  }
}

const isHere = (where: Place | undefined) => where === undefined || JSON.stringify(where) === JSON.stringify(HERE)

function readHolder(path: string): Holder | null {
  try {
    return JSON.parse(readFileSync(path, 'utf8')) as Holder
  } catch {
    return null
  }
}

function isAlive(holder: Holder): boolean {
  try {
    process.kill(holder.pid, 0)
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'EPERM'
  }
  // The number may have been given to another process since: its start time tells, where the system shows one.
  const now = processAt(holder.pid)
  if (now === null || holder.started === '') return true
  return now.state !== 'Z' && now.started === holder.started
}

/**
 * State letter and start time (clock ticks since boot) of a process, where the system shows them (Linux). Z: dead, not
 * yet reaped.
 */
function processAt(pid: number): { state: string; started: string } | null {
  try {
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8')
    const fields = stat.slice(stat.lastIndexOf(')') + 2).split(' ')
    return { state: fields[0]!, started: fields[19]! }
  } catch {
    return null
  }
}
