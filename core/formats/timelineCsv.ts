import Papa from 'papaparse'
import { FORMULA } from '../units/inert'
import type { Course } from '../hours/run'

/** The course of an event as CSV: hours from its start, charge 0–1, volts with everything keyed, watts. */
export function timelineCsv({ timeline }: Course): string {
  const [first] = timeline
  if (!first) return ''
  const [stores, loads] = [Object.keys(first.soc), Object.keys(first.volts)]
  const charges = stores.map(s => `${s}_charge`)
  const volts = loads.map(l => `${l}_volts`)
  const head = ['h', ...charges, ...volts, 'sun_w', 'supplied_w', 'loads_w']
  const rows = timeline.map(m => [
    m.h.toFixed(3),
    ...stores.map(s => m.soc[s]!.toFixed(4)),
    ...loads.map(l => m.volts[l]!.toFixed(3)),
    ...[m.sunW, m.suppliedW, m.loadsW].map(w => w.toFixed(1)),
  ])
  return `${Papa.unparse([head, ...rows], { newline: '\n', escapeFormulae: FORMULA })}\n`
}
