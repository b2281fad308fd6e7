import { hearCsv } from '../../core/formats/heardCsv'
import { basename } from 'node:path'
import { centreInName, HEADING_BYTES, openWav, readWavPiece, wavPiece, wavSeconds } from '../../core/formats/wav'
import { hearRecording, type Heard } from '../../core/noise/listen/listen'
import { isIq } from '../../core/noise/listen/spectrum'
import { showClock } from '../../core/units/clock'
import { percent } from '../../core/units/show'
import { counted } from '../../core/units/words'
import { out, printJson, refuse, type Call, type Command } from '../command'
import { fileOf, readBytes, readFigure, readStretch } from '../inputs'
import { asGiven, fixed } from '../../core/units/number'

export const comb: Command = {
  name: 'comb',
  takes: 'FILE',
  options: { 'centre-hz': { value: 'HZ' }, 'from-s': { value: 'SECONDS' }, json: {} },
  help: `Evenly spaced tones in a tone list (CSV, frequency_hz or frequency_khz), a spectrum (a column of levels beside
it) or a WAV recording (two channels are I and Q around --centre-hz, or around what the file or its name says; one,
or the same in both, is audio): spacing, uncertainty, how surely, lines; mains buzz and broadcasters apart. Of a
long recording one minute is read, from --from-s. Exit 2: it cannot be read.`,
  run(call) {
    const { heard, centreHz, stretch } = hear(call)
    if (call.json) {
      const { combs, broadcast, mains, unexplained, tones } = heard
      printJson({
        combs,
        broadcast,
        mains,
        unexplained,
        tones: tones.length,
        ...(centreHz !== undefined && { centreHz }),
        ...(stretch && { stretch }),
      })
    } else {
      if (stretch) printStretch(stretch)
      printHeard(heard, centreHz)
    }
    return 0
  },
}

/** What was heard; of I and Q around what, null where nothing says it. */
interface Listened {
  heard: Heard
  centreHz?: number | null
  stretch?: Stretch
}
interface Stretch {
  fromS: number
  toS: number
  ofS: number
}

function hear(call: Call): Listened {
  const saidHz = call.value('centre-hz') === undefined ? null : readFigure(call, 'centre-hz')
  const path = fileOf(call)
  const right = 'a tone list, a spectrum or a WAV recording'
  const { bytes: beginning, fileBytes } = readStretch(path, right, { from: 0, bytes: HEADING_BYTES })
  const isWav = ['RIFF', 'RF64'].includes(beginning.subarray(0, 4).toString('latin1')) || /\.wav$/i.test(path)
  if (isWav) return hearWav(path, { beginning, fileBytes, saidHz, fromS: readFigure(call, 'from-s', { otherwise: 0 }) })
  const bytes = readBytes(path, right)
  const read = hearCsv(bytes.toString('utf8'))
  return read.ok ? { heard: read.heard } : refuse(`${path}, line ${read.line}`, read.wrong, read.right)
}

interface Beginning {
  beginning: Uint8Array
  fileBytes: number
  saidHz: number | null
  fromS: number
}

function hearWav(path: string, { beginning, fileBytes, saidHz, fromS }: Beginning): Listened {
  const opened = openWav(beginning, fileBytes)
  if (!opened.ok) return refuse(path, opened.wrong, opened.right)
  const { wav } = opened
  const { start, bytes, ...piece } = wavPiece(wav, fromS)
  const { bytes: samples } = readStretch(path, 'a WAV recording', { from: start, bytes })
  const recording = readWavPiece(wav, samples)
  const centreHz = saidHz ?? wav.centreHz ?? centreInName(basename(path))
  const heard = hearRecording(recording, centreHz)
  if (!heard) return refuse(path, 'the recording is too short', 'at least a second')
  const stretch = { ...piece, ofS: wavSeconds(wav) }
  return isIq(recording) ? { heard, centreHz, stretch } : { heard, stretch }
}

/** Of a long recording, what was listened to. */
function printStretch({ fromS, toS, ofS }: Stretch) {
  const isAll = ofS - (toS - fromS) < 1
  if (!isAll) out(`heard ${showClock(fromS)} to ${showClock(toS)} of ${showClock(ofS)}; another minute by --from-s`)
}

const khz = (hz: number, decimals = 3) => fixed(hz / 1000, decimals)

const CHANNELS = 'stations keep to such steps too, and no converter runs so slow: no device is proven by it'
const USUAL = "It comes by the mains and from no switching device's oscillator"
const RARE =
  'It comes by the mains of three phases, or from a clock of just that speed, as a dimmer or a PWM controller has: ' +
  'take the mains off to tell'

function printHeard({ combs, broadcast, mains, unexplained, tones }: Heard, centreHz?: number | null) {
  out(`${counted(tones.length, 'tone')}, ${counted(combs.length, 'comb')}`)
  if (centreHz === null)
    out('The centre of this I/Q recording is not known: frequencies count from it. Say it with --centre-hz.')
  for (const c of combs) {
    const spacing = `${khz(c.spacingHz)} kHz ± ${fixed(c.uncertaintyHz, 1)} Hz`
    const lines = `${percent(c.confidence, 1)} sure, ${c.lines.length} lines, ${c.missing} missing`
    const ripple = c.rippleHz === null ? '' : `; ripple ${asGiven(c.rippleHz)} Hz on its lines`
    const likely = c.proven
      ? ''
      : `; ${c.channelStep ? CHANNELS : 'likely, not proven: measure more lines, or to 100 Hz'}`
    out(`${spacing}, ${lines}${multiplesOf(c)}${ripple}${likely}`)
  }
  if (mains) {
    const lines = `${counted(mains.lines.length, 'line')} ${fixed(mains.spacingHz, 1)} Hz apart`
    out(`mains buzz of ${asGiven(mains.mainsHz)} Hz: ${lines}. ${mains.rare ? RARE : USUAL}`)
  }
  if (broadcast) {
    const raster = `${broadcast.spacingHz / 1000} kHz raster`
    out(`${broadcast.lines.length} carriers on the broadcasters' ${raster}: no fault of the station's`)
  }
  if (unexplained.length) out(`belong to none: ${unexplained.map(hz => khz(hz, 1)).join(', ')} kHz`)
}

function multiplesOf({ oddOnly, fundamentalHz, lines }: Heard['combs'][number]): string {
  if (fundamentalHz === null || fundamentalHz === undefined) return ''
  if (oddOnly) return `; odd multiples of ${khz(fundamentalHz)} kHz only`
  return `; multiples ${lines[0]!.harmonic} to ${lines.at(-1)!.harmonic} of ${khz(fundamentalHz)} kHz`
}
