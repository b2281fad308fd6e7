import type { Plan } from '../plan/schema'
import { studyOf, type Study } from '../study/study'
import { verdictOf, type Verdict } from '../verdict/verdict'
import { Ladders } from './candidates'

/** So many plans are kept, those that were come upon first let go. */
const MOST_KEPT = 200

export interface Judged {
  study: Study
  verdict: Verdict
}

/** Plans that sizing has looked at: it comes to the same one by many ways, and studies and judges it once. */
export class Looked {
  readonly ladders = new Ladders()
  private readonly studies = new Map<string, Study>()
  private readonly verdicts = new WeakMap<Study, Verdict>()

  study(plan: Plan): Study {
    const content = JSON.stringify(plan)
    const known = this.studies.get(content)
    if (known) return known
    const study = studyOf(plan)
    if (this.studies.size >= MOST_KEPT) this.studies.delete(this.studies.keys().next().value!)
    this.studies.set(content, study)
    return study
  }

  judge(plan: Plan): Judged {
    const study = this.study(plan)
    const verdict = this.verdicts.get(study) ?? verdictOf(study)
    this.verdicts.set(study, verdict)
    return { study, verdict }
  }
}
