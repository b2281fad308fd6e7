import { randomFrom } from '../../core/chance/random'
import { TARGETS, type Target } from './targets'

/** Reads broken inputs one after the other; what is wrong with an answer is told with its seed. */

export interface FuzzTold {
  inputs: number
  /** Of each target how many were read and how many of these were taken. */
  taken: Record<string, { read: number; taken: number }>
  wrong: string[]
}

/** No answer takes longer, ms. A machine that is busy elsewhere is given a second try. */
const MOST_MS = 1000
const MOST_WRONG = 20

/** What is no figure, somewhere in an answer: its place. */
export function notFinite(value: unknown, place = ''): string | null {
  if (typeof value === 'number') return Number.isFinite(value) ? null : `${place} is ${value}`
  if (typeof value !== 'object' || value === null || ArrayBuffer.isView(value)) return null
  for (const [key, inner] of Object.entries(value)) {
    const found = notFinite(inner, `${place}/${key}`)
    if (found) return found
  }
  return null
}

/** A refusal says what is wrong: an answer that is not ok and has no words helps nobody. */
function isSilent(answer: unknown): boolean {
  const { ok, faults, wrong } = (answer ?? {}) as { ok?: boolean; faults?: { wrong: string }[]; wrong?: string }
  if (ok !== false) return false
  return faults ? !faults.length || faults.some(f => !f.wrong) : !wrong
}

function tried(target: Target, input: string | Uint8Array): { answer: unknown; ms: number } {
  const began = performance.now()
  const answer = target.read(input as never)
  return { answer, ms: performance.now() - began }
}

/** What is wrong with the answer to an input; null: nothing. */
function wrongWith(target: Target, input: string | Uint8Array): { wrong: string | null; answer?: unknown } {
  try {
    const first = tried(target, input)
    const ms = first.ms > MOST_MS ? tried(target, input).ms : first.ms
    if (ms > MOST_MS) return { wrong: `took ${ms.toFixed(0)} ms` }
    const figure = notFinite(first.answer)
    if (figure) return { wrong: figure }
    return { wrong: isSilent(first.answer) ? 'refused without a word' : null, answer: first.answer }
  } catch (error) {
    return { wrong: `threw ${(error as Error).stack?.split('\n').slice(0, 3).join(' ') ?? String(error)}` }
  }
}

/** @param goesOn asked before each input */
export function fuzz(firstSeed: number, goesOn: (inputs: number) => boolean): FuzzTold {
  const told: FuzzTold = { inputs: 0, taken: {}, wrong: [] }
  while (goesOn(told.inputs) && told.wrong.length < MOST_WRONG) {
    const seed = firstSeed + told.inputs++
    const target = TARGETS[seed % TARGETS.length]!
    const input = target.make(randomFrom(seed))
    const { wrong, answer } = wrongWith(target, input)
    if (wrong) told.wrong.push(`${target.name}, seed ${seed}: ${wrong}`)
    const counts = (told.taken[target.name] ??= { read: 0, taken: 0 })
    counts.read++
    if ((answer as { ok?: boolean } | undefined)?.ok !== false) counts.taken++
  }
  return told
}
