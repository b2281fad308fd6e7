import type { Extreme } from '../circuit/matrix'
import { partIdOf } from '../plan/find'
import { sourceLimitA } from '../protection/prospective'
import type { Study } from '../study/study'
import type { Verdict } from '../verdict/verdict'

/** What a picture of a judged plan shows beside the verdict itself; by id. */
export interface Shown {
  /** Largest current of each lead, and its largest drop. */
  leads: Record<string, { amps: number; dropV: number; condition: string }>
  /** Voltages at each source's terminals over all conditions. */
  sources: Record<string, { low: Extreme; high: Extreme } | null>
  /** Metres before the first fuse, for each lead on a battery. */
  unprotected: Record<string, { lengthM: number; end: 'from' | 'to'; bad: boolean }>
}

const OF_FIRST_FUSE = ['fuse-missing', 'fuse-place']

export function shownOf(study: Study, verdict: Verdict): Shown {
  const bad = new Set(verdict.findings.filter(f => OF_FIRST_FUSE.includes(f.check)).map(f => f.place))
  return {
    leads: Object.fromEntries(
      study.plan.leads.map(lead => {
        const { value, condition } = study.leadAmps(lead)
        return [lead.id, { amps: value, dropV: study.leadDropV(lead), condition }]
      }),
    ),
    sources: Object.fromEntries(study.sources.map(part => [part.id, study.arrival(part.id)])),
    unprotected: Object.fromEntries(
      study.unprotected
        .filter(run => sourceLimitA(run.source) === null)
        .map(({ lead, source, device, lengthM }) => [
          lead.id,
          {
            lengthM: device ? lengthM : lead.lengthM,
            end: partIdOf(lead.from) === source.id ? 'from' : 'to',
            bad: bad.has(lead.id),
          },
        ]),
    ),
  }
}
