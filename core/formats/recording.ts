import { NO_PLACE, readLine, type Channel } from '../instruments/protocol'
import type { Plan } from '../plan/schema'
import type { Aside } from '../readings/reading'
import { readReadingsCsv, type ReadingsRead } from './readingsCsv'

/** What instruments said, kept in a file: the same lines as over a socket. */

export const isRecording = (text: string) => /^\uFEFF?\s*wireman-instruments\b/.test(text)

/** A figure that stood still for a while: one reading. */
interface Stretch {
  channel: Channel
  condition: string
  values: number[]
  time: string
  line: number
}

/** Readings of a recording: of each figure one for each time that the station was in one state. */
export function readRecording(text: string, plan: Plan, options: { revision?: number } = {}): ReadingsRead {
  const { stretches, aside } = stretchesOf(text)
  if (!stretches.length && !aside.length)
    return { ok: false, line: 1, wrong: 'the recording has no figures', right: 'lines that begin with read' }
  // Judged as the rows of a file are; each then says the line of the recording.
  const rows = stretches.map(({ channel: { id, at, unit, digit }, condition, values, time }) => {
    const shown = median(values).toFixed(decimalsOf(digit))
    return [at, condition, unit === 'V' ? shown : '', unit === 'A' ? shown : '', time, instrumentOf(id)]
      .map(quoted)
      .join(',')
  })
  const read = readReadingsCsv(['at,condition,volts,amps,time,with', ...rows].join('\n'), plan, options)
  if (!read.ok) return read
  const there = <T extends { line: number }>(entry: T): T => ({ ...entry, line: stretches[entry.line - 2]!.line })
  const all = [...aside, ...read.aside.map(there)].sort((a, b) => a.line - b.line)
  return { ...read, readings: read.readings.map(there), aside: all }
}

/** Channels of one instrument share what stands before the dot. */
const instrumentOf = (channel: string) => channel.split('.')[0]!
const median = (values: readonly number[]) => [...values].sort((a, b) => a - b)[values.length >> 1]!
const decimalsOf = (digit: number) => Math.max(0, Math.ceil(-Math.log10(digit) - 1e-9))
const quoted = (cell: string) => (/[",\n]/.test(cell) ? `"${cell.replaceAll('"', '""')}"` : cell)

function stretchesOf(text: string): { stretches: Stretch[]; aside: Aside[] } {
  const channels = new Map<string, Channel>()
  const open = new Map<string, Stretch>()
  const done: Stretch[] = []
  const aside: Aside[] = []
  let condition = ''
  const close = () => {
    done.push(...open.values())
    open.clear()
  }
  text.split(/\r?\n/).forEach((text, i) => {
    const line = i + 1
    if (!text.trim()) return
    const read = readLine(text.replace(/^\uFEFF/, ''))
    const leave = (wrong: string, right: string) => aside.push({ line, text, wrong, right })
    if (!read.ok) return void leave(read.wrong, read.right)
    const { message } = read
    if (message.is === 'channel') {
      const before = open.get(message.channel.id)
      if (before) done.push(before)
      open.delete(message.channel.id)
      channels.set(message.channel.id, message.channel)
    }
    if (message.is === 'state') {
      close()
      ;({ condition } = message)
    }
    if (message.is !== 'read') return
    const channel = channels.get(message.channel)
    if (!channel) return void leave(`no channel ${message.channel} was said`, 'a line channel before its figures')
    if (message.value === null || channel.at === NO_PLACE || channel.unit === '%') return
    if (!condition) return void leave('what was on is not said', 'a line state before the figures')
    const known = open.get(channel.id)
    if (known) known.values.push(message.value)
    const { time } = message
    open.set(channel.id, known ? { ...known, time, line } : { channel, condition, values: [message.value], time, line })
  })
  close()
  return { stretches: done, aside }
}
