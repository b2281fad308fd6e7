import { Worker } from 'node:worker_threads'

/**
 * The embedded engine works on this process's one thread, and where the disk takes nothing more in the midst of a
 * change it may turn in circles for good: no request is answered then, and no ordinary signal heard. A thread of its
 * own looks whether this one still moves, and ends the process where it does not: what was acknowledged is on the
 * disk, and the next start says what is wrong with it.
 */

/** So often this thread says that it moves, ms. */
const BEAT_MS = 1000
/** So long without a beat and it is ended, ms. Nothing that is well stands still for so long. */
const STANDS_STILL_MS = 60_000

/** Counts its own ticks, so that a machine that slept is not taken for one that stood still. */
const WATCH = `
const { workerData: { beats, beatMs, ticks, pid, words } } = require('node:worker_threads')
const { writeSync } = require('node:fs')
let last = -1, still = 0
setInterval(() => {
  const now = Atomics.load(beats, 0)
  still = now === last ? still + 1 : 0
  last = now
  if (still < ticks) return
  writeSync(2, words + '\\n')
  process.kill(pid, 'SIGKILL')
}, beatMs)
`

export interface Watch {
  end: () => Promise<unknown>
}

/** @param words said when it ends the process */
export function watchOver(words: string, { beatMs = BEAT_MS, stillMs = STANDS_STILL_MS } = {}): Watch {
  const beats = new Int32Array(new SharedArrayBuffer(4))
  const beat = setInterval(() => Atomics.add(beats, 0, 1), beatMs).unref()
  const workerData = { beats, beatMs, ticks: Math.ceil(stillMs / beatMs), pid: process.pid, words }
  const watch = new Worker(WATCH, {
    eval: true,
    workerData,
    resourceLimits: { maxOldGenerationSizeMb: 8, maxYoungGenerationSizeMb: 2 },
  })
  watch.unref()
  // It can only watch: where it fails, everything goes on as without it.
  watch.on('error', () => clearInterval(beat))
  return {
    end() {
      clearInterval(beat)
      return watch.terminate()
    },
  }
}
