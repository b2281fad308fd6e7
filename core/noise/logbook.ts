import { z } from 'zod'
import { SITE_CLASSES, type SiteClass } from '../catalog/noise'
import { id, words } from '../kinds/fields'
import type { Plan } from '../plan/schema'
import { NEEDS } from './test'
import { believe, type Belief } from './belief'
import { causesOf, type Causes } from './cause'
import { isPart } from './suspect'
import { cureObservation, cureSchema, type TriedCure } from './cure'
import { observationSchema, type Observation } from './observation'
import { surveySchema } from './survey/survey'
import { surveyObservations } from './survey/surveyEvidence'

/** The station's noise logbook, `wireman-noise` version 1: surveys, and one case a complaint. */

export const receiverSchema = z.strictObject({
  bandwidthHz: z.number().gt(0).max(1e6).optional().describe('unsaid: 2700'),
  attenuatorDb: z.number().min(0).max(60).optional(),
  calibration: z
    .array(z.strictObject({ shown: z.string().max(20), dbm: z.number().min(-200).max(30) }))
    .max(60)
    .optional()
    .describe('what the meter shows, and the level that is there'),
})

export const caseSchema = z.strictObject({
  format: z.literal('wireman-noise-case').optional().describe('said in a file of its own'),
  version: z.literal(1).optional(),
  id,
  title: words,
  openedAt: z.string().max(40),
  who: words.optional(),
  complaint: z.strictObject({
    bands: z.array(words).max(40),
    sound: z.enum(['hiss', 'tones', 'buzz', 'whine']).optional(),
    words: z.string().max(2000).optional(),
  }),
  radio: id.optional(),
  observations: z.array(observationSchema).max(500),
  skipped: z
    .array(
      z.strictObject({ test: z.string().max(80), why: z.enum(['cannot-now', 'will-not']), at: z.string().max(40) }),
    )
    .max(200)
    .optional()
    .describe('tests that were proposed and not made'),
  cures: z.array(cureSchema).max(200),
  state: z.enum(['open', 'cured', 'left']),
  practice: z
    .strictObject({
      seed: z
        .int()
        .min(0)
        .max(2 ** 31),
      named: z.strictObject({ device: z.string().max(40), way: z.string().max(40) }).optional(),
    })
    .optional()
    .describe('a made-up fault of the simulated receiver'),
})
export type NoiseCase = z.infer<typeof caseSchema>

export const logbookSchema = z.strictObject({
  format: z.literal('wireman-noise'),
  version: z.literal(1),
  site: z.enum(SITE_CLASSES.map(s => s.id) as [SiteClass, ...SiteClass[]]),
  receiver: receiverSchema.describe('where a survey or case names none of the receivers'),
  receivers: z.partialRecord(id, receiverSchema).optional().describe('by the id of the radio'),
  atHand: z.array(z.enum(NEEDS)).max(NEEDS.length),
  surveys: z.array(surveySchema).max(100),
  cases: z.array(caseSchema).max(200),
})
export type Logbook = z.infer<typeof logbookSchema>

/** An id not yet taken in a list: c1, c2 … */
export function freshId(stem: string, taken: readonly { id: string }[]): string {
  let n = taken.length + 1
  while (taken.some(t => t.id === `${stem}${n}`)) n++
  return `${stem}${n}`
}

/** Of what nearly every station has. */
const USUAL: Logbook['atHand'] = ['sun', 'load', 'mains', 'dummy load', 'spare battery', 'waterfall']

export const emptyLogbook = (): Logbook => ({
  format: 'wireman-noise',
  version: 1,
  site: 'rural',
  receiver: {},
  atHand: USUAL,
  surveys: [],
  cases: [],
})

/** The receiver of a radio: its own calibration, else the logbook's. */
export const receiverOf = (logbook: Logbook, radio: string | undefined): Logbook['receiver'] =>
  (radio !== undefined && logbook.receivers?.[radio]) || logbook.receiver

/**
 * Everything that bears on a case: its own log, the surveys of the station, the cures it has tried. A practice case
 * stands alone.
 */
export function evidenceOf(noiseCase: NoiseCase, logbook: Logbook, causes: Causes): Observation[] {
  const { bands } = noiseCase.complaint
  const surveys = noiseCase.practice
    ? []
    : logbook.surveys.flatMap(s =>
        surveyObservations(
          s,
          bands,
          causes.devices.filter(d => isPart(d.id)),
          { site: logbook.site, receiver: receiverOf(logbook, s.radio) },
        ),
      )
  const cures = noiseCase.cures.flatMap(c => cureObservation(c, receiverOf(logbook, noiseCase.radio)) ?? [])
  return [...surveys, ...noiseCase.observations, ...cures]
}

/** Devices that findings speak of. */
function namedIn(observations: readonly Observation[]): string[] {
  return observations.flatMap(o => {
    if (o.kind === 'sniff') return o.loudest === 'none' ? [] : [o.loudest]
    if (o.kind === 'own') return [o.concerns]
    if (o.kind === 'comb') return []
    const at = (o.setup.added ?? []).map(a => a.at).filter(id => id !== 'radio')
    return [...Object.keys(o.setup.devices ?? {}), ...at, ...(o.current ? [o.current.device] : [])]
  })
}

export interface Reasoned {
  causes: Causes
  evidence: Observation[]
  belief: Belief
}

export function reason(plan: Plan, noiseCase: NoiseCase, logbook: Logbook): Reasoned {
  const surveyed = noiseCase.practice ? [] : logbook.surveys.flatMap(s => s.rows.flatMap(r => Object.keys(r.devices)))
  const causes = causesOf(plan, noiseCase.complaint, [...namedIn(noiseCase.observations), ...surveyed])
  const evidence = evidenceOf(noiseCase, logbook, causes)
  return { causes, evidence, belief: believe(causes, evidence) }
}

export type CaseResult = { ok: true; case: NoiseCase } | { ok: false; wrong: string; right: string }

/** Reads a case from a file. Never throws. */
export function readCaseText(text: string): CaseResult {
  const RIGHT = 'a case as Wireman exports it (wireman-noise-case, version 1)'
  if (!text.trim()) return { ok: false, wrong: 'the file is empty', right: RIGHT }
  let value: unknown
  try {
    value = JSON.parse(text.replace(/^\uFEFF/, ''))
  } catch {
    return { ok: false, wrong: 'the file is not JSON', right: RIGHT }
  }
  const heading = value as { format?: unknown; version?: unknown } | null
  if (heading?.format !== 'wireman-noise-case')
    return {
      ok: false,
      wrong: `format is ${JSON.stringify(heading?.format) ?? 'missing'}`,
      right: '"wireman-noise-case"',
    }
  if (typeof heading.version === 'number' && heading.version > 1)
    return {
      ok: false,
      wrong: `version ${heading.version} is newer than this program reads`,
      right: 'version 1, or a newer Wireman',
    }
  const parsed = caseSchema.safeParse(value)
  if (parsed.success) return { ok: true, case: parsed.data }
  const issue = parsed.error.issues[0]!
  return { ok: false, wrong: `${issue.path.join('.') || 'the file'}: ${issue.message}`, right: RIGHT }
}

export const writeCase = (noiseCase: NoiseCase) =>
  JSON.stringify(caseSchema.parse({ ...noiseCase, format: 'wireman-noise-case', version: 1 }), null, 2) + '\n'

/**
 * Cures of a logbook with the kind of device they were tried on: the one believed in their case. Practice does not
 * count.
 */
export function triedCures(plan: Plan, logbook: Logbook): TriedCure[] {
  return logbook.cases
    .filter(c => !c.practice && c.cures.length)
    .flatMap(c => {
      const { device } = reason(plan, c, logbook).belief.pairs[0]!
      const kindOf = (id: string) => plan.parts.find(p => p.id === id)?.kind
      return c.cures.map(cure => ({
        cure,
        deviceKind: kindOf(cure.where === 'radio' ? device : cure.where) ?? kindOf(device) ?? device,
        station: plan.name,
      }))
    })
}

/**
 * A case for each of its bands, each with the findings and cures that were heard there: noise may come in by another
 * way on each.
 */
export function splitByBand(noiseCase: NoiseCase, freeId: (n: number) => string): NoiseCase[] {
  return noiseCase.complaint.bands.map((band, n) => ({
    ...noiseCase,
    id: freeId(n),
    title: `${noiseCase.title}: ${band}`.slice(0, 200),
    complaint: { ...noiseCase.complaint, bands: [band] },
    observations: noiseCase.observations
      .filter(o => !o.bands?.length || o.bands.includes(band))
      .map(o => (o.bands?.length ? { ...o, bands: [band] } : o)),
  }))
}
