import { expectationsOf } from '../../core/commission/expected'
import { proceduresOf } from '../../core/commission/procedures'
import { settingFaults } from '../../core/commission/settings'
import { PHASES, type CommissionStep } from '../../core/commission/step'
import { commissionSteps, readingWords, takeDownSteps } from '../../core/commission/steps'
import { EMPTY_LOG, readLogText, type Log } from '../../core/log/log'
import type { Plan } from '../../core/plan/schema'
import { fixed } from '../../core/units/number'
import { out, printJson, Refusal, type Call, type Command } from '../command'
import { readPlan, readBytes } from '../inputs'

export const commission: Command = {
  name: 'commission',
  takes: 'PLAN.json',
  options: { log: { value: 'LOG.json' }, day: { value: 'YYYY-MM-DD' }, json: {} },
  help: `A plan brought to life, one step at a time: bench checks, each pack by itself, settings, the order of
connecting, then what each point should read idle, keyed and charging, and where one stops. With --log, a wireman-log
file: what was read on --day moves what the next points should read, and recorded settings are held against the plan.
Exit 1: a setting is not as it should be. Exit 2: it cannot be read.`,
  run(call) {
    const plan = readPlan(call)
    const log = logOf(call)
    const steps = commissionSteps(plan)
    const day = call.value('day') ?? log.readings.at(-1)?.time.slice(0, 10) ?? ''
    const expected = expectationsOf(plan, log, steps, day)
    const faults = settingFaults(plan, log)
    if (call.json) {
      const told = steps.map(s => ({ ...s, ...(expected[s.id] && { expected: expected[s.id] }) }))
      printJson({ steps: told, takeDown: takeDownSteps(plan), procedures: proceduresOf(plan), settings: faults })
    } else print(plan, { steps, expected, faults: faults.map(f => f.words) })
    return faults.length ? 1 : 0
  },
}

function logOf(call: Call): Log {
  const path = call.value('log')
  if (path === undefined) return EMPTY_LOG
  const read = readLogText(readBytes(path, 'the path of a wireman-log file').toString('utf8'))
  if (!read.ok) throw new Refusal(read.faults, `${path} cannot be taken:`)
  return read.log
}

interface Told {
  steps: CommissionStep[]
  expected: ReturnType<typeof expectationsOf>
  faults: string[]
}

function print(plan: Plan, { steps, expected, faults }: Told) {
  let phase = ''
  for (const [i, s] of steps.entries()) {
    if (s.phase !== phase) out(`${PHASES[s.phase]}`)
    phase = s.phase
    out(`${i + 1}. ${s.does}`)
    const at = expected[s.id]
    const figures = at ? ` ${fixed(at.expected, 2)} ± ${fixed(at.tolerance, 2)} V` : ''
    const words = s.reading ? ` (${readingWords(plan, s.reading.condition)}${figures})` : ''
    out(`   see: ${s.see}${words}`)
    out(`   stop if: ${s.stopIf}`)
    if (s.caution) out(`   mind: ${s.caution}`)
  }
  for (const f of faults) out(`setting: ${f}`)
}
