import { Listening } from '#core/noise/listen/listening'
import type { Recording } from '#core/noise/listen/spectrum'
import { eveningFor } from '../quiet/simulated'
import { COLUMNS, type FromLive, type ToLive } from './live'

/** Listens off the page: rows of the waterfall, the level, the combs, and on against off. */

let listening: Listening | null = null
let level = { hz: 0, widthHz: 2700 }
let samples = 0
let floorDb = -100
let combsAt = 0
let timer: ReturnType<typeof setInterval> | undefined
let culprit: 'on' | 'off' = 'on'
const COMBS_EACH_S = 2
const say = (message: FromLive) => self.postMessage(message)

self.onmessage = ({ data }: MessageEvent<ToLive>) => {
  if ('start' in data) begin(data.start)
  else if ('samples' in data) take(data.samples)
  else if ('switched' in data) {
    listening?.switchTo(data.switched)
    say({ compared: listening?.compared() ?? null })
  } else if ('forget' in data) {
    listening?.forget()
    say({ compared: null })
  } else if ('level' in data) level = data.level
  else if ('simulate' in data) simulate(data.simulate)
  else culprit = data.culprit
}

function begin(source: ConstructorParameters<typeof Listening>[0]) {
  listening = new Listening(source)
  samples = combsAt = 0
}

function take(channels: Float32Array[]) {
  if (!listening) return
  const { isIq, sampleRateHz } = listening.source
  samples += channels[0]!.length
  const rows = listening.push(isIq ? channels : channels.slice(0, 1))
  const seconds = samples / sampleRateHz
  for (const row of rows) {
    const { lowHz, spectrum } = listening
    const shown = columnsOf(row)
    say({
      frame: {
        row: shown,
        lowHz,
        highHz: lowHz + spectrum.bins * spectrum.binHz,
        levelDb: listening.level(level.hz, level.widthHz),
        seconds,
      },
    })
  }
  if (seconds - combsAt < COMBS_EACH_S) return
  combsAt = seconds
  say({ combs: listening.combs() })
  const compared = listening.compared()
  if (compared) say({ compared })
}

/** A row as bytes over its own floor. */
function columnsOf(row: Float32Array): Uint8Array {
  const sample = row.filter((_, i) => i % 31 === 0).sort()
  // The floor is followed slowly, so that the picture does not flicker.
  floorDb += 0.1 * (10 * Math.log10(sample[sample.length >> 1]! + 1e-20) - floorDb)
  const out = new Uint8Array(COLUMNS)
  for (let c = 0; c < COLUMNS; c++) {
    let most = 0
    const from = Math.floor((c * row.length) / COLUMNS)
    const to = Math.max(from + 1, Math.floor(((c + 1) * row.length) / COLUMNS))
    for (let b = from; b < to; b++) if (row[b]! > most) most = row[b]!
    out[c] = Math.max(0, Math.min(255, (10 * Math.log10(most + 1e-20) - floorDb) * 6))
  }
  return out
}

/** Half a second of the simulated receiver twice a second. */
function simulate({ plan, bands, centreHz, sampleRateHz }: Extract<ToLive, { simulate: unknown }>['simulate']) {
  const receiver = eveningFor(plan, bands)
  begin({ sampleRateHz, isIq: true, centreHz })
  clearInterval(timer)
  const off = { devices: Object.fromEntries(plan.parts.map(p => [p.id, { state: 'off' as const }])) }
  timer = setInterval(() => {
    const { channels }: Recording = receiver.recording(culprit === 'off' ? off : {}, centreHz, 0.5, sampleRateHz)
    take(channels)
  }, 500)
}
