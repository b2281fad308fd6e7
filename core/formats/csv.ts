import Papa from 'papaparse'
import type { BuildSheet } from '../sheets/build'
import { FORMULA } from '../units/inert'
import { asGiven } from '../units/number'

/**
 * Lists of the build sheet as CSV: a heading line, commas, points for decimals, metres and millimetres said in the
 * heading.
 */

const csv = (fields: string[], data: unknown[][]) =>
  Papa.unparse({ fields, data }, { newline: '\n', escapeFormulae: FORMULA }) + '\n'

/** The same in every row: of which plan it is, when it was made, and whether that may be built. */
const STAMP_FIELDS = ['plan', 'revision', 'date', 'ready']
const stampOf = ({ name, stamp, notReady }: BuildSheet) => [
  name,
  stamp.revision ?? '',
  stamp.date ?? '',
  notReady.length ? `no: ${notReady.join('; ')}` : 'yes',
]

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
      ...STAMP_FIELDS,
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
      r.inline.map(i => `${i.what} at ${asGiven(i.atM)} m (${i.leg})`).join('; '),
      r.note,
      ...stampOf(sheet),
    ]),
  )
}

export function partsCsv(sheet: BuildSheet): string {
  return csv(
    ['what', 'count', 'unit', 'note', ...STAMP_FIELDS],
    sheet.parts.map(r => [r.what, r.count, r.unit, r.note, ...stampOf(sheet)]),
  )
}

export function shoppingCsv(sheet: BuildSheet): string {
  return csv(
    ['what', 'unit', 'needs', 'has', 'buy', 'cost', ...STAMP_FIELDS],
    sheet.shopping.map(r => [r.what, r.unit, r.needs, r.has, r.buy, r.cost, ...stampOf(sheet)]),
  )
}
