import type { CoreApi } from './answers'

interface Waiting {
  resolve: (value: unknown) => void
  reject: (reason: Error) => void
  timer: ReturnType<typeof setTimeout>
}

/** What a worker says: how far it is, or its answer, or why there is none. */
interface Message {
  id: number
  result?: unknown
  error?: string
  progress?: number
}

/** A call that was let go: the worker was restarted for something newer. */
export class Dropped extends Error {}

/** Longest that a method may take before its worker counts as dead, ms. */
const TIME_LIMIT_MS: Readonly<Record<string, number>> = { judge: 5000, point: 5000, stairs: 5000, sets: 600_000 }
const USUAL_LIMIT_MS = 60000

/** What a browser tells of a worker that ends; of one whose program never came it tells nothing. */
const whyEnded = ({ message }: ErrorEvent) =>
  message
    ? `the program that works it out ended: ${message}`
    : 'the program that works it out did not come; load the page again once the server answers'

type ParametersOf<F> = F extends (...args: infer A) => unknown ? A : never
type ReturnOf<F> = F extends (...args: never[]) => infer R ? R : never

export type StartWorker = () => Worker

export const startHours: StartWorker = () =>
  new Worker(new URL('./hours.worker.ts', import.meta.url), { type: 'module' })

export const startBench: StartWorker = () =>
  new Worker(new URL('./bench.worker.ts', import.meta.url), { type: 'module' })

const startCore: StartWorker = () => new Worker(new URL('./core.worker.ts', import.meta.url), { type: 'module' })

/**
 * Talks to one core worker. Answers come back in the order of the calls. A worker that dies or is silent for too
 * long is ended, every call
 * on it is refused with the reason, and the next call starts a new one; `restart` lets go of all that is under way.
 */
export class CoreClient<Api extends object = CoreApi> {
  private worker: Worker | null = null
  private readonly waiting = new Map<number, Waiting>()
  private next = 1
  /** Told how far a call is, by those methods that say so. */
  onProgress: ((done: number) => void) | null = null

  constructor(private readonly start: StartWorker = startCore) {}

  call<M extends keyof Api & string>(method: M, ...args: ParametersOf<Api[M]>): Promise<ReturnOf<Api[M]>> {
    const worker = this.running()
    const id = this.next++
    return new Promise((resolve, reject) => {
      const limitMs = TIME_LIMIT_MS[method] ?? USUAL_LIMIT_MS
      const late = () => this.end(new Error(`it took over ${limitMs / 1000} s and was given up`))
      this.waiting.set(id, {
        resolve: resolve as (value: unknown) => void,
        reject,
        timer: setTimeout(late, limitMs),
      })
      worker.postMessage({ id, method, args })
    })
  }

  /** Starts the worker before there is anything to ask it, so that its program is loaded by then. */
  warm() {
    this.running()
  }

  get isBusy() {
    return this.waiting.size > 0
  }

  /** Ends the worker; calls under way are let go. */
  restart() {
    this.end(new Dropped('let go for something newer'))
  }

  private end(reason: Error) {
    this.worker?.terminate()
    this.worker = null
    const left = [...this.waiting.values()]
    this.waiting.clear()
    for (const { timer, reject } of left) {
      clearTimeout(timer)
      reject(reason)
    }
  }

  private running(): Worker {
    if (this.worker) return this.worker
    const worker = this.start()
    worker.onmessage = (event: MessageEvent<Message>) => {
      const { id, result, error, progress } = event.data
      const call = this.waiting.get(id)
      if (!call) return
      if (progress !== undefined) {
        this.onProgress?.(progress)
        return
      }
      this.waiting.delete(id)
      clearTimeout(call.timer)
      if (error === undefined) call.resolve(result)
      else call.reject(new Error(error))
    }
    worker.onerror = event => this.end(new Error(whyEnded(event)))
    worker.onmessageerror = () => this.end(new Error('its answer could not be read'))
    this.worker = worker
    return worker
  }
}
