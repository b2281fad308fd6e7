import { conditionWords } from '../circuit/conditions'
import { setField } from '../edit/set'
import { propose } from '../fixes/proposal'
import { leadById, leadName } from '../plan/find'
import { against, amps } from '../units/show'
import type { Check, Found } from './check'
import { anA, capital } from '../units/words'
import { asGiven } from '../units/number'

/** Over this share of its rating a switch is no longer only worn. */
const BURNS_AT = 1.5
/** Ratings that switches and meters are sold with, A. */
const SOLD_A = [5, 10, 15, 20, 30, 40, 50, 80, 100, 150, 200] as const

export const itemRating: Check = {
  id: 'item-rating',
  severities: ['danger', 'caution'],
  looksAt: 'all; switches and meters in leads that say what they carry',
  title: 'Switch or meter under the current of its lead',
  why: "A switch carries its lead's whole current through two small faces: over its rating they weld shut or burn.",
  source: "the item's label (ratedA)",
  find: study =>
    study.plan.leads.flatMap(lead =>
      (lead.inline ?? []).flatMap((item): Found[] => {
        if ((item.kind !== 'switch' && item.kind !== 'meter') || item.ratedA === undefined) return []
        const { value, condition } = study.leadAmps(lead)
        if (value <= item.ratedA + 1e-9) return []
        return [
          {
            severity: value > BURNS_AT * item.ratedA ? 'danger' : 'caution',
            place: lead.id,
            also: [item.id],
            condition,
            title: `${against(amps, value, item.ratedA)} through ${anA(item.kind)} for ${amps(item.ratedA)}`,
            message:
              `${against(amps, value, item.ratedA)} passes the ${item.kind} in ${leadName(lead)} with ` +
              `${conditionWords(study.plan, condition)}; it is made for ${amps(item.ratedA)}.`,
            numbers: { amps: value, ratedA: item.ratedA },
          },
        ]
      }),
    ),
  fixes: (found, study) => {
    const size = SOLD_A.find(a => a >= found.numbers.amps!)
    const lead = leadById(study.plan, found.place)!
    const at = lead.inline!.findIndex(i => i.id === found.also![0])
    if (!size || at < 0) return []
    const { kind } = lead.inline![at]!
    const patch = setField(study.plan, lead.id, `inline.${at}.ratedA`, size)
    return [propose(capital(anA(`${kind} for ${asGiven(size)} A`)), patch)]
  },
}
