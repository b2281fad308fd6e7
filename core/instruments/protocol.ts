/**
 * What instruments say, line by line, over a socket or in a file that was kept of it; the whole of it is in
 * docs/instruments.md. A line is words with one space between, the first says what it is.
 */

export const GREETING = 'wireman-instruments 1'

export type Unit = 'V' | 'A' | '%'
const UNITS: readonly string[] = ['V', 'A', '%']
/** At no place of the plan: a cell inside a pack, a charge. */
export const NO_PLACE = '-'

/** One figure that an instrument shows, and of what. */
export interface Channel {
  id: string
  unit: Unit
  /** Its last figure. */
  digit: number
  /** Volts: a terminal; amps: a lead; else `-`. */
  at: string
  name: string
}

export type Message =
  | { is: 'greeting' }
  | { is: 'simulated'; station: string }
  | { is: 'channel'; channel: Channel }
  | { is: 'state'; condition: string }
  | { is: 'read'; channel: string; value: number | null; time: string }
  | { is: 'error'; words: string }

/** What a page is told over the gateway: what instruments say; lines that say nothing; that they went, and why. */
export type Heard =
  Message | { is: 'session'; id: string } | { is: 'aside'; line: string; wrong: string } | { is: 'gone'; why: string }

export type LineRead = { ok: true; message: Message } | { ok: false; wrong: string; right: string }

const SHAPES = {
  simulated: 'simulated STATION, of instruments that stand in for real ones',
  channel: 'channel ID UNIT DIGIT AT NAME, as: channel shunt.a A 0.1 l1 Shunt',
  state: 'state CONDITION, as: state full/only:hf',
  read: 'read CHANNEL VALUE TIME, as: read shunt.a 4.2 2026-05-02T10:00:00Z',
  error: 'error, and words',
}
const FIGURE = /^-?\d+(\.\d+)?$/
/** An instrument that shows nothing. */
const NOTHING = '--'
const ID = /^[\w.-]{1,60}$/
/** Beyond this no instrument of a station shows anything. */
const MOST = 100_000
export const MOST_LINE = 300

/** Never throws: a line that is none says what is wrong. */
export function readLine(line: string): LineRead {
  const text = line.trim()
  if (text === GREETING) return { ok: true, message: { is: 'greeting' } }
  if (text.startsWith('wireman-instruments '))
    return { ok: false, wrong: `${text.slice(0, 40)} is another version`, right: GREETING }
  const [word = '', ...rest] = text.split(' ')
  const isKnown = Object.hasOwn(MAKERS, word)
  const message = isKnown && text.length <= MOST_LINE ? MAKERS[word as keyof typeof SHAPES](rest) : null
  if (message) return { ok: true, message }
  const right = isKnown ? SHAPES[word as keyof typeof SHAPES] : `a line of ${Object.keys(SHAPES).join(', ')}`
  return { ok: false, wrong: `it says “${text.slice(0, 80)}”`, right }
}

const MAKERS: Record<keyof typeof SHAPES, (words: string[]) => Message | null> = {
  simulated: words => (words.length ? { is: 'simulated', station: words.join(' ') } : null),
  channel([id = '', unit = '', digitText = '', at = '', ...name]) {
    const digit = Number(digitText)
    const fits = ID.test(id) && UNITS.includes(unit) && digit > 0 && digit <= 100 && at !== '' && name.length > 0
    return fits ? { is: 'channel', channel: { id, unit: unit as Unit, digit, at, name: name.join(' ') } } : null
  },
  state: ([condition, ...more]) => (condition && !more.length ? { is: 'state', condition } : null),
  read([channel = '', text = '', time = '', ...more]) {
    const value = text === NOTHING ? null : Number(text)
    const isShown = value === null || (FIGURE.test(text) && Math.abs(value) <= MOST)
    const fits = ID.test(channel) && isShown && !more.length && !Number.isNaN(Date.parse(time))
    return fits ? { is: 'read', channel, value, time } : null
  },
  error: words => ({ is: 'error', words: words.join(' ') }),
}

/** With the figures that an instrument of such a digit shows. */
export function shownFigure(value: number, digit: number): string {
  const decimals = Math.max(0, -Math.floor(Math.log10(digit) + 1e-9))
  return (Math.round(value / digit) * digit).toFixed(decimals)
}

/** A name that keeps to its line, whatever is in it. */
const oneLine = (text: string) =>
  text
    .replace(/[\p{C}\s]+/gu, ' ')
    .trim()
    .slice(0, 80) || '?'

export const lineOf = {
  simulated: (station: string) => `simulated ${oneLine(station)}`,
  channel: ({ id, unit, digit, at, name }: Channel) => `channel ${id} ${unit} ${digit} ${at} ${oneLine(name)}`,
  state: (condition: string) => `state ${condition}`,
  read: ({ id, digit }: Channel, value: number | null, time: string) =>
    `read ${id} ${value === null ? NOTHING : shownFigure(value, digit)} ${time}`,
  error: (words: string) => `error ${oneLine(words)}`,
}

/** What may be asked of instruments. */
export const COMMAND = /^(probe|state) [\w.:/-]{1,120}$/
