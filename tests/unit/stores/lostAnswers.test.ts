import * as fc from 'fast-check'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { EMPTY_LOG, type Log } from '../../../core/log/log'
import { mergedLogs } from '../../../core/log/merge'
import { threeWay } from '../../../core/merge/threeWay'
import { ApiError } from '../../../app/stores/request'
import { sendWaiting } from '../../../app/stores/sendWaiting'
import { printOf, withPrint } from '../../../app/stores/sentFrom'
import { useSavedDocument, type SavedDocument } from '../../../app/stores/useSavedDocument'

/** What a browser keeps over a closed page. */
const drafts = vi.hoisted(() => new Map<string, object>())
const waiting = () =>
  [...drafts].map(([name, draft]) => ({ ...draft, isOwn: false, drop: async () => drafts.delete(name) }))
vi.mock('../../../app/stores/keptHere', () => ({
  keepDraft: async (draft: { name: string }) => void drafts.set(draft.name, structuredClone(draft)),
  dropDraft: async (name: string) => void drafts.delete(name),
  waitingDraftsOf: async () => waiting(),
  waitingDrafts: async () => waiting(),
  keepAnswer: async () => undefined,
  keptAnswer: async () => undefined,
}))

/** How the next save fares on its way: there and back, lost before the server has it, or only its answer lost. */
type Fate = 'through' | 'lost' | 'answer lost'
/** An edit, how long it is until the next, and whether the page is closed in between. */
interface Step {
  does: 'add' | 'remove' | 'change'
  id: string
  thenMs: number
  closes: boolean
}

const fates = fc.array(fc.constantFrom<Fate>('through', 'lost', 'answer lost'), { maxLength: 12 })
const steps: fc.Arbitrary<Step[]> = fc.array(
  fc.record({
    does: fc.constantFrom<Step['does']>('add', 'remove', 'change'),
    id: fc.constantFrom('r0', 'r1'),
    thenMs: fc.constantFrom(0, 50, 400, 3000),
    closes: fc.constantFrom(false, false, false, true),
  }),
  { maxLength: 12 },
)

class Server {
  revision = 1
  constructor(
    public value: Log,
    public fates: Fate[],
  ) {}
  /** As the route does it: taken where nobody saved since. */
  async save(value: Log, base: number) {
    const fate = this.fates.shift() ?? 'through'
    if (fate === 'lost') throw new ApiError('away', 0)
    const isTaken = base === this.revision
    if (isTaken) {
      this.revision++
      // Fields stand in the order of the server's own schema.
      this.value = Object.fromEntries(Object.entries(structuredClone(value)).reverse()) as Log
    }
    if (fate === 'answer lost') throw new ApiError('silent', 0)
    const { revision } = this
    return isTaken
      ? { status: 'saved' as const, revision }
      : { status: 'conflict' as const, revision, theirs: structuredClone(this.value) }
  }
}

const volts = (log: Log) => log.readings.map(r => [r.id, r.volts])
const reading = (id: string) => ({ id, at: 'hf', condition: 'full/idle', volts: 13, time: '2026-10-10T09:00' })
/** The log after an edit; itself where there is nothing to edit. */
function edited(log: Log, { does, id }: Step): Log {
  const { readings } = log
  const isThere = readings.some(r => r.id === id)
  if (isThere === (does === 'add')) return log
  if (does === 'add') return { ...log, readings: [...readings, reading(id)] }
  if (does === 'remove') return { ...log, readings: readings.filter(r => r.id !== id) }
  return { ...log, readings: readings.map(r => (r.id === id ? { ...r, volts: r.volts! + 1 } : r)) }
}

type Merge = (theirs: Log, now: Log, base: Log) => Log | null
const merges: [string, Merge][] = [
  ['entry by entry', (theirs, now, base) => mergedLogs(now, theirs, base)],
  ['field by field, asking where both changed one', (theirs, now, base) => threeWay(base, now, theirs).value],
]

beforeEach(() => {
  vi.useFakeTimers()
  drafts.clear()
})
afterEach(() => vi.useRealTimers())

async function opened(server: Server, onConflict: Merge): Promise<SavedDocument<Log, Log>> {
  const document = useSavedDocument<Log, Log>({
    send: (value, base) => server.save(value, base),
    onConflict,
    saveAfterMs: 300,
    retryAfterMs: 2000,
  })
  await document.open(
    'log x',
    async () => ({ theirs: structuredClone(server.value), revision: server.revision }),
    found => found,
  )
  return document
}

/** Goes through the steps as one user in one window after the other. @returns what the user made of it */
async function used(server: Server, steps: readonly Step[], merge: Merge) {
  let document = await opened(server, merge)
  let made = server.value
  for (const next of steps) {
    const after = edited(made, next)
    if (after !== made) document.change(edited(document.value.value!, next))
    made = after
    await vi.advanceTimersByTimeAsync(next.thenMs)
    if (!next.closes) continue
    // A page that lives a moment longer than the edit, and takes its timers with it.
    await vi.advanceTimersByTimeAsync(1)
    vi.clearAllTimers()
    document = await opened(server, merge)
  }
  server.fates = []
  await vi.advanceTimersByTimeAsync(30_000)
  return { document, made }
}

describe('a document of one user whose saves get lost, or their answers', () => {
  it.each(merges)('stands on the server as the user left it, merged %s', async (_, merge) => {
    await fc.assert(
      fc.asyncProperty(steps, fates, async (steps, fates) => {
        drafts.clear()
        const server = new Server({ ...EMPTY_LOG, readings: [reading('r0')] }, [...fates])
        const { document, made } = await used(server, steps, merge)
        expect(document.state.value).toBe('saved')
        expect(volts(document.value.value!)).toEqual(volts(made))
        expect(volts(server.value)).toEqual(volts(made))
      }),
      { seed: 8, numRuns: 400 },
    )
  })
})

describe('what waits of a closed page', () => {
  it.each([
    ['taken without an answer, and taken back after that', true, ['r0']],
    ['written in another window', false, ['r0', 'r1']],
  ])('%s: is sent as it should be', async (_, isFromHere, left) => {
    const before: Log = { ...EMPTY_LOG, readings: [reading('r0')] }
    const there: Log = { ...EMPTY_LOG, readings: [reading('r0'), reading('r1')] }
    drafts.set('log x', { name: 'log x', base: before, value: before, sent: isFromHere ? withPrint([], there) : [] })
    let stands = { revision: 2, log: there }
    vi.stubGlobal('fetch', async (_path: string, { method, body = '' }: { method: string; body?: string }) => {
      if (method === 'PUT') stands = { revision: 3, log: (JSON.parse(body) as { log: Log }).log }
      const answer = { status: 'saved', ...structuredClone(stands) }
      return { ok: true, status: 200, json: async () => answer }
    })
    await sendWaiting(() => false)
    vi.unstubAllGlobals()
    expect(stands.log.readings.map(r => r.id)).toEqual(left)
    expect([...drafts]).toEqual([])
  })
})

describe('the print of a value', () => {
  it('is the same in whatever order its fields stand, and of its lists another', () => {
    const [a, b] = [
      { n: 'x', of: [1, { p: 2, q: 3 }] },
      { of: [1, { q: 3, p: 2, r: undefined }], n: 'x' },
    ]
    expect(printOf(a)).toBe(printOf(b))
    expect(printOf({ of: [1, 2] })).not.toBe(printOf({ of: [2, 1] }))
  })
  it('is another for every small change', () => {
    const prints = Array.from({ length: 30_000 }, (_, i) => printOf({ volts: 13 + i / 1000, note: 'so', i: i % 7 }))
    expect(new Set(prints).size).toBe(30_000)
  })
})
