import { listenTo } from './listen'

/** Listens to a file off the page: progress as it goes, the answer at the end; ending the worker stops it. */
self.onmessage = (event: MessageEvent<{ name: string; bytes: Uint8Array; centreHz: number | null }>) => {
  const { name, bytes, centreHz } = event.data
  let last = 0
  const answer = listenTo(name, bytes, centreHz, share => {
    if (share - last > 0.03) self.postMessage({ progress: (last = share) })
    return true
  })
  self.postMessage({ answer })
}
