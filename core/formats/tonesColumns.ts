/** What the columns of a spectrum or a tone list mean, by what they are called. */
export interface Columns {
  count: number
  frequency: { at: number; unit: string; scale: number }
  /** Decibels of any kind, or a power, or an amplitude. */
  level: { at: number; law: 'db' | 'power' | 'amplitude' } | null
  /** Columns that are neither. */
  others: string[]
}

const UNITS: Record<string, number> = { hz: 1, khz: 1e3, mhz: 1e6, ghz: 1e9 }

/** "Frequency (kHz)", "freq_hz", "MHz", "f [Hz]": the unit of a column of frequencies; null where it is none. */
function frequencyUnit(heading: string): string | null {
  const words = wordsOf(heading)
  const unit = words.find(w => w in UNITS)
  const isNamed = words.some(w => /^(f|freq|frequency|frequencies|tone|tones)$/.test(w))
  if (unit) return words.every(w => w === unit) || isNamed || words.length <= 2 ? unit : null
  return isNamed ? '' : null
}

/** "level_dbm", "Power (dBm)", "dBµV", "Magnitude", "power": decibels, or what they are made of. */
function levelLaw(heading: string): 'db' | 'power' | 'amplitude' | null {
  const words = wordsOf(heading)
  if (words.some(w => /^db(m|w|v|uv|µv|μv|mv|fs|i|c|hz)?$/.test(w))) return 'db'
  if (words.some(w => /^(level|levels|rssi|snr)$/.test(w))) return 'db'
  if (words.some(w => /^(power|psd|mw|w|watts?)$/.test(w))) return 'power'
  if (words.some(w => /^(amplitude|ampl|amp|magnitude|mag|voltage|v|uv|µv|μv|mv)$/.test(w))) return 'amplitude'
  return null
}

const wordsOf = (heading: string) =>
  heading
    .toLowerCase()
    .replace(/[/]/g, ' ')
    .split(/[^a-zµμ0-9]+/)
    .filter(Boolean)

/** The columns of a heading; null where none of them is a frequency. */
export function columnsOf(heading: readonly string[]): Columns | null {
  if (heading.every(h => isFigure(h))) return null
  const units = heading.map(frequencyUnit)
  const at = units.findIndex(u => u !== null)
  if (at < 0) return null
  const laws = heading.map((h, i) => (i === at ? null : levelLaw(h)))
  // Decibels before what they are made of.
  const best = ['db', 'power', 'amplitude'].map(law => laws.findIndex(l => l === law)).find(i => i >= 0) ?? -1
  const unit = units[at] || 'hz'
  return {
    count: heading.length,
    frequency: { at, unit: NAMES[unit]!, scale: UNITS[unit]! },
    level: best < 0 ? null : { at: best, law: laws[best]! },
    others: heading.filter((h, i) => h && i !== at && laws[i] === null),
  }
}

const NAMES: Record<string, string> = { hz: 'Hz', khz: 'kHz', mhz: 'MHz', ghz: 'GHz' }

const isFigure = (word: string) => word !== '' && Number.isFinite(Number(word.replace(/^[−–]/, '-').replace(',', '.')))

/** Where radio is heard, in Hz, kHz and MHz: the ranges do not meet, so that figures alone tell their unit. */
const RANGES = [
  { unit: 'hz', low: 1.5e6, high: 3e9 },
  { unit: 'khz', low: 100, high: 6e4 },
  { unit: 'mhz', low: 0.1, high: 60 },
] as const

/** A file without a heading: a frequency and perhaps a level in dB; null where the unit cannot be told. */
export function unheaded(rows: readonly (readonly string[])[]): Columns | null {
  const count = rows[0]!.length
  if (count > 2 || !rows.every(r => r.slice(0, count).every(w => isFigure(w) || /inf/i.test(w)))) return null
  const first = rows.map(r => Number(r[0]!.replace(',', '.')))
  const range = RANGES.find(({ low, high }) => first.every(f => f >= low && f < high))
  if (!range) return null
  return {
    count,
    frequency: { at: 0, unit: NAMES[range.unit]!, scale: UNITS[range.unit]! },
    level: count === 2 ? { at: 1, law: 'db' } : null,
    others: [],
  }
}
