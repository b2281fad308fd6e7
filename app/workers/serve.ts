/** Puts an API behind a worker: one message in, one out, in order. @param makeApi is told how to say how far it is */
export function serve(makeApi: (tell: (done: number) => void) => object) {
  self.onmessage = (event: MessageEvent<{ id: number; method: string; args: unknown[] }>) => {
    const { id, method, args } = event.data
    const api = makeApi(progress => self.postMessage({ id, progress }))
    try {
      const call = api[method as keyof typeof api] as (...args: unknown[]) => unknown
      self.postMessage({ id, result: call(...args) })
    } catch (error) {
      self.postMessage({ id, error: error instanceof Error ? error.message : String(error) })
    }
  }
}
