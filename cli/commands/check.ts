import { fixesOf, type Fix } from '../../core/verdict/fixes'
import { judge, type Finding } from '../../core/verdict/verdict'
import { volts } from '../../core/units/show'
import { counted } from '../../core/units/words'
import { out, printJson, type Command } from '../command'
import { readPlan } from '../inputs'
import { fixed } from '../../core/units/number'

export const check: Command = {
  name: 'check',
  takes: 'PLAN.json',
  options: { json: {} },
  help: `Findings, worst first, each with its fixes.
Exit 0: no finding of danger or fail; 1: there is one; 2: the plan cannot be read.`,
  run(call) {
    const plan = readPlan(call)
    const { verdict, study } = judge(plan)
    const findings = verdict.findings.map(f => ({ finding: f, fixes: fixesOf(f, study, verdict) }))
    const exit = verdict.findings.some(f => f.severity === 'danger' || f.severity === 'fail') ? 1 : 0
    if (call.json) {
      const listed = findings.map(({ finding: { key: _key, also, ...f }, fixes }) => ({
        ...f,
        also: also ?? [],
        fixes,
      }))
      printJson({ findings: listed, passed: verdict.passed, arrivals: verdict.arrivals })
      return exit
    }
    const toMend = findings.length ? `${counted(findings.length, 'thing')} to mend` : 'nothing to mend'
    out(`${plan.name}: ${toMend}, ${verdict.passed.length} checks passed`)
    for (const { finding, fixes } of findings) printFinding(finding, fixes)
    out('\nWireman says which checks a plan passed, no more. Local codes and a licensed electrician decide.')
    return exit
  },
}

function printFinding(f: Finding, fixes: readonly Fix[]) {
  const where = `${f.check} at ${f.place}${f.condition ? `, ${f.condition}` : ''}`
  out(`\n${f.severity.toUpperCase()}  ${f.title}   [${where}]`)
  out(`  ${f.message}${f.otherSchool ? ` ${f.otherSchool}` : ''}`)
  out(`  ${f.why}`)
  for (const fix of fixes) out(`  → ${[fix.label, ...fixWords(fix)].join('  ·  ')}`)
}

function fixWords({ cost, after }: Fix): string[] {
  const arrivals = Object.entries(after.arrivals).map(([id, v]) =>
    v ? `${id} gets ${fixed(v.lowV, 2)}–${volts(v.highV)}` : `${id} gets nothing`,
  )
  const brings = after.worse.map(w => w.title).join(', ')
  const words = [cost, arrivals.slice(0, 4).join(', '), brings && `brings: ${brings}`]
  return words.filter((w): w is string => Boolean(w))
}
