import { z } from 'zod'
import { loadsOf } from '../circuit/conditions'
import { jsonFault, pointer, schemaFaults, type Fault } from '../plan/faults'
import type { Plan } from '../plan/schema'
import { listed } from '../units/words'
import type { PowerCase, PowerFinding } from './believe'
import { metered } from './meter'
import { SYMPTOM_IDS } from './symptom'
import { POWER_TESTS, powerTest } from './tests'

export const SYMPTOM_FORMAT = 'wireman-symptom'

/** What was found: an outcome by its id, or the figure that a meter showed. */
export const powerFindingSchema = z.strictObject({
  test: z.string(),
  outcome: z.string().optional(),
  read: z.number().min(-10_000).max(10_000).optional().describe('what a meter showed, V, A or W by the test'),
  before: z
    .number()
    .min(-10_000)
    .max(10_000)
    .optional()
    .describe('the same with the key up, where a fall is asked for'),
})

/** The one definition of the open format of a power symptom, `wireman-symptom` version 1. */
export const symptomCaseSchema = z.strictObject({
  format: z.literal(SYMPTOM_FORMAT),
  version: z.literal(1),
  symptom: z.enum(SYMPTOM_IDS),
  at: z.string().optional().describe('the load that it is about'),
  findings: z.array(powerFindingSchema).max(200).optional(),
})

/** Reads a symptom for a plan from text. Never throws: every fault is listed. */
export function readSymptomText(
  text: string,
  plan: Plan,
): { ok: true; case: PowerCase } | { ok: false; faults: Fault[] } {
  let value: unknown
  try {
    value = JSON.parse(text.replace(/^\uFEFF/, ''))
  } catch (error) {
    const right = `a ${SYMPTOM_FORMAT} file`
    return {
      ok: false,
      faults: [{ path: '', wrong: `the file is not JSON: ${jsonFault(text, error as Error)}`, right }],
    }
  }
  const parsed = symptomCaseSchema.safeParse(value)
  if (!parsed.success) return { ok: false, faults: parsed.error.issues.flatMap(issue => schemaFaults(issue, value)) }
  const { symptom, at, findings = [] } = parsed.data
  const faults: Fault[] = []
  const loads = loadsOf(plan).map(l => l.id)
  if (at !== undefined && !loads.includes(at))
    faults.push({ path: '/at', wrong: `the plan has no load ${at}`, right: `one of ${listed(loads)}` })
  findings.forEach((finding, i) => {
    const fault = findingFault(finding)
    if (fault) faults.push({ ...fault, path: pointer(['findings', i, fault.path]) })
  })
  return faults.length
    ? { ok: false, faults }
    : { ok: true, case: { symptom, findings, ...(at !== undefined && { at }) } }
}

/** What is wrong with a finding; its path is the field. */
function findingFault({ test, outcome, read, before }: PowerFinding): Fault | null {
  const known = powerTest(test)
  const fault = (path: string, wrong: string, right: string) => ({ path, wrong, right })
  if (!known) return fault('test', `${test} is not known`, `one of ${listed(POWER_TESTS.map(t => t.id))}`)
  const outcomes = `one of ${listed(known.outcomes.map(o => o.id))}`
  if (read === undefined) {
    if (outcome === undefined) return fault('outcome', `${test} has no outcome`, `${outcomes}, or what a meter read`)
    return known.outcomes.some(o => o.id === outcome) ? null : fault('outcome', `${outcome} is not known`, outcomes)
  }
  const meter = metered(test)
  if (outcome !== undefined) return fault('outcome', `${test} has both an outcome and a figure`, 'one of them')
  if (!meter) return fault('read', `${test} is not told by a figure`, `its outcome: ${outcomes}`)
  if (meter.falls && before === undefined) return fault('before', `${test} asks how far it falls`, 'the volts before')
  return null
}
