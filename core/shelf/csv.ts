import Papa from 'papaparse'
import { FORMULA, withoutGuard } from '../units/inert'
import { shelfItemSchema, type ShelfItem } from './item'

/** Columns of the shelf's CSV; every kind of item fills those that are its own. */
const COLUMNS = [
  'what',
  'name',
  'awg',
  'mm2',
  'insulation_c',
  'metres',
  'connector',
  'a',
  'b',
  'type',
  'rated_a',
  'chemistry',
  'series_cells',
  'capacity_ah',
  'count',
  'cost',
  'note',
  'made_up',
] as const

const FIELD: Record<string, string> = {
  insulation_c: 'insulationC',
  rated_a: 'ratedA',
  series_cells: 'seriesCells',
  capacity_ah: 'capacityAh',
  made_up: 'madeUp',
}
const NUMBERS = new Set(['mm2', 'insulation_c', 'metres', 'rated_a', 'series_cells', 'capacity_ah', 'count', 'cost'])

export function shelfToCsv(shelf: readonly ShelfItem[]): string {
  return (
    Papa.unparse(
      {
        fields: [...COLUMNS],
        data: shelf.map(item => COLUMNS.map(c => (item as Record<string, unknown>)[FIELD[c] ?? c] ?? '')),
      },
      { newline: '\n', escapeFormulae: FORMULA },
    ) + '\n'
  )
}

export type ShelfFile =
  { ok: true; items: ShelfItem[] } | { ok: false; faults: { line: number; wrong: string; right: string }[] }

/**
 * Reads the shelf's CSV. Commas, semicolons or tabs part the columns; a decimal comma is read where semicolons do.
 * Every fault is listed by its line.
 */
export function shelfFromCsv(text: string, makeId: (n: number) => string): ShelfFile {
  if (!text.trim())
    return {
      ok: false,
      faults: [{ line: 1, wrong: 'the file is empty', right: `a first line with the columns ${COLUMNS.join(', ')}` }],
    }
  const parsed = Papa.parse<Record<string, string>>(text.replace(/^\uFEFF/, '').trim(), {
    header: true,
    skipEmptyLines: 'greedy',
    transformHeader: h => h.trim().toLowerCase(),
  })
  const headers = parsed.meta.fields ?? []
  if (!headers.includes('what'))
    return {
      ok: false,
      faults: [
        {
          line: 1,
          wrong: `the first line names no column what; it has ${headers.slice(0, 6).join(', ') || 'nothing'}`,
          right: `the columns ${COLUMNS.join(', ')}`,
        },
      ],
    }
  const unknown = headers.filter(h => !(COLUMNS as readonly string[]).includes(h))
  if (unknown.length)
    return {
      ok: false,
      faults: [{ line: 1, wrong: `the column ${unknown[0]} is not known`, right: `one of ${COLUMNS.join(', ')}` }],
    }
  const items: ShelfItem[] = []
  const faults: { line: number; wrong: string; right: string }[] = []
  parsed.data.forEach((row, n) => {
    const raw: Record<string, unknown> = { id: makeId(n) }
    for (const column of headers) {
      const value = withoutGuard(row[column]?.trim() ?? '')
      if (!value) continue
      if (column === 'awg') raw.awg = /^\d\/0$/.test(value) ? value : Number(value)
      else if (NUMBERS.has(column))
        raw[FIELD[column] ?? column] = Number(parsed.meta.delimiter === ',' ? value : value.replace(',', '.'))
      else raw[FIELD[column] ?? column] = column === 'made_up' ? /^(true|yes|1)$/i.test(value) : value
    }
    const read = shelfItemSchema.safeParse(raw)
    if (read.success) items.push(read.data)
    else {
      const [issue] = read.error.issues
      const field = String(issue!.path.at(-1) ?? 'what')
      faults.push({
        line: n + 2,
        wrong:
          `${field} is ` +
          `${row[Object.entries(FIELD).find(([, f]) => f === field)?.[0] ?? field]?.trim() || 'missing'}`,
        right: issue!.code === 'invalid_union' ? 'conductor, contact, fuse, adapter or pack' : issue!.message,
      })
    }
  })
  return faults.length ? { ok: false, faults } : { ok: true, items }
}
