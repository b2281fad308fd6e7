import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { CoreClient, Dropped } from '../../../app/workers/client'

/** A worker that answers, throws, dies or says nothing, by the name of what is asked. */
class OddWorker {
  onmessage: ((event: { data: unknown }) => void) | null = null
  onerror: ((event: { message: string }) => void) | null = null
  ended = false

  postMessage({ id, method }: { id: number; method: string }) {
    queueMicrotask(() => {
      if (this.ended) return
      if (method === 'answers') this.onmessage?.({ data: { id, result: 'done' } })
      if (method === 'throws') this.onmessage?.({ data: { id, error: 'no such plan' } })
      if (method === 'dies') this.onerror?.({ message: 'out of memory' })
    })
  }
  terminate() {
    this.ended = true
  }
}

let workers: OddWorker[]
const start = () => {
  workers.push(new OddWorker())
  return workers.at(-1) as unknown as Worker
}
const ask = (client: CoreClient, method: string) =>
  (client.call as unknown as (method: string) => Promise<unknown>).call(client, method)

beforeEach(() => {
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] })
  workers = []
})
afterEach(() => vi.useRealTimers())

describe('the line to a core worker', () => {
  it('gives the answer, and the error of a call that throws, on one worker', async () => {
    const client = new CoreClient(start)
    await expect(ask(client, 'answers')).resolves.toBe('done')
    await expect(ask(client, 'throws')).rejects.toThrow('no such plan')
    expect(workers).toHaveLength(1)
    expect(client.isBusy).toBe(false)
  })

  it('refuses every call of a worker that dies, with the reason, and starts another for the next', async () => {
    const client = new CoreClient(start)
    const waiting = ask(client, 'waits')
    const dying = ask(client, 'dies')
    await expect(dying).rejects.toThrow('out of memory')
    await expect(waiting).rejects.toThrow('out of memory')
    expect(workers[0]!.ended).toBe(true)
    await expect(ask(client, 'answers')).resolves.toBe('done')
    expect(workers).toHaveLength(2)
  })

  it('gives a silent worker up after its time, and starts another for the next', async () => {
    const client = new CoreClient(start)
    const silent = ask(client, 'judge')
    const refused = expect(silent).rejects.toThrow('it took over 5 s and was given up')
    await vi.advanceTimersByTimeAsync(5001)
    await refused
    await expect(ask(client, 'answers')).resolves.toBe('done')
    expect(workers).toHaveLength(2)
  })

  it('lets go of what is under way when it is restarted', async () => {
    const client = new CoreClient(start)
    const old = ask(client, 'waits')
    client.restart()
    await expect(old).rejects.toBeInstanceOf(Dropped)
  })
})
