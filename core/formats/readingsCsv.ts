import Papa from 'papaparse'
import { FORMULA, withoutGuard } from '../units/inert'
import { conditionsOf, findCondition } from '../circuit/conditions'
import { compile } from '../circuit/network'
import { solveMatrix } from '../circuit/matrix'
import type { Plan } from '../plan/schema'
import { leadSide } from '../readings/model'
import { SEEN, type Aside, type Reading, type Seen, type Sight } from '../readings/reading'
import { jointsOf } from '../readings/places'

/** Readings of a station as CSV: `at,condition,volts,amps`, and where wanted `time`, `revision`, `seen`, `with`. */

export type ReadingsRead =
  | { ok: true; readings: Reading[]; seen: Seen[]; aside: Aside[] }
  | { ok: false; line: number; wrong: string; right: string }

const COLUMNS = ['at', 'condition', 'volts', 'amps', 'time', 'revision', 'seen', 'with'] as const
type Column = (typeof COLUMNS)[number]
const SHAPE = 'a first line at,condition,volts,amps; then a terminal with volts, or a lead with amps'
/** A meter shows less than so many times the highest of the plan, V and A; else a point was lost. */
const MOST_TIMES = 1.6
const MOST_AMPS_TIMES = 8
const SPARE_A = 10
/** A meter's zero is off by no more than this, V. */
const LEAST_V = -0.5
const MOST_ROWS = 20_000

/** Reads readings for a plan. Rows that cannot be used are kept aside, each with its line and what is wrong. */
export function readReadingsCsv(text: string, plan: Plan, { revision }: { revision?: number } = {}): ReadingsRead {
  if (!text.trim()) return { ok: false, line: 1, wrong: 'the file is empty', right: SHAPE }
  const { data } = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), {
    skipEmptyLines: false,
    delimitersToGuess: [',', ';', '\t'],
  })
  const isRow = (cells: readonly string[]) => cells.some(c => c.trim()) && !cells[0]!.trim().startsWith('#')
  const headAt = data.findIndex(isRow)
  const head = (data[headAt] ?? []).map(h => h.trim().toLowerCase())
  const column = Object.fromEntries(COLUMNS.map(c => [c, head.indexOf(c)])) as Record<Column, number>
  const missing = (['at', 'condition'] as const).filter(c => column[c] < 0)
  if (missing.length || (column.volts < 0 && column.amps < 0 && column.seen < 0)) {
    const without = missing.length ? `, without ${missing.join(' and ')}` : ''
    const wrong = `its first line is ${head.join(',') || 'empty'}${without}`
    return { ok: false, line: headAt + 1, wrong, right: SHAPE }
  }
  if (data.length > MOST_ROWS)
    return { ok: false, line: MOST_ROWS, wrong: `it has over ${MOST_ROWS} lines`, right: 'a part of it' }
  const rows = new Rows(plan, revision)
  data.forEach((cells, i) => {
    if (i <= headAt || !isRow(cells)) return
    const cell = (c: Column) => (column[c] < 0 ? '' : (cells[column[c]] ?? '').trim())
    rows.take(i + 1, cells.join(','), cell)
  })
  return { ok: true, readings: rows.readings, seen: rows.seen, aside: rows.aside }
}

/** Rows one after the other, held against a plan. */
class Rows {
  readonly readings: Reading[] = []
  readonly seen: Seen[] = []
  readonly aside: Aside[] = []
  private readonly terminals: ReadonlySet<string>
  private readonly leads: ReadonlySet<string>
  private readonly places: ReadonlySet<string>
  private readonly mostV: number
  private readonly mostA: number

  constructor(
    private readonly plan: Plan,
    private readonly revision: number | undefined,
  ) {
    const network = compile(plan)
    this.terminals = new Set(network.nodeOf.keys())
    this.leads = new Set(plan.leads.map(l => l.id))
    this.places = new Set(jointsOf(network).map(j => j.place))
    const { points } = solveMatrix(plan)
    const solved = points.filter(p => p.status === 'ok')
    this.mostV = MOST_TIMES * Math.max(1, ...solved.flatMap(p => [...p.volts]))
    this.mostA = MOST_AMPS_TIMES * Math.max(0, ...solved.flatMap(p => [...p.amps].map(Math.abs))) + SPARE_A
  }

  take(line: number, text: string, cell: (c: Column) => string) {
    const refused = this.refusal(line, cell)
    if (refused) this.aside.push({ line, text, ...refused })
  }

  /** Takes a row, or says why not. */
  private refusal(line: number, cell: (c: Column) => string): { wrong: string; right: string } | null {
    const [at, condition] = [cell('at'), cell('condition')]
    if (!at) return { wrong: 'it does not say where', right: 'a terminal with volts, or a lead with amps' }
    if (cell('revision') && this.revision !== undefined && Number(cell('revision')) !== this.revision)
      return {
        wrong: `read on revision ${cell('revision')}, this is ${this.revision}`,
        right: 'the plan as it was then',
      }
    const saw = cell('seen').toLowerCase()
    if (saw) {
      if (!(saw in SEEN)) return { wrong: `${saw} is not known`, right: Object.keys(SEEN).join(', ') }
      if (!this.places.has(at)) return { wrong: `the plan has no joint ${at}`, right: 'as l2.to, l1.f1 or blk.p1' }
      this.seen.push({ place: at, saw: saw as Sight })
    }
    if (!cell('volts') && !cell('amps')) return saw ? null : { wrong: 'there is no figure', right: 'volts or amps' }
    const found = findCondition(this.plan, condition)
    if (typeof found === 'string') {
      const some = conditionsOf(this.plan)
        .slice(0, 4)
        .map(c => c.id)
      return { wrong: `the plan has no condition ${condition || '(none is said)'}`, right: `as ${some.join(', ')}` }
    }
    for (const quantity of ['volts', 'amps'] as const) {
      if (!cell(quantity)) continue
      const refused = this.figure(
        line,
        { at, condition, time: cell('time'), with: withoutGuard(cell('with')) },
        quantity,
        cell(quantity),
      )
      if (refused) return refused
    }
    return null
  }

  private figure(
    line: number,
    { at, condition, time, with: by }: Record<'at' | 'condition' | 'time' | 'with', string>,
    quantity: 'volts' | 'amps',
    written: string,
  ): { wrong: string; right: string } | null {
    const unit = quantity === 'volts' ? 'V' : 'A'
    const isLead = this.leads.has(at)
    if (quantity === 'amps' && !isLead)
      return {
        wrong: `amps are read in a lead, and ${at} is none`,
        right: `one of ${[...this.leads].slice(0, 6).join(', ')}`,
      }
    if (quantity === 'volts' && !this.terminals.has(at) && !leadSide(this.plan, at)) {
      const right = isLead ? `an end of it: ${at}.from or ${at}.to, or its terminal` : 'a terminal, as blk.p1'
      return { wrong: `the plan has no point ${at} to hold a meter to`, right }
    }
    const match = /^([-−+]?\d+(?:[.,]\d+)?)\s*(m?[a-zΩ°%]*)$/i.exec(written)
    if (!match) return { wrong: `${written} is no figure`, right: `${quantity} as 12.84` }
    const [, figure, suffix] = match as unknown as [string, string, string]
    const scale = scaleOf(suffix, unit)
    if (scale === null) return { wrong: `${written} is in another unit`, right: `${unit}, or m${unit}` }
    const value = Number(figure.replace('−', '-').replace(',', '.')) * scale
    if (quantity === 'volts' && value < LEAST_V)
      return {
        wrong: `${written} V has the sign the wrong way round`,
        right: 'the probes turned; is it still so, red and black are crossed there: connect nothing to it',
      }
    const most = quantity === 'volts' ? this.mostV : this.mostA
    if (Math.abs(value) > most) {
      const tenth = Math.abs(value) / 10 <= most && value > 0 ? `; was it ${value / 10} ${unit}?` : ''
      return {
        wrong: `${written} ${suffix ? '' : unit} is out of any reason here`.replace('  ', ' '),
        right: `below ${Math.round(most)} ${unit}${tenth}`,
      }
    }
    const decimals = /[.,](\d+)/.exec(figure)?.[1]!.length ?? 0
    const digit = scale * 10 ** -decimals
    this.readings.push({
      at,
      condition,
      [quantity]: value,
      digit,
      line,
      ...(time && { time }),
      ...(by && { with: by }),
    })
    return null
  }
}

function scaleOf(suffix: string, unit: 'V' | 'A'): number | null {
  if (!suffix || suffix.toUpperCase() === unit) return 1
  return suffix.toLowerCase() === `m${unit.toLowerCase()}` && suffix.startsWith('m') ? 1e-3 : null
}

/** Readings as CSV again; no figure of them is lost. */
export const readingsCsv = (readings: readonly Omit<Reading, 'line'>[]): string =>
  `${Papa.unparse(
    {
      fields: ['at', 'condition', 'volts', 'amps', 'time', 'with'],
      data: readings.map(r => [
        r.at,
        r.condition,
        written(r.volts, r.digit),
        written(r.amps, r.digit),
        r.time ?? '',
        r.with ?? '',
      ]),
    },
    { newline: '\n', escapeFormulae: FORMULA },
  )}\n`

function written(value: number | undefined, digit: number): string {
  if (value === undefined) return ''
  const shown = value.toFixed(Math.max(0, Math.round(-Math.log10(digit))))
  return Number(shown) === value ? shown : String(value)
}
