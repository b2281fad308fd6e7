import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { emptyLogbook, type Logbook, type NoiseCase } from '../../../core/noise/logbook'

/** The server's one logbook, as its routes keep it. */
class FakeServer {
  revision = 0
  logbook: Logbook = emptyLogbook()
  down = false
  saves = 0
  fetch = async (path: string, init: { method: string; body?: string }) => {
    if (this.down) throw new TypeError('refused')
    if (path === '/api/cures') return this.json(200, [])
    if (init.method === 'GET') return this.json(200, { revision: this.revision, logbook: this.logbook })
    const { baseRevision, logbook } = JSON.parse(init.body!) as { baseRevision: number; logbook: Logbook }
    this.saves++
    if (baseRevision !== this.revision)
      return this.json(409, { status: 'conflict', revision: this.revision, logbook: this.logbook })
    this.revision++
    this.logbook = logbook
    return this.json(200, { status: 'saved', revision: this.revision, logbook })
  }

  private json(status: number, body: unknown) {
    return { ok: status < 300, status, json: async () => structuredClone(body) }
  }
}

let server: FakeServer
const settle = (ms = 400) => vi.advanceTimersByTimeAsync(ms)
const aCase = (id: string, title = id): NoiseCase => ({
  id,
  title,
  openedAt: '2026-06-13T12:00:00Z',
  complaint: { bands: ['30 m'] },
  observations: [],
  cures: [],
  state: 'open',
})

beforeEach(() => {
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] })
  server = new FakeServer()
  vi.stubGlobal('fetch', (path: string, init: { method: string }) => server.fetch(path, init))
  setActivePinia(createPinia())
})
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})
async function opened() {
  const { useLogbook } = await import('../../../app/stores/logbook')
  const log = useLogbook()
  await log.open('one')
  return log
}

describe('the logbook store', () => {
  it('saves a run of changes once, a moment after the last', async () => {
    const log = await opened()
    log.put('cases', aCase('c1'))
    log.put('cases', aCase('c1', 'renamed'))
    log.put('cases', aCase('c2'))
    expect(server.saves).toBe(0)
    await settle()
    expect(server.saves).toBe(1)
    expect(server.logbook.cases.map(c => c.title)).toEqual(['renamed', 'c2'])
    expect(log.saveState).toBe('saved')
    log.remove('cases', 'c1')
    await settle()
    expect(server.logbook.cases.map(c => c.id)).toEqual(['c2'])
  })
  it('keeps what both windows wrote, and says so', async () => {
    const log = await opened()
    server.logbook = { ...server.logbook, cases: [aCase('theirs')] }
    server.revision = 4
    log.put('cases', aCase('mine'))
    await settle()
    await settle()
    expect(server.logbook.cases.map(c => c.id).sort()).toEqual(['mine', 'theirs'])
    expect(server.revision).toBe(5)
    expect(log.logbook!.cases).toHaveLength(2)
    expect(log.notice).toContain('what each changed is kept')
    expect(log.problem).toBe('')
    // Who goes on has read it.
    log.put('cases', aCase('next'))
    expect(log.notice).toBe('')
  })
  it('loses nothing while the server is away, and saves when it is back', async () => {
    const log = await opened()
    server.down = true
    log.put('cases', aCase('c1'))
    await settle()
    expect(log.problem).toContain('Not saved yet')
    expect(log.logbook!.cases).toHaveLength(1)
    log.put('cases', aCase('c2'))
    server.down = false
    await settle(2500)
    expect(server.logbook.cases.map(c => c.id)).toEqual(['c1', 'c2'])
    expect(log.problem).toBe('')
  })
  it('says that a station cannot be read', async () => {
    server.down = true
    const log = await opened()
    expect(log.logbook).toBeNull()
    expect(log.problem).toContain('does not answer')
  })
  it('saves what is open before it opens another', async () => {
    const log = await opened()
    log.put('cases', aCase('c1'))
    await log.open('two')
    expect(server.logbook.cases.map(c => c.id)).toEqual(['c1'])
  })
})

describe('what was done to the logbook', () => {
  it('is taken back step by step, and done again', async () => {
    const log = await opened()
    log.put('cases', { ...aCase('a'), practice: undefined })
    log.put('cases', aCase('a', 'hiss on 30 m'))
    log.remove('cases', 'a')
    expect(log.undoable.canUndo).toBe('removal of complaint “hiss on 30 m”')
    log.undoable.undo()
    expect(log.logbook!.cases).toEqual([aCase('a', 'hiss on 30 m')])
    log.undoable.undo()
    expect(log.logbook!.cases).toEqual([aCase('a')])
    log.undoable.undo()
    expect(log.logbook!.cases).toEqual([])
    expect(log.undoable.undo()).toBeNull()
    for (let n = 0; n < 3; n++) log.undoable.redo()
    expect(log.logbook!.cases).toEqual([])
    await settle()
    expect(server.logbook.cases).toEqual([])
  })
  it('leaves what another window wrote, and says so where it cannot be taken back', async () => {
    const log = await opened()
    log.put('cases', aCase('mine'))
    await settle()
    // Another window writes a case of its own and changes this one.
    server.revision++
    server.logbook = { ...server.logbook, cases: [aCase('mine', 'changed there'), aCase('theirs')] }
    log.put('surveys', { id: 's', name: 'Evening', columns: [], rows: [], readings: {} } as never)
    await settle()
    log.undoable.undo()
    expect(log.logbook!.surveys).toEqual([])
    expect(log.logbook!.cases.map(c => c.id)).toContain('theirs')
    const shifted = log.undoable.undo()
    expect(log.logbook!.cases.map(c => c.id)).toContain('theirs')
    expect(shifted?.fits === false || !log.logbook!.cases.some(c => c.id === 'mine')).toBe(true)
  })
})
