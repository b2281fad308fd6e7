import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { ApiError } from '../../../app/stores/request'
import { useSavedDocument, type Saved } from '../../../app/stores/useSavedDocument'

interface List {
  items: string[]
}

/** What the server does with the next saves, in order; with none left it takes them. */
type Reply = 'refuse' | 'silent' | Saved<List>

let replies: Reply[]
let sent: { value: List; base: number }[]
let revision: number

beforeEach(() => {
  vi.useFakeTimers()
  replies = []
  sent = []
  revision = 1
})
afterEach(() => vi.useRealTimers())

function openedDocument(onConflict: (theirs: List, now: List) => List | null = () => null) {
  const document = useSavedDocument<List, List>({
    saveAfterMs: 100,
    retryAfterMs: 1000,
    onConflict,
    async send(value, base) {
      sent.push({ value: structuredClone(value), base })
      const reply = replies.shift() ?? { status: 'saved', revision: ++revision }
      if (reply === 'refuse') throw new ApiError('the server does not answer', 0)
      if (reply === 'silent') {
        await new Promise(resolve => setTimeout(resolve, 500))
        throw new ApiError('the server was silent for 0.5 s', 0)
      }
      return reply
    },
  })
  document.show({ items: [] }, revision)
  return document
}

const wait = (ms: number) => vi.advanceTimersByTimeAsync(ms)

describe('a saved document', () => {
  it('sends one save for a burst of changes, with the last of them', async () => {
    const document = openedDocument()
    for (const items of [['a'], ['a', 'b'], ['a', 'b', 'c']]) {
      document.change({ items })
      await wait(60)
    }
    expect(sent).toEqual([])
    await wait(40)
    expect(sent).toEqual([{ value: { items: ['a', 'b', 'c'] }, base: 1 }])
    expect(document.state.value).toBe('saved')
  })

  it('tries a refused save again until it is taken, and says why it waits', async () => {
    replies = ['refuse', 'refuse']
    const document = openedDocument()
    document.change({ items: ['a'] })
    await wait(100)
    expect(document.state.value).toBe('offline')
    expect(document.problem.value).toBe('the server does not answer')
    await wait(1000)
    expect(document.state.value).toBe('offline')
    await wait(1000)
    expect(document.state.value).toBe('saved')
    expect(document.problem.value).toBe('')
    expect(sent).toHaveLength(3)
  })

  it('keeps what is typed while a silent server is waited for, and saves it afterwards', async () => {
    replies = ['silent']
    const document = openedDocument()
    document.change({ items: ['a'] })
    await wait(200)
    expect(document.state.value).toBe('saving')
    document.change({ items: ['a', 'b'] })
    await wait(3000)
    expect(document.state.value).toBe('saved')
    expect(sent.at(-1)!.value.items).toEqual(['a', 'b'])
  })

  it('saves what was changed during a save with the next one, from the new revision', async () => {
    const document = openedDocument()
    document.change({ items: ['a'] })
    const first = document.saveNow()
    document.change({ items: ['a', 'b'] })
    await first
    await wait(100)
    expect(sent).toEqual([
      { value: { items: ['a'] }, base: 1 },
      { value: { items: ['a', 'b'] }, base: 2 },
    ])
  })

  it("merges another window's save and sends both", async () => {
    replies = [{ status: 'conflict', revision: 7, theirs: { items: ['theirs'] } }]
    const document = openedDocument((theirs, now) => ({ items: [...theirs.items, ...now.items] }))
    document.change({ items: ['mine'] })
    await wait(300)
    expect(sent.at(-1)).toEqual({ value: { items: ['theirs', 'mine'] }, base: 7 })
    expect(document.state.value).toBe('saved')
  })

  it('leaves a conflict to the user, sends nothing meanwhile, and loses neither', async () => {
    replies = [{ status: 'conflict', revision: 7, theirs: { items: ['theirs'] } }]
    const document = openedDocument()
    document.change({ items: ['mine'] })
    await wait(100)
    document.change({ items: ['mine', 'more'] })
    await wait(5000)
    expect(document.state.value).toBe('conflict')
    expect(document.theirs.value).toEqual({ items: ['theirs'] })
    expect(document.value.value).toEqual({ items: ['mine', 'more'] })
    expect(sent).toHaveLength(1)
  })

  it('shows what was asked for last, though an answer asked for before comes after it', async () => {
    const document = openedDocument()
    const after = (ms: number, items: string[]) => () =>
      new Promise<List>(resolve => setTimeout(() => resolve({ items }), ms))
    const found = (theirs: List) => ({ theirs, revision: 1 })
    const opening = [
      document.open('first', after(200, ['first']), found),
      document.open('second', after(0, ['second']), found),
    ]
    await wait(300)
    await Promise.all(opening)
    expect([document.name.value, document.value.value]).toEqual(['second', { items: ['second'] }])
  })
})
