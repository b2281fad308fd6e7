import Papa from 'papaparse'
import type { BuildSheet } from '../sheets/build'
import type { ShoppingRow } from '../sheets/needs'

/**
 * Lists of the build sheet as CSV: a heading line, commas, points for decimals, metres and millimetres said in the
 * heading.
 */

const csv = (fields: string[], data: unknown[][]) => Papa.unparse({ fields, data }, { newline: '\n' }) + '\n'

export function cutListCsv(sheet: BuildSheet): string {
  return csv(
    [
      'lead',
      'name',
      'from',
      'to',
      'conductor',
      'insulation_c',
      'length_m',
      'cut_each_m',
      'colours',
      'from_connector',
      'from_method',
      'to_connector',
      'to_method',
      'in_it',
      'note',
    ],
    sheet.cutList.map(r => [
      r.leadId,
      r.name,
      r.from,
      r.to,
      r.conductor,
      r.insulationC ?? '',
      r.lengthM,
      r.cutM,
      r.conductors.map(c => c.colour).join('+'),
      r.ends[0]?.connector,
      r.ends[0]?.method,
      r.ends[1]?.connector,
      r.ends[1]?.method,
      r.inline.map(i => `${i.what} at ${i.atM} m (${i.leg})`).join('; '),
      r.note,
    ]),
  )
}

export function partsCsv(sheet: BuildSheet): string {
  return csv(
    ['what', 'count', 'unit', 'note'],
    sheet.parts.map(r => [r.what, r.count, r.unit, r.note]),
  )
}

export function shoppingCsv(rows: readonly ShoppingRow[]): string {
  return csv(
    ['what', 'unit', 'needs', 'has', 'buy', 'cost'],
    rows.map(r => [r.what, r.unit, r.needs, r.has, r.buy, r.cost]),
  )
}
