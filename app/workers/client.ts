import type { CoreApi } from './answers'

type Waiting = { resolve: (value: unknown) => void; reject: (reason: Error) => void }

/** Talks to one core worker. Answers come back in the order of the calls; `restart` drops all that is under way. */
export class CoreClient {
  private worker: Worker | null = null
  private readonly waiting = new Map<number, Waiting>()
  private next = 1

  call<M extends keyof CoreApi>(method: M, ...args: Parameters<CoreApi[M]>): Promise<ReturnType<CoreApi[M]>> {
    const worker = (this.worker ??= this.start())
    const id = this.next++
    return new Promise((resolve, reject) => {
      this.waiting.set(id, { resolve: resolve as (value: unknown) => void, reject })
      worker.postMessage({ id, method, args })
    })
  }

  /** Starts the worker before there is anything to ask it, so that its program is loaded by then. */
  warm() {
    this.worker ??= this.start()
  }

  get isBusy() {
    return this.waiting.size > 0
  }

  /** Ends the worker; calls under way are dropped without an answer. */
  restart() {
    this.worker?.terminate()
    this.worker = null
    this.waiting.clear()
  }

  private start(): Worker {
    const worker = new Worker(new URL('./core.worker.ts', import.meta.url), { type: 'module' })
    worker.onmessage = (event: MessageEvent<{ id: number; result?: unknown; error?: string }>) => {
      const { id, result, error } = event.data
      const waiting = this.waiting.get(id)
      this.waiting.delete(id)
      if (error !== undefined) waiting?.reject(new Error(error))
      else waiting?.resolve(result)
    }
    return worker
  }
}
