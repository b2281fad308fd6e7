import { readFileSync, writeFileSync } from 'node:fs'
import { conditionsOf, findCondition } from '../core/circuit/conditions'
import { solveMatrix } from '../core/circuit/matrix'
import { namePoint, type NamedPoint } from '../core/circuit/point'
import { readPlanText, type Fault } from '../core/plan/faults'
import { planJsonSchema, type Plan } from '../core/plan/schema'
import { fixesOf } from '../core/verdict/fixes'
import { judge } from '../core/verdict/verdict'
import { figure } from '../core/units/number'
import { cutListCsv, partsCsv, shoppingCsv } from '../core/formats/csv'
import { spiceNetlist } from '../core/formats/spice'
import { labelsSvg, pathSvg } from '../core/formats/svg'
import { shownOf } from '../core/picture/shown'
import { writePlan } from '../core/plan/faults'
import { shelfFromCsv } from '../core/shelf/csv'
import type { ShelfItem } from '../core/shelf/item'
import { buildSheet } from '../core/sheets/build'
import { LABEL_FORMATS } from '../core/sheets/labels'
import { deviceWords, shortStudy, type Short } from '../core/short/study'
import { readTonesCsv } from '../core/formats/tonesCsv'
import { readWav } from '../core/formats/wav'
import { coreImpedance, impedance, inductance, insertionLossDb, peakHz, strayFarad } from '../core/noise/choke'
import { complex, magnitude } from '../core/noise/complex'
import { hearRecording, hearSpectrum, hearTones, type Heard } from '../core/noise/listen'
import { sizePlan, type Aim, type Stock } from '../core/size/size'

const HELP = `wireman: judges and solves a station's DC power path from the command line.

  ./run check PLAN.json [--json]
      Findings, worst first, each with its fixes. Exit 0: no finding of danger or fail; 1: there is one; 2: the plan cannot be read.
  ./run solve PLAN.json [--condition low/all] [--json]
      The operating point in one condition (sourceState/loadState), or in all of them. Exit 2: no such plan or condition.
  ./run short PLAN.json [--json]
      A dead short at every terminal and lead end: prospective current, what opens first and when, what survives, selectivity,
      unprotected lengths, what is still live with each breaker or switch open. Exit 1: something does not clear or survive.
  ./run size PLAN.json --for weight|cost|drop [--row LOAD] [--shelf SHELF.csv] [--json]
      Conductors, fuses and port places that pass every limit with the least of it: the patched plan and the difference.
      --row: only what lies on the way to one load. --shelf: only conductors of a shelf's CSV. Exit 1: nothing fits.
  ./run export PLAN.json FORMAT [--out FILE]
      --spice --condition low/all     netlist of the operating point, for a circuit simulator
      --cut-csv, --parts-csv          cut list, parts list
      --shopping-csv [--shelf FILE]   what the plan needs less what the shelf has
      --svg                           the path as a picture
      --pdf [--paper letter]          the build sheet
      --labels-svg, --labels-pdf [--labels tape|sheet]   labels for leads, ports and fuses
      --json                          the plan itself, in its canonical order
      Without --out it goes to standard output. Exit 2: no such plan, format or condition.
  ./run comb FILE [--centre-hz HZ] [--json]
      Evenly spaced tones in a tone list (CSV, frequency_hz or frequency_khz), a spectrum (frequency_hz,level_db) or a WAV recording (two
      channels are I and Q around --centre-hz, one is audio): spacing, uncertainty, how surely, lines. Exit 2: it cannot be read.
  ./run choke --initial-permeability 1500 --relaxation-hz 3e6 --od-mm 36 --id-mm 23 --height-mm 15 --cores 4 --turns 4 --frequency-hz 14e6
      [--source-ohm 50] [--load-ohm 50] [--stray-pf 0] [--json]   inductance, complex impedance and insertion loss.
  ./run schema
      The plan format as JSON Schema.

PLAN.json is a wireman-plan file; - reads it from standard input. --json prints JSON and nothing else.
`

interface Arguments {
  command: string
  file?: string
  json: boolean
  condition?: string
  unknown?: string
  values: Record<string, string>
  flags: Set<string>
}

/** Options that take a value, and those that do not. */
const VALUES = [
  'for',
  'row',
  'shelf',
  'out',
  'labels',
  'paper',
  'centre-hz',
  'initial-permeability',
  'relaxation-hz',
  'od-mm',
  'id-mm',
  'height-mm',
  'cores',
  'turns',
  'frequency-hz',
  'source-ohm',
  'load-ohm',
  'stray-pf',
]
const FORMATS = ['spice', 'cut-csv', 'parts-csv', 'shopping-csv', 'svg', 'pdf', 'labels-svg', 'labels-pdf']

function readArguments(argv: string[]): Arguments {
  const [command = 'help', ...rest] = argv
  const args: Arguments = { command, json: false, values: {}, flags: new Set() }
  for (let i = 0; i < rest.length; i++) {
    const word = rest[i]!
    if (word === '--json') args.json = true
    else if (word === '--condition') args.condition = rest[++i] ?? ''
    else if (word.startsWith('--condition=')) args.condition = word.slice('--condition='.length)
    else if (VALUES.includes(word.slice(2).split('=')[0]!) && word.startsWith('--')) {
      const [name, value] = word.slice(2).split(/=(.*)/s)
      args.values[name!] = value ?? rest[++i] ?? ''
    } else if (word.startsWith('--') && FORMATS.includes(word.slice(2))) args.flags.add(word.slice(2))
    else if (word.startsWith('--')) args.unknown = word
    else if (args.file === undefined) args.file = word
    else args.unknown = word
  }
  return args
}

const out = (text: string) => process.stdout.write(text + '\n')
const complain = (text: string) => process.stderr.write(text + '\n')
const printJson = (value: unknown) => out(JSON.stringify(value, null, 2))

/** Reads a plan, or says why not; null where it cannot be read. */
function readPlanFile(args: Arguments): Plan | null {
  const refuse = (faults: Fault[]) => {
    if (args.json) printJson({ faults })
    complain(`${args.file} is not a plan that can be read:`)
    for (const f of faults) complain(`  ${f.path || '/'}: ${f.wrong}; right would be ${f.right}`)
    return null
  }
  if (args.file === undefined)
    return refuse([{ path: '', wrong: 'no plan file is named', right: `./run ${args.command} PLAN.json` }])
  let text: string
  try {
    text = readFileSync(args.file === '-' ? 0 : args.file, 'utf8')
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException
    return refuse([
      {
        path: '',
        wrong: code === 'ENOENT' ? 'there is no such file' : `the file cannot be opened (${code})`,
        right: 'the path of a wireman-plan file',
      },
    ])
  }
  const read = readPlanText(text)
  return read.ok ? read.plan : refuse(read.faults)
}

function check(args: Arguments): number {
  const plan = readPlanFile(args)
  if (!plan) return 2
  const { verdict, study } = judge(plan)
  const findings = verdict.findings.map(f => ({ finding: f, fixes: fixesOf(f, study, verdict) }))
  const bad = verdict.findings.some(f => f.severity === 'danger' || f.severity === 'fail')
  if (args.json) {
    printJson({
      findings: findings.map(({ finding: { key: _key, also, ...f }, fixes }) => ({ ...f, also: also ?? [], fixes })),
      passed: verdict.passed,
      arrivals: verdict.arrivals,
    })
    return bad ? 1 : 0
  }
  out(
    `${plan.name}: ` +
      `${findings.length ? `${findings.length} thing${findings.length > 1 ? 's' : ''} to mend` : 'nothing to mend'}, ` +
      `${verdict.passed.length} checks passed`,
  )
  for (const { finding: f, fixes } of findings) {
    out(
      `\n${f.severity.toUpperCase()}  ${f.title}   [${f.check} at ${f.place}${f.condition ? `, ${f.condition}` : ''}]`,
    )
    out(`  ${f.message}${f.otherSchool ? ` ${f.otherSchool}` : ''}`)
    out(`  ${f.why}`)
    for (const fix of fixes) out(`  → ${fix.label}${fixWords(fix)}`)
  }
  out('\nWireman says which checks a plan passed, no more. Local codes and a licensed electrician decide.')
  return bad ? 1 : 0
}

function fixWords(fix: ReturnType<typeof fixesOf>[number]): string {
  const arrivals = Object.entries(fix.after.arrivals).map(([id, v]) =>
    v ? `${id} gets ${v.lowV.toFixed(2)}–${v.highV.toFixed(2)} V` : `${id} gets nothing`,
  )
  return [
    '',
    fix.cost,
    arrivals.slice(0, 4).join(', '),
    fix.after.solves ? '' : 'does not mend it alone',
    fix.after.worse.length ? `brings: ${fix.after.worse.map(w => w.title).join(', ')}` : '',
  ]
    .filter((w, i) => i === 0 || w)
    .join('  ·  ')
}

function solve(args: Arguments): number {
  const plan = readPlanFile(args)
  if (!plan) return 2
  const condition = args.condition === undefined ? undefined : findCondition(plan, args.condition)
  if (typeof condition === 'string') {
    if (args.json)
      printJson({
        faults: [{ path: '--condition', wrong: `there is no condition ${args.condition}`, right: condition }],
      })
    complain(condition)
    return 2
  }
  const solved = solveMatrix(plan, condition ? [condition] : conditionsOf(plan))
  const points = solved.points.map(p => namePoint(solved.network, p))
  if (args.json) printJson(condition ? points[0] : points)
  else points.forEach(printPoint)
  return 0
}

function printPoint(point: NamedPoint) {
  out(
    `${point.condition}: ` +
      `${point.status}${point.most ? ` (at most ${(100 * point.most.share).toFixed(0)} % of its ${point.most.of} could be carried)` : ''}`,
  )
  if (point.status !== 'ok') return
  for (const [id, n] of Object.entries(point.nodes)) out(`  ${id.padEnd(16)} ${n.volts!.toFixed(3).padStart(8)} V`)
  for (const [id, l] of Object.entries(point.leads)) {
    out(
      `  ${id.padEnd(16)} ${figure(l.amps!, 2).padStart(8)} A  ${l.dropV!.toFixed(3)} V  ${l.watts!.toFixed(1)} ` +
        `W  ${l.conductorC!.toFixed(0)} °C`,
    )
  }
}

const seconds = (s: number | null) =>
  s === null ? 'never' : s >= 1 ? `${Number(s.toPrecision(2))} s` : `${Number((1000 * s).toPrecision(2))} ms`

function short(args: Arguments): number {
  const plan = readPlanFile(args)
  if (!plan) return 2
  const study = shortStudy(plan)
  const bad = study.shorts.some(s => s.prospectiveA > 1 && !(s.clears && s.survives))
  if (args.json) {
    printJson(study)
    return bad ? 1 : 0
  }
  const line = (s: Short) => {
    const where = s.kind === 'terminal' ? s.at : `${s.lead}, its end at ${s.at}`
    const [first] = s.opens
    const opens = first
      ? `${deviceWords(plan, first)} opens first, after ${seconds(first.fastestS)} to ${seconds(first.slowestS)}`
      : s.clears
        ? 'the source limits itself'
        : 'nothing opens'
    return (
      `${where.padEnd(26)} ${s.known ? '' : 'over '}${s.prospectiveA.toFixed(0)} A  ` +
      `${opens}${s.survives ? '' : '; a conductor burns'}${s.opensWith[0] ? `; the ${deviceWords(plan, s.opensWith[0])} may open with it` : ''}`
    )
  }
  for (const s of study.shorts) out(line(s))
  out('\nBefore the first fuse:')
  for (const u of study.unprotected)
    out(
      `  ${u.lead.padEnd(16)} ${u.lengthM.toFixed(2)} m from ` +
        `${u.source}${u.prospectiveA === null ? '' : `, up to ${u.prospectiveA.toFixed(0)} A`}`,
    )
  for (const i of study.isolation)
    out(`${i.words} open: ${i.dead.length ? `dead ${i.dead.join(', ')}; ` : ''}still live ${i.live.join(', ')}`)
  out(
    '\nProspective currents, contacts new; no protection by a management system is assumed. Local codes and a ' +
      'licensed electrician decide.',
  )
  return bad ? 1 : 0
}

/** The shelf's CSV named by --shelf; null where it cannot be read, empty where none is named. */
function readShelf(args: Arguments): ShelfItem[] | null {
  const { shelf } = args.values
  if (shelf === undefined) return []
  let text: string
  try {
    text = readFileSync(shelf, 'utf8')
  } catch {
    complain(`There is no file ${shelf}; --shelf wants a shelf's CSV.`)
    return null
  }
  const read = shelfFromCsv(text, n => `i${n + 1}`)
  if (read.ok) return read.items
  complain(`${shelf} is not a shelf that can be read:`)
  for (const f of read.faults) complain(`  line ${f.line}: ${f.wrong}; right would be ${f.right}`)
  return null
}

function size(args: Arguments): number {
  const plan = readPlanFile(args)
  const shelf = readShelf(args)
  if (!plan || !shelf) return 2
  const aim = args.values.for ?? 'weight'
  if (!['weight', 'cost', 'drop'].includes(aim)) {
    complain(`--for ${aim}: one of weight, cost, drop.`)
    return 2
  }
  const { row } = args.values
  if (row !== undefined && !plan.parts.some(p => p.id === row)) {
    complain(`There is no load ${row} in this plan: ${plan.parts.map(p => p.id).join(', ')}.`)
    return 2
  }
  const owned =
    args.values.shelf === undefined
      ? undefined
      : shelf.flatMap((i): Stock[] =>
          i.what === 'conductor'
            ? [
                {
                  conductor: {
                    ...(i.awg !== undefined && { awg: i.awg }),
                    ...(i.mm2 !== undefined && { mm2: i.mm2 }),
                    ...(i.insulationC !== undefined && { insulationC: i.insulationC }),
                  },
                  metres: i.metres,
                  ...(i.cost !== undefined && { costPerM: i.cost }),
                },
              ]
            : [],
        )
  const result = sizePlan(plan, { for: aim as Aim, ...(row !== undefined && { row }), ...(owned && { owned }) })
  if (args.json) printJson(result)
  else if (!result.plan) result.obstacles.forEach(o => complain(o))
  else {
    for (const c of result.changes) out(c.words)
    if (!result.changes.length) out('nothing to change')
    const { before, after } = result
    out(
      `conductors ${before.grams.toFixed(0)} g → ${after!.grams.toFixed(0)} g, about ${before.cost.toFixed(0)} ` +
        `→ ${after!.cost.toFixed(0)}, worst drop ${(100 * before.worstDropShare).toFixed(1)} % → ` +
        `${(100 * after!.worstDropShare).toFixed(1)} ` +
        `%${result.exact ? '' : ' (not proven least: the plan is no tree, or a stock ran short)'}`,
    )
  }
  return result.plan ? 0 : 1
}

async function exportPlan(args: Arguments): Promise<number> {
  const plan = readPlanFile(args)
  const shelf = readShelf(args)
  if (!plan || !shelf) return 2
  const formats = [...args.flags]
  if (formats.length > 1 || (!formats.length && !args.json)) {
    complain(`Name one format: ${FORMATS.map(f => `--${f}`).join(', ')}, --json.`)
    return 2
  }
  const labels = LABEL_FORMATS.find(f => f.id === (args.values.labels ?? 'sheet'))
  if (!labels) {
    complain(`--labels ${args.values.labels}: one of ${LABEL_FORMATS.map(f => f.id).join(', ')}.`)
    return 2
  }
  const sheet = () => buildSheet(plan, shelf)
  const make = async (): Promise<string | Uint8Array | null> => {
    switch (formats[0]) {
      case 'spice': {
        const condition = findCondition(plan, args.condition ?? conditionsOf(plan)[0]!.id)
        if (typeof condition === 'string') {
          complain(condition)
          return null
        }
        return spiceNetlist(plan, condition)
      }
      case 'cut-csv':
        return cutListCsv(sheet())
      case 'parts-csv':
        return partsCsv(sheet())
      case 'shopping-csv':
        return shoppingCsv(sheet().shopping)
      case 'svg': {
        const { verdict, study } = judge(plan)
        return pathSvg(plan, verdict, shownOf(study, verdict))
      }
      // The PDF maker is large and rarely wanted: it is loaded only then.
      case 'pdf':
        return (await import('../core/formats/pdf')).buildSheetPdf(
          sheet(),
          args.values.paper === 'letter' ? 'letter' : 'a4',
        )
      case 'labels-svg':
        return labelsSvg(sheet().labels, labels)
      case 'labels-pdf':
        return (await import('../core/formats/pdf')).labelsPdf(sheet().labels, labels)
      default:
        return writePlan(plan)
    }
  }
  const made = await make()
  if (made === null) return 2
  if (args.values.out) writeFileSync(args.values.out, made)
  else process.stdout.write(made)
  return 0
}

/** Says why a file or figure cannot be read, in words or as JSON. */
function refuseInput(args: Arguments, path: string, wrong: string, right: string): number {
  if (args.json) printJson({ faults: [{ path, wrong, right }] })
  complain(`${path}: ${wrong}; right would be ${right}`)
  return 2
}

function comb(args: Arguments): number {
  const path = args.file ?? ''
  let bytes: Buffer
  try {
    bytes = readFileSync(args.file === '-' ? 0 : path)
  } catch {
    return refuseInput(
      args,
      path || 'comb',
      args.file === undefined ? 'no file is named' : 'there is no such file',
      'a tone list, a spectrum or a WAV recording',
    )
  }
  const centreHz = Number(args.values['centre-hz'] ?? 0)
  if (!Number.isFinite(centreHz) || centreHz < 0)
    return refuseInput(args, '--centre-hz', `it is ${args.values['centre-hz']}`, 'a frequency in Hz')
  let heard: Heard | null
  if (bytes.subarray(0, 4).toString('latin1') === 'RIFF' || /\.wav$/i.test(path)) {
    const read = readWav(new Uint8Array(bytes))
    if (!read.ok) return refuseInput(args, path, read.wrong, read.right)
    heard = hearRecording(read.recording, centreHz)
    if (!heard) return refuseInput(args, path, 'the recording is too short', 'at least a second')
  } else {
    const read = readTonesCsv(bytes.toString('utf8'))
    if (!read.ok) return refuseInput(args, `${path}, line ${read.line}`, read.wrong, read.right)
    heard = read.kind === 'tones' ? hearTones(read.tones) : hearSpectrum(read.bins)
  }
  const { combs, broadcast, unexplained, tones } = heard
  if (args.json)
    printJson({ combs: combs.map(({ lines, ...c }) => ({ ...c, lines })), broadcast, unexplained, tones: tones.length })
  else {
    out(`${tones.length} tones, ${combs.length} comb${combs.length === 1 ? '' : 's'}`)
    for (const c of combs) {
      out(
        `${(c.spacingHz / 1000).toFixed(3)} kHz ± ${c.uncertaintyHz.toFixed(1)} Hz, ` +
          `${(100 * c.confidence).toFixed(1)} % sure, ${c.lines.length} lines, ${c.missing} ` +
          `missing${c.oddOnly ? `; odd multiples of ${(c.fundamentalHz! / 1000).toFixed(3)} kHz only` : c.fundamentalHz ? `; multiples ${c.lines[0]!.harmonic} to ${c.lines.at(-1)!.harmonic} of ` + `${(c.fundamentalHz / 1000).toFixed(3)} kHz` : ''}`,
      )
    }
    if (broadcast)
      out(
        `${broadcast.lines.length} carriers on the broadcasters' ${broadcast.spacingHz / 1000} kHz raster: no ` +
          "fault of the station's",
      )
    if (unexplained.length) out(`belong to none: ${unexplained.map(hz => (hz / 1000).toFixed(1)).join(', ')} kHz`)
  }
  return 0
}

function choke(args: Arguments): number {
  const figures: Record<string, number> = {}
  for (const name of [
    'initial-permeability',
    'relaxation-hz',
    'od-mm',
    'id-mm',
    'height-mm',
    'cores',
    'turns',
    'frequency-hz',
  ]) {
    const value = Number(args.values[name])
    if (args.values[name] === undefined || !Number.isFinite(value) || value <= 0)
      return refuseInput(
        args,
        `--${name}`,
        args.values[name] === undefined ? 'it is not given' : `it is ${args.values[name]}`,
        'a number above 0',
      )
    figures[name] = value
  }
  if (figures['id-mm']! >= figures['od-mm']!)
    return refuseInput(
      args,
      '--id-mm',
      `${figures['id-mm']} is not under the outside of ${figures['od-mm']}`,
      'a hole smaller than the core',
    )
  const strayF = Number(args.values['stray-pf'] ?? 0) * 1e-12
  const wound = {
    initialPermeability: figures['initial-permeability']!,
    relaxationHz: figures['relaxation-hz']!,
    odMm: figures['od-mm']!,
    idMm: figures['id-mm']!,
    heightMm: figures['height-mm']!,
    cores: figures.cores!,
    turns: figures.turns!,
  }
  const f = figures['frequency-hz']!
  const [sourceOhm, loadOhm] = [Number(args.values['source-ohm'] ?? 50), Number(args.values['load-ohm'] ?? 50)]
  const z = strayF > 0 ? impedance({ ...wound, strayF }, f) : coreImpedance(wound, f)
  const usual = impedance(wound, f)
  const loop = complex(sourceOhm + loadOhm)
  const result = {
    inductanceH: inductance(wound),
    frequencyHz: f,
    impedance: { realOhm: z.re, imaginaryOhm: z.im, magnitudeOhm: magnitude(z) },
    insertionLossDb: insertionLossDb(z, loop),
    sourceOhm,
    loadOhm,
    withWindingCapacitance: {
      strayPf: strayFarad(wound) * 1e12,
      realOhm: usual.re,
      imaginaryOhm: usual.im,
      magnitudeOhm: magnitude(usual),
      insertionLossDb: insertionLossDb(usual, loop),
      peakHz: peakHz(wound),
    },
  }
  if (args.json) printJson(result)
  else
    out(
      `${(result.inductanceH * 1e6).toPrecision(4)} µH; at ${(f / 1e6).toPrecision(4)} MHz ${z.re.toFixed(0)} ` +
        `${z.im < 0 ? '−' : '+'} j${Math.abs(z.im).toFixed(0)} Ω (${magnitude(z).toFixed(0)} Ω), ` +
        `${result.insertionLossDb.toFixed(1)} dB between ${sourceOhm} Ω and ${loadOhm} Ω; with ` +
        `${result.withWindingCapacitance.strayPf.toFixed(1)} pF across the winding ${magnitude(usual).toFixed(0)} ` +
        'Ω',
    )
  return 0
}

async function main(): Promise<number> {
  const args = readArguments(process.argv.slice(2))
  if (args.unknown !== undefined) {
    complain(`There is no ${args.unknown} here.\n\n${HELP}`)
    return 2
  }
  switch (args.command) {
    case 'check':
      return check(args)
    case 'solve':
      return solve(args)
    case 'short':
      return short(args)
    case 'size':
      return size(args)
    case 'export':
      return exportPlan(args)
    case 'comb':
      return comb(args)
    case 'choke':
      return choke(args)
    case 'schema':
      printJson(planJsonSchema())
      return 0
    case 'help':
      out(HELP)
      return 0
    default:
      complain(`There is no command ${args.command}.\n\n${HELP}`)
      return 2
  }
}

process.exitCode = await main()
