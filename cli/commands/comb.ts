import { readTonesCsv } from '../../core/formats/tonesCsv'
import { readWav } from '../../core/formats/wav'
import { hearRecording, hearSpectrum, hearTones, type Heard } from '../../core/noise/listen'
import { percent } from '../../core/units/show'
import { counted } from '../../core/units/words'
import { out, printJson, refuse, type Call, type Command } from '../command'
import { fileOf, readBytes, readFigure } from '../inputs'

export const comb: Command = {
  name: 'comb',
  takes: 'FILE',
  options: { 'centre-hz': { value: 'HZ' }, json: {} },
  help: `Evenly spaced tones in a tone list (CSV, frequency_hz or frequency_khz), a spectrum (frequency_hz,level_db) or
a WAV recording (two channels are I and Q around --centre-hz, one is audio): spacing, uncertainty, how surely,
lines. Exit 2: it cannot be read.`,
  run(call) {
    const heard = hear(call)
    if (call.json) {
      const { combs, broadcast, unexplained, tones } = heard
      const listed = combs.map(({ lines, ...c }) => ({ ...c, lines }))
      printJson({ combs: listed, broadcast, unexplained, tones: tones.length })
    } else printHeard(heard)
    return 0
  },
}

function hear(call: Call): Heard {
  const centreHz = readFigure(call, 'centre-hz', { otherwise: 0 })
  const path = fileOf(call)
  const bytes = readBytes(path, 'a tone list, a spectrum or a WAV recording')
  if (bytes.subarray(0, 4).toString('latin1') === 'RIFF' || /\.wav$/i.test(path)) {
    const read = readWav(new Uint8Array(bytes))
    if (!read.ok) return refuse(path, read.wrong, read.right)
    return hearRecording(read.recording, centreHz) ?? refuse(path, 'the recording is too short', 'at least a second')
  }
  const read = readTonesCsv(bytes.toString('utf8'))
  if (!read.ok) return refuse(`${path}, line ${read.line}`, read.wrong, read.right)
  return read.kind === 'tones' ? hearTones(read.tones) : hearSpectrum(read.bins)
}

const khz = (hz: number, decimals = 3) => (hz / 1000).toFixed(decimals)

function printHeard({ combs, broadcast, unexplained, tones }: Heard) {
  out(`${counted(tones.length, 'tone')}, ${counted(combs.length, 'comb')}`)
  for (const c of combs) {
    const spacing = `${khz(c.spacingHz)} kHz ± ${c.uncertaintyHz.toFixed(1)} Hz`
    const lines = `${percent(c.confidence, 1)} sure, ${c.lines.length} lines, ${c.missing} missing`
    out(`${spacing}, ${lines}${multiplesOf(c)}`)
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
