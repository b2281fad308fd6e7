import { createWriteStream, existsSync, mkdirSync, readdirSync, renameSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { pipeline } from 'node:stream/promises'
import { lostIn } from '../../core/formats/backup'
import { backupText } from './backup'
import { dataFolder } from './client'
import { realDisk } from './disk'

/** Copies kept beside the data: one a day, the last seven, and one before anything is restored over them. */

const FOLDER = 'backups'
const MOST_KEPT = 7
const DAILY = /^\d{4}-\d\d-\d\d\.jsonl$/

/**
 * Writes a backup to a file: whole and on the disk, or not at all.
 * @returns what could not be read, in words
 */
export async function backupTo(path: string): Promise<string[]> {
  const aside = `${path}.part`
  const lost: string[] = []
  const lines = async function* () {
    for await (const line of backupText()) {
      if (lostIn(line)) lost.push(lostIn(line))
      yield line
    }
  }
  await pipeline(lines, createWriteStream(aside))
  await realDisk.sync(aside)
  renameSync(aside, path)
  return lost
}

/** @returns the file, named by what it is for */
export async function keepCopy(name: string): Promise<string> {
  const folder = join(dataFolder(), FOLDER)
  mkdirSync(folder, { recursive: true })
  const path = join(folder, `${name}.jsonl`)
  await backupTo(path)
  return path
}

/** Today's copy, where there is none yet; of older ones the last seven stay. */
export async function keepDaily(day: string): Promise<void> {
  const folder = join(dataFolder(), FOLDER)
  if (!existsSync(join(folder, `${day}.jsonl`))) await keepCopy(day)
  const daily = readdirSync(folder)
    .filter(name => DAILY.test(name))
    .sort()
  for (const name of daily.slice(0, -MOST_KEPT)) rmSync(join(folder, name), { force: true })
}
