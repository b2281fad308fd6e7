import { closeSync, fstatSync, openSync, readFileSync, readSync, writeFileSync } from 'node:fs'
import { inVariant } from '../core/edit/variants'
import { readReadingsCsv } from '../core/formats/readingsCsv'
import { isRecording, readRecording } from '../core/formats/recording'
import { readPlanText } from '../core/plan/faults'
import type { Plan } from '../core/plan/schema'
import { shelfFromCsv } from '../core/shelf/csv'
import type { ShelfItem } from '../core/shelf/item'
import { readNumber } from '../core/units/number'
import { listed } from '../core/units/words'
import { complain, Refusal, refuse, usage, type Call } from './command'

/** What a command reads: files and figures. Each throws Refusal where it cannot be read. */

/** What is piped in, which can be read but once. */
let pipedIn: Buffer | null = null
const piped = () => (pipedIn ??= readFileSync(0))

/** A whole file; `-` is what is piped in. */
export function readBytes(path: string, right: string): Buffer {
  return opened(path, right, () => (path === '-' ? piped() : readFileSync(path)))
}

/** A stretch of a file and how long all of it is, bytes: a recording may be longer than memory. */
export function readStretch(path: string, right: string, { from, bytes }: { from: number; bytes: number }) {
  return opened(path, right, () => {
    if (path === '-') {
      const all = piped()
      return { bytes: all.subarray(from, from + bytes), fileBytes: all.length }
    }
    const file = openSync(path, 'r')
    try {
      const fileBytes = fstatSync(file).size
      const buffer = Buffer.alloc(Math.max(0, Math.min(bytes, fileBytes - from)))
      return { bytes: buffer.subarray(0, readSync(file, buffer, 0, buffer.length, from)), fileBytes }
    } finally {
      closeSync(file)
    }
  })
}

function opened<T>(path: string, right: string, read: () => T): T {
  try {
    return read()
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException
    const wrong = code === 'ENOENT' ? 'there is no such file' : `the file cannot be opened (${code})`
    return refuse(path, wrong, right)
  }
}

export function fileOf({ file, command }: Call): string {
  return file ?? refuse(command.name, 'no file is named', usage(command))
}

/** The plan that a call names, as it is in the way named by --way. */
export const readPlan = (call: Call): Plan => planNamed(call, fileOf(call))

export function planNamed(call: Call, path: string): Plan {
  const read = readPlanText(readBytes(path, 'the path of a wireman-plan file').toString('utf8'))
  if (!read.ok) throw new Refusal(read.faults, `${path} is not a plan that can be read:`)
  const ways = read.plan.variants ?? []
  const name = call.value('way')
  if (name === undefined) {
    const names = listed(ways.map(w => `"${w.name}"`))
    if (ways.length) complain(`This is the plan itself; --way looks at one of its other ways: ${names}.`)
    return read.plan
  }
  const way = ways.find(w => w.id === name) ?? ways.find(w => w.name.toLowerCase() === name.toLowerCase())
  if (way) return inVariant(read.plan, way.id)
  return refuse('--way', `the plan has no way ${name}`, listed(ways.map(w => w.name)) || 'it has no other way')
}

/** The shelf's CSV named by --shelf; empty where none is named. */
export function readShelf(call: Call): ShelfItem[] {
  const path = call.value('shelf')
  if (path === undefined) return []
  const read = shelfFromCsv(readBytes(path, "a shelf's CSV").toString('utf8'), n => `i${n + 1}`)
  if (read.ok) return read.items
  const faults = read.faults.map(({ line, ...fault }) => ({ path: `line ${line}`, ...fault }))
  throw new Refusal(faults, `${path} is not a shelf that can be read:`)
}

const TIMES_TEN = /^\d+(\.\d+)?e[+-]?\d+$/i

/** A figure of an option, in the unit of its name; `3e6` and `7.15` alike. @param otherwise where it is not given */
interface Expected {
  otherwise?: number
  above?: number
}

export function readFigure(call: Call, option: string, { otherwise, above }: Expected = {}) {
  const text = call.value(option)
  const right = above === undefined ? 'a number, 0 or above' : `a number above ${above}`
  if (text === undefined) return otherwise ?? refuse(`--${option}`, 'it is not given', right)
  const read = TIMES_TEN.test(text) ? { ok: true as const, value: Number(text) } : readNumber(text)
  if (!read.ok || read.value < 0 || (above !== undefined && read.value <= above))
    return refuse(`--${option}`, `it is ${text}`, right)
  return read.value
}

/** Writes a file that an option names, or refuses in words. */
export function writeOut(option: string, path: string, made: string | Uint8Array) {
  try {
    writeFileSync(path, made)
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException
    refuse(option, `${path} cannot be written (${code})`, 'a file in a folder that is there')
  }
}

/** Readings of a plan: a CSV file of them, or a recording of instruments; of one revision, where that is asked for. */
export function readingsIn(path: string, plan: Plan, revision: { revision?: number } = {}) {
  const text = readBytes(path, 'a CSV file of readings').toString('utf8')
  const read = (isRecording(text) ? readRecording : readReadingsCsv)(text, plan, revision)
  return read.ok ? read : refuse(`${path}, line ${read.line}`, read.wrong, read.right)
}
