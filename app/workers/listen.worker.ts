import { listenTo } from './listen'

/** A file to listen to, and from where in it. */
export interface ListenJob {
  name: string
  file: Blob
  centreHz: number | null
  fromS: number
}

/** Listens to a file off the page: progress as it goes, the answer at the end; ending the worker stops it. */
self.onmessage = async (event: MessageEvent<ListenJob>) => {
  const { name, file, centreHz, fromS } = event.data
  let last = 0
  const progress = (share: number) => {
    if (share - last > 0.03) self.postMessage({ progress: (last = share) })
    return true
  }
  try {
    self.postMessage({ answer: await listenTo(name, file, { saidHz: centreHz, fromS, progress }) })
  } catch {
    const answer = { ok: false, wrong: `${name} can no longer be read`, right: 'a file that is still there' }
    self.postMessage({ answer })
  }
}
