import { answer } from './answers'

/** The core behind a worker: one message in, one out, in order. */
self.onmessage = (event: MessageEvent<{ id: number; method: string; args: unknown[] }>) => {
  const { id, method, args } = event.data
  try {
    self.postMessage({ id, result: answer(method, args, progress => self.postMessage({ id, progress })) })
  } catch (error) {
    self.postMessage({ id, error: error instanceof Error ? `${error.message}\n${error.stack}` : String(error) })
  }
}
