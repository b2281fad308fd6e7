import { hearSpectrum, hearTones, type Heard } from '../noise/listen/listen'
import { readTonesCsv, type Refusal } from './tonesCsv'

/** Bins wider than this are too coarse for a comb to stand out of them, Hz. */
const WIDE_HZ = 1000

/** What is heard in a tone list or a spectrum as CSV. */
export function hearCsv(text: string): { ok: true; heard: Heard } | Refusal {
  const read = readTonesCsv(text)
  if (!read.ok) return read
  if (read.kind === 'tones') return { ok: true, heard: hearTones(read.tones, read.resolutionHz) }
  const { bins } = read
  const heard = hearSpectrum(bins)
  const stepHz = (bins.at(-1)!.hz - bins[0]!.hz) / (bins.length - 1)
  if (heard.tones.length || stepHz <= WIDE_HZ) return { ok: true, heard }
  const wrong =
    `its ${bins.length} rows stand exactly ${(stepHz / 1000).toFixed(3)} kHz apart and are read as a spectrum, ` +
    'in which nothing stands out'
  return { ok: false, line: 1, wrong, right: 'the frequencies alone, without levels, where each row is a tone' }
}
