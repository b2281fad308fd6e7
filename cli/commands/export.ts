import { cutListCsv, partsCsv, shoppingCsv } from '../../core/formats/csv'
import { spiceNetlist } from '../../core/formats/spice'
import { labelsSvg, pathSvg } from '../../core/formats/svg'
import { pathOnPaper } from '../../core/picture/paper'
import { shownOf } from '../../core/picture/shown'
import { writePlan } from '../../core/plan/faults'
import type { Plan } from '../../core/plan/schema'
import { buildSheet, type BuildSheet } from '../../core/sheets/build'
import { LABEL_FORMATS } from '../../core/sheets/labels'
import { judge } from '../../core/verdict/verdict'
import { loadFace } from '../faces'
import { refuse, type Call, type Command } from '../command'
import { readPlan, readShelf, writeOut } from '../inputs'
import { conditionNamed } from './solve'

interface Wanted {
  plan: Plan
  call: Call
  sheet: () => BuildSheet
}
const labelsOf = ({ call }: Wanted) => LABEL_FORMATS.find(f => f.id === (call.value('labels') ?? 'sheet'))!

/** Each format by its option, with the further options that belong to it. */
const FORMATS: Record<string, { make: (wanted: Wanted) => string | Promise<string | Uint8Array>; with?: string[] }> = {
  spice: { make: ({ plan, call }) => spiceNetlist(plan, conditionNamed(plan, call)), with: ['condition'] },
  'cut-csv': { make: ({ sheet }) => cutListCsv(sheet()) },
  'parts-csv': { make: ({ sheet }) => partsCsv(sheet()) },
  'shopping-csv': { make: ({ sheet }) => shoppingCsv(sheet()), with: ['shelf'] },
  svg: {
    make({ plan }) {
      const { verdict, study } = judge(plan)
      return pathSvg(plan, verdict, shownOf(study, verdict))
    },
  },
  // The PDF maker is large and rarely wanted: it is loaded only then.
  pdf: {
    async make({ plan, sheet, call }) {
      const { buildSheetPdf } = await import('../../core/formats/pdf/buildSheet')
      const { verdict, study } = judge(plan)
      const path = pathOnPaper(plan, verdict, shownOf(study, verdict))
      const paper = call.value('paper') === 'letter' ? 'letter' : 'a4'
      return buildSheetPdf(sheet(), { path, paper, loadFace })
    },
    with: ['paper', 'shelf'],
  },
  'labels-svg': { make: wanted => labelsSvg(wanted.sheet().labels, labelsOf(wanted)), with: ['labels'] },
  'labels-pdf': {
    async make(wanted) {
      const { labelsPdf } = await import('../../core/formats/pdf/labels')
      return labelsPdf(wanted.sheet().labels, labelsOf(wanted), loadFace)
    },
    with: ['labels'],
  },
  json: { make: ({ plan }) => writePlan(plan) },
}

const FURTHER = {
  condition: { value: 'low/all' },
  shelf: { value: 'SHELF.csv' },
  paper: { value: 'SIZE', oneOf: ['a4', 'letter'] },
  labels: { value: 'KIND', oneOf: LABEL_FORMATS.map(f => f.id) },
}

export const exportPlan: Command = {
  name: 'export',
  takes: 'PLAN.json',
  options: { ...Object.fromEntries(Object.keys(FORMATS).map(name => [name, {}])), ...FURTHER, out: { value: 'FILE' } },
  help: `--spice --condition low/all     netlist of the operating point, for a circuit simulator
--cut-csv, --parts-csv          cut list, parts list
--shopping-csv [--shelf FILE]   what the plan needs less what the shelf has
--svg                           the path as a picture
--pdf [--paper letter]          the build sheet
--labels-svg, --labels-pdf [--labels tape|sheet]   labels for leads, ports and fuses
--json                          the plan itself, in its canonical order
Without --out it goes to standard output. Exit 2: no such plan, format or condition.`,
  async run(call) {
    const named = Object.keys(FORMATS).filter(call.has)
    const [format] = named
    const right = `one of ${Object.keys(FORMATS)
      .map(f => `--${f}`)
      .join(', ')}`
    if (!format || named.length > 1)
      return refuse('export', format ? 'two formats are named' : 'no format is named', right)
    const belongs = FORMATS[format]!.with ?? []
    const stray = Object.keys(FURTHER).find(o => call.has(o) && !belongs.includes(o))
    if (stray) refuse(`--${stray}`, `it does not go with --${format}`, belongs.map(b => `--${b}`).join(', ') || 'none')
    const plan = readPlan(call)
    const stamp = { revision: null, date: new Date().toISOString().slice(0, 10) }
    const made = await FORMATS[format]!.make({ plan, call, sheet: () => buildSheet(plan, readShelf(call), stamp) })
    const path = call.value('out')
    if (path === undefined) process.stdout.write(made)
    else writeOut('--out', path, made)
    return 0
  },
}
