import { readFileSync } from 'node:fs'
import { conditionsOf, findCondition } from '../core/circuit/conditions'
import { solveMatrix } from '../core/circuit/matrix'
import { namePoint, type NamedPoint } from '../core/circuit/point'
import { readPlanText, type Fault } from '../core/plan/faults'
import { planJsonSchema, type Plan } from '../core/plan/schema'
import { fixesOf } from '../core/verdict/fixes'
import { judge } from '../core/verdict/verdict'
import { trim } from '../core/checks/check'

const HELP = `wireman: judges and solves a station's DC power path from the command line.

  ./run check PLAN.json [--json]
      Findings, worst first, each with its fixes. Exit 0: no finding of danger or fail; 1: there is one; 2: the plan cannot be read.
  ./run solve PLAN.json [--condition low/all] [--json]
      The operating point in one condition (sourceState/loadState), or in all of them. Exit 2: no such plan or condition.
  ./run schema
      The plan format as JSON Schema.

PLAN.json is a wireman-plan file; - reads it from standard input. --json prints JSON and nothing else.
`

interface Arguments { command: string, file?: string, json: boolean, condition?: string, unknown?: string }

function readArguments(argv: string[]): Arguments {
  const [command = 'help', ...rest] = argv
  const args: Arguments = { command, json: false }
  for (let i = 0; i < rest.length; i++) {
    const word = rest[i]!
    if (word === '--json') args.json = true
    else if (word === '--condition') args.condition = rest[++i] ?? ''
    else if (word.startsWith('--condition=')) args.condition = word.slice('--condition='.length)
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
  if (args.file === undefined) return refuse([{ path: '', wrong: 'no plan file is named', right: `./run ${args.command} PLAN.json` }])
  let text: string
  try {
    text = readFileSync(args.file === '-' ? 0 : args.file, 'utf8')
  }
  catch (error) {
    const { code } = error as NodeJS.ErrnoException
    return refuse([{ path: '', wrong: code === 'ENOENT' ? 'there is no such file' : `the file cannot be opened (${code})`, right: 'the path of a wireman-plan file' }])
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
  out(`${plan.name}: ${findings.length ? `${findings.length} thing${findings.length > 1 ? 's' : ''} to mend` : 'nothing to mend'}, ${verdict.passed.length} checks passed`)
  for (const { finding: f, fixes } of findings) {
    out(`\n${f.severity.toUpperCase()}  ${f.title}   [${f.check} at ${f.place}${f.condition ? `, ${f.condition}` : ''}]`)
    out(`  ${f.message}${f.otherSchool ? ` ${f.otherSchool}` : ''}`)
    out(`  ${f.why}`)
    for (const fix of fixes) out(`  → ${fix.label}${fixWords(fix)}`)
  }
  out('\nWireman says which checks a plan passed, no more. Local codes and a licensed electrician decide.')
  return bad ? 1 : 0
}

function fixWords(fix: ReturnType<typeof fixesOf>[number]): string {
  const arrivals = Object.entries(fix.after.arrivals).map(([id, v]) => v ? `${id} gets ${v.lowV.toFixed(2)}–${v.highV.toFixed(2)} V` : `${id} gets nothing`)
  return [
    '', fix.cost, arrivals.slice(0, 4).join(', '), fix.after.solves ? '' : 'does not mend it alone',
    fix.after.worse.length ? `brings: ${fix.after.worse.map(w => w.title).join(', ')}` : '',
  ].filter((w, i) => i === 0 || w).join('  ·  ')
}

function solve(args: Arguments): number {
  const plan = readPlanFile(args)
  if (!plan) return 2
  const condition = args.condition === undefined ? undefined : findCondition(plan, args.condition)
  if (typeof condition === 'string') {
    if (args.json) printJson({ faults: [{ path: '--condition', wrong: `there is no condition ${args.condition}`, right: condition }] })
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
  out(`${point.condition}: ${point.status}${point.most ? ` (at most ${(100 * point.most.share).toFixed(0)} % of its ${point.most.of} could be carried)` : ''}`)
  if (point.status !== 'ok') return
  for (const [id, n] of Object.entries(point.nodes)) out(`  ${id.padEnd(16)} ${n.volts!.toFixed(3).padStart(8)} V`)
  for (const [id, l] of Object.entries(point.leads)) {
    out(`  ${id.padEnd(16)} ${trim(l.amps!.toFixed(2)).padStart(8)} A  ${l.dropV!.toFixed(3)} V  ${l.watts!.toFixed(1)} W  ${l.conductorC!.toFixed(0)} °C`)
  }
}

function main(): number {
  const args = readArguments(process.argv.slice(2))
  if (args.unknown !== undefined) {
    complain(`There is no ${args.unknown} here.\n\n${HELP}`)
    return 2
  }
  switch (args.command) {
    case 'check': return check(args)
    case 'solve': return solve(args)
    case 'schema': printJson(planJsonSchema()); return 0
    case 'help': out(HELP); return 0
    default:
      complain(`There is no command ${args.command}.\n\n${HELP}`)
      return 2
  }
}

process.exitCode = main()
