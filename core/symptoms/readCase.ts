import { z } from 'zod'
import { loadsOf } from '../circuit/conditions'
import { jsonFault, pointer, schemaFaults, type Fault } from '../plan/faults'
import type { Plan } from '../plan/schema'
import { listed } from '../units/words'
import type { PowerCase } from './believe'
import { SYMPTOM_IDS } from './symptom'
import { POWER_TESTS, powerTest } from './tests'

export const SYMPTOM_FORMAT = 'wireman-symptom'

/** The one definition of the open format of a power symptom, `wireman-symptom` version 1. */
export const symptomCaseSchema = z.strictObject({
  format: z.literal(SYMPTOM_FORMAT),
  version: z.literal(1),
  symptom: z.enum(SYMPTOM_IDS),
  at: z.string().optional().describe('the load that it is about'),
  findings: z
    .array(z.strictObject({ test: z.string(), outcome: z.string() }))
    .max(200)
    .optional(),
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
  findings.forEach(({ test, outcome }, i) => {
    const known = powerTest(test)
    const right = known ? known.outcomes.map(o => o.id) : POWER_TESTS.map(t => t.id)
    if (known?.outcomes.some(o => o.id === outcome)) return
    const path = pointer(['findings', i, known ? 'outcome' : 'test'])
    faults.push({ path, wrong: `${known ? outcome : test} is not known`, right: `one of ${listed(right)}` })
  })
  return faults.length
    ? { ok: false, faults }
    : { ok: true, case: { symptom, findings, ...(at !== undefined && { at }) } }
}
