import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { answer } from '../../../app/workers/answers'
import { writePlan } from '../../../core/plan/faults'
import type { Plan } from '../../../core/plan/schema'
import { demoPlan } from '../../data/plans'

/** A worker that answers at once, on this thread. */
class NearWorker {
  static dies = false
  static takesMs = 0
  static made = 0
  constructor() {
    NearWorker.made++
  }

  onmessage: ((event: { data: unknown }) => void) | null = null
  onerror: ((event: { message: string }) => void) | null = null
  postMessage({ id, method, args }: { id: number; method: string; args: unknown[] }) {
    if (NearWorker.dies) return queueMicrotask(() => this.onerror?.({ message: 'out of memory' }))
    const result = answer(method, structuredClone(args))
    const tell = () => this.onmessage?.({ data: { id, result } })
    if (NearWorker.takesMs) setTimeout(tell, NearWorker.takesMs)
    else queueMicrotask(tell)
  }

  terminate() {
    this.onmessage = null
  }
}

/** The server's one station, as its routes keep it. */
class FakeServer {
  revision = 1
  plan: Plan = demoPlan('tern-rock-evening')
  down = false
  saves = 0
  fetch = async (_path: string, init: { method: string; body?: string }) => {
    if (this.down) throw new TypeError('refused')
    if (init.method === 'GET') return this.json(200, this.station())
    const { baseRevision, plan } = JSON.parse(init.body!) as { baseRevision: number; plan: Plan }
    this.saves++
    if (baseRevision !== this.revision) return this.json(409, { status: 'conflict', current: this.station() })
    this.revision++
    this.plan = plan
    return this.json(200, { status: 'saved', revision: this.revision, savedAt: '2026-01-01T10:00:00Z' })
  }

  station() {
    return {
      id: 'one',
      name: this.plan.name,
      revision: this.revision,
      savedAt: '2026-01-01T09:00:00Z',
      plan: this.plan,
    }
  }
  private json(status: number, body: unknown) {
    return { ok: status < 300, status, json: async () => structuredClone(body) }
  }
}

let server: FakeServer
const settle = () => vi.advanceTimersByTimeAsync(400)
const setLength = (metres: number) => [{ op: 'replace' as const, path: '/leads/1/lengthM', value: metres }]

beforeEach(() => {
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] })
  server = new FakeServer()
  Object.assign(NearWorker, { dies: false, takesMs: 0 })
  vi.stubGlobal('Worker', NearWorker)
  vi.stubGlobal('fetch', (path: string, init: { method: string }) => server.fetch(path, init))
  setActivePinia(createPinia())
})
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

async function opened() {
  const { useStation } = await import('../../../app/stores/station')
  const station = useStation()
  await station.open('one')
  await settle()
  return station
}

describe('the open station', () => {
  it('is judged when it opens, and its fixes are worked out', async () => {
    const station = await opened()
    expect(station.judged!.verdict.findings).toHaveLength(3)
    expect(station.fixes.size).toBe(3)
    expect(station.saveState).toBe('saved')
  })

  it('offers no fix of the plan as it was before an edit', async () => {
    const station = await opened()
    station.edit(setLength(3), 'longer')
    expect(station.fixes.size).toBe(0)
    await settle()
    expect([...station.fixes.keys()]).toEqual(station.judged!.verdict.findings.map(f => f.key))
  })

  it('saves an edit by itself, one save for a burst', async () => {
    const station = await opened()
    for (const metres of [3, 2.5, 2]) expect(station.edit(setLength(metres), 'length')).toEqual([])
    expect(station.saveState).toBe('unsaved')
    await settle()
    expect(station.saveState).toBe('saved')
    expect(server.saves).toBe(1)
    expect(server.plan.leads[1]!.lengthM).toBe(2)
    expect(station.judged!.verdict.findings.map(f => f.check)).not.toContain('arrival-under')
  })

  it('refuses a bad edit with its fault, and changes nothing', async () => {
    const station = await opened()
    const before = station.plan
    expect(station.edit(setLength(-2), 'length')[0]!.wrong).toBe('lead l2: lengthM is −2')
    expect(station.plan).toBe(before)
    expect(station.undoable.canUndo).toBe('')
  })

  it('undoes and redoes to the byte', async () => {
    const station = await opened()
    const first = writePlan(station.plan!)
    station.edit(setLength(2), 'shorter')
    const second = writePlan(station.plan!)
    expect(station.undoable.undo()?.label).toBe('shorter')
    expect(writePlan(station.plan!)).toBe(first)
    expect(station.undoable.redo()?.label).toBe('shorter')
    expect(writePlan(station.plan!)).toBe(second)
    expect(station.undoable.redo()).toBeNull()
    station.undoable.undo()
    station.edit(setLength(1), 'other')
    expect(station.undoable.canRedo).toBe('')
  })

  it('keeps an edit while the server is away, and saves it when it is back', async () => {
    const station = await opened()
    server.down = true
    station.edit(setLength(2), 'shorter')
    await settle()
    expect(station.saveState).toBe('offline')
    expect(station.saveProblem).toContain('nothing typed here is lost')
    server.down = false
    await vi.advanceTimersByTimeAsync(3000)
    expect(station.saveState).toBe('saved')
    expect(server.plan.leads[1]!.lengthM).toBe(2)
  })

  async function inConflict() {
    const station = await opened()
    server.revision = 2
    const leads = server.plan.leads.map((l, i) => (i === 1 ? { ...l, lengthM: 9 } : l))
    server.plan = { ...server.plan, name: 'theirs', leads }
    station.edit(setLength(2), 'shorter')
    await settle()
    expect(station.saveState).toBe('conflict')
    expect(server.plan.name).toBe('theirs')
    return station
  }

  it('keeps what two windows changed in two places, and undo takes either back', async () => {
    const station = await opened()
    server.revision = 2
    server.plan = { ...server.plan, name: 'theirs' }
    station.edit(setLength(2), 'shorter')
    await settle()
    await vi.advanceTimersByTimeAsync(1000)
    expect(station.saveState).toBe('saved')
    expect([server.plan.name, server.plan.leads[1]!.lengthM, server.revision]).toEqual(['theirs', 2, 3])
    expect(station.plan!.name).toBe('theirs')
    station.undoable.undo()
    expect(station.plan!.name).not.toBe('theirs')
    station.undoable.undo()
    expect(station.plan!.leads[1]!.lengthM).not.toBe(2)
  })

  it('in a conflict overwrites nothing until somebody chooses: mine goes on top', async () => {
    const station = await inConflict()
    await station.settle('mine')
    expect(server.revision).toBe(3)
    expect(server.plan).toMatchObject({ name: 'Tern Rock light' })
    expect(server.plan.leads[1]!.lengthM).toBe(2)
  })

  it('or theirs is taken, and mine is one undo away', async () => {
    const station = await inConflict()
    await station.settle('theirs')
    expect(station.plan!.name).toBe('theirs')
    expect(station.saveState).toBe('saved')
    station.undoable.undo()
    expect(station.plan!.leads[1]!.lengthM).toBe(2)
    await settle()
    expect(server.revision).toBe(3)
  })

  it('takes over what another window saved when it comes back, but not over unsaved work', async () => {
    const station = await opened()
    server.revision = 5
    server.plan = { ...server.plan, name: 'newer' }
    await station.refresh()
    expect(station.plan!.name).toBe('newer')
    station.edit(setLength(2), 'shorter')
    server.revision = 6
    await station.refresh()
    expect(station.plan!.leads[1]!.lengthM).toBe(2)
  })

  it('says when a verdict takes longer than a second, until it is there', async () => {
    const station = await opened()
    NearWorker.takesMs = 900
    station.edit(setLength(3), 'length')
    await vi.advanceTimersByTimeAsync(950)
    expect(station.isVerdictSlow).toBe(false)
    NearWorker.takesMs = 3000
    station.edit(setLength(2), 'length')
    await vi.advanceTimersByTimeAsync(900)
    expect(station.isVerdictSlow).toBe(false)
    await vi.advanceTimersByTimeAsync(200)
    expect(station.isVerdictSlow).toBe(true)
    await vi.advanceTimersByTimeAsync(2500)
    expect(station.isVerdictSlow).toBe(false)
  })

  it('marks its verdict as stale where the worker died, and makes it anew at the next edit', async () => {
    const station = await opened()
    NearWorker.dies = true
    station.edit(setLength(2), 'shorter')
    await settle()
    expect(station.verdictProblem).toContain('out of memory')
    expect(station.judged!.verdict.findings).toHaveLength(3)
    NearWorker.dies = false
    station.edit(setLength(2.1), 'longer')
    await settle()
    expect(station.verdictProblem).toBe('')
    expect(station.judged!.verdict.findings.map(f => f.check)).not.toContain('arrival-under')
  })

  it('is read once where two views that follow each other ask for it, and an edit between them stays', async () => {
    const { useStation } = await import('../../../app/stores/station')
    const station = useStation()
    let reads = 0
    const read = server.fetch
    server.fetch = async (path, init) => {
      if (init.method === 'GET' && /\/one$/.test(path)) reads++
      return read(path, init)
    }
    const first = station.open('one')
    const second = station.open('one')
    await settle()
    await first
    station.edit(setLength(2), 'shorter')
    await second
    await settle()
    expect([reads, station.plan!.leads[1]!.lengthM, server.plan.leads[1]!.lengthM]).toEqual([1, 2, 2])
  })

  it('shows nothing of one station while another is read, and takes nothing of it back', async () => {
    const station = await opened()
    station.edit(setLength(2), 'shorter')
    await settle()
    const another = station.open('two')
    expect([station.plan, station.judged, station.undoable.canUndo, station.undoable.undo()]).toEqual([
      null,
      null,
      '',
      null,
    ])
    await settle()
    await another
    expect([station.id, station.plan!.leads[1]!.lengthM]).toEqual(['two', 2])
  })

  it('shows the one before again where another cannot be read', async () => {
    const station = await opened()
    server.down = true
    await expect(station.open('two')).rejects.toThrow(/does not answer/)
    expect(station.plan).toBeNull()
    server.down = false
    await station.open('one')
    expect(station.plan!.name).toBe(server.plan.name)
  })

  it('begins no mending in a run of edits once one was in its way, and mends when the hand rests', async () => {
    const station = await opened()
    await vi.advanceTimersByTimeAsync(2000)
    NearWorker.takesMs = 40
    const editAfter = async (ms: number, metres: number) => {
      await vi.advanceTimersByTimeAsync(ms)
      station.edit(setLength(metres), 'length')
    }
    await editAfter(0, 3)
    // By then its fixes are being worked out, and are let go.
    await editAfter(400, 3.1)
    const made = NearWorker.made
    for (const metres of [3.2, 3.3, 3.4, 3.5]) await editAfter(400, metres)
    expect(NearWorker.made).toBe(made)
    NearWorker.takesMs = 0
    await vi.advanceTimersByTimeAsync(2000)
    expect([NearWorker.made, station.fixes.size]).toEqual([made + 1, station.judged!.verdict.findings.length])
  })
})
