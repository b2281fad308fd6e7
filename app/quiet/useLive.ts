import { onBeforeUnmount, reactive } from 'vue'
import type { CombResult } from '#core/noise/comb/comb'
import type { Comparison, Switched } from '#core/noise/listen/listening'
import type { Plan } from '#core/plan/schema'
import type { FromLive, LiveFrame, ToLive } from '../workers/live'
import { openTap, type AudioTap } from './audioTap'
import { useRecorder } from './useRecorder'

/** What is heard. */
interface Live {
  isOn: false | 'input' | 'simulated'
  problem: string
  levelDb: number | null
  seconds: number
  combs: CombResult | null
  compared: Comparison | null
  switched: Switched | null
}

/** Wide enough for three lines of a converter. */
const SIMULATED_HZ = 480e3

const SILENT = { isOn: false, levelDb: null, seconds: 0, combs: null, compared: null, switched: null } as const

/**
 * Listening to the radio through the browser's audio input, or to a simulated evening.
 * @returns what is heard (`live`), and what the page can tell it
 */
export function useLive(onRow: (frame: LiveFrame) => void) {
  const live = reactive<Live>({ ...SILENT, problem: '' })
  const recorder = useRecorder()
  let worker: Worker | null = null
  let tap: AudioTap | null = null
  const tell = (message: ToLive, transfer: Transferable[] = []) => worker?.postMessage(message, transfer)

  function hear(message: FromLive) {
    if ('combs' in message) live.combs = message.combs
    else if ('compared' in message) live.compared = message.compared
    else {
      live.levelDb = message.frame.levelDb
      live.seconds = message.frame.seconds
      onRow(message.frame)
    }
  }
  function begin() {
    stop()
    live.problem = ''
    worker = new Worker(new URL('../workers/live.worker.ts', import.meta.url), { type: 'module' })
    worker.onerror = () => fail('Listening stopped: what listens has ended. Start it again.')
    worker.onmessage = ({ data }: MessageEvent<FromLive>) => hear(data)
  }
  function fail(words: string) {
    stop()
    live.problem = words
  }
  function stop() {
    worker?.terminate()
    tap?.close()
    worker = tap = null
    recorder.drop()
    Object.assign(live, SILENT)
  }
  onBeforeUnmount(stop)

  /** @param isIq a stereo input is I and Q around a centre; else its first channel is audio */
  async function listen(isIq: boolean, centreHz: number | null) {
    begin()
    try {
      tap = await openTap(isIq, channels => {
        recorder.keep(channels, tap?.sampleRateHz ?? 48000)
        tell(
          { samples: channels },
          channels.map(c => c.buffer),
        )
      })
      tell({ start: { sampleRateHz: tap.sampleRateHz, isIq, centreHz } })
      live.isOn = 'input'
    } catch (error) {
      fail((error as Error).message)
    }
  }
  function simulate(plan: Plan, bands: string[], centreHz: number) {
    begin()
    tell({ simulate: JSON.parse(JSON.stringify({ plan, bands, centreHz, sampleRateHz: SIMULATED_HZ })) })
    live.isOn = 'simulated'
  }
  return { live, recorder, listen, simulate, stop, ...switches(live, tell) }
}

/** On, off, and beginning anew. */
function switches(live: Live, tell: (message: ToLive) => void) {
  return {
    switchTo(state: Switched | null) {
      live.switched = state
      tell({ switched: state })
      if (live.isOn === 'simulated' && state) tell({ culprit: state })
    },
    forget() {
      live.compared = null
      live.switched = null
      tell({ forget: true })
    },
    setLevel: (hz: number, widthHz: number) => tell({ level: { hz, widthHz } }),
  }
}
