import { linkSync, mkdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'

/**
 * One server a data folder: the database engine does not guard against two of them on the same files.
 * The lock is a file naming its process; one left by a process that is gone (killed, or the machine went down) is taken
 * over.
 */
export interface Lock {
  release: () => void
}

export class FolderInUse extends Error {}

interface Holder {
  pid: number
  started: string
}

export function lockFolder(folder: string): Lock {
  mkdirSync(folder, { recursive: true })
  const path = join(folder, 'wireman.lock')
  const mine = `${path}.${process.pid}`
  writeFileSync(
    mine,
    JSON.stringify({ pid: process.pid, started: processAt(process.pid)?.started ?? '' } satisfies Holder),
  )
  try {
    for (let attempt = 0; attempt < 5; attempt++) {
      try {
        // A link either makes the lock whole or fails: no half-written lock is ever seen.
        linkSync(mine, path)
        return { release: () => releaseOwn(path) }
      } catch (error) {
        if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error
      }
      const holder = readHolder(path)
      if (holder && isAlive(holder)) {
        throw new FolderInUse(
          `Another Wireman (process ${holder.pid}) is running on the data folder ${folder}. Use that one, stop ` +
            'it first, or choose another folder with WIREMAN_DATA.',
        )
      }
      // Only one of several takers gets to move the stale lock away.
      try {
        renameSync(path, `${path}.stale.${process.pid}`)
        rmSync(`${path}.stale.${process.pid}`, { force: true })
      } catch {
        /* somebody else moved it: try again */
      }
    }
    throw new FolderInUse(`The data folder ${folder} is being taken by another Wireman.`)
  } finally {
    rmSync(mine, { force: true })
  }
}

function releaseOwn(path: string) {
  if (readHolder(path)?.pid === process.pid) rmSync(path, { force: true })
}

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
