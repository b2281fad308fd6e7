import type { Plan } from '../../core/plan/schema'
import { shortStudy, type Short } from '../../core/short/study'
import { deviceWords, isBad, OUTCOME_WORDS, outcomeOf } from '../../core/short/words'
import { metres, seconds } from '../../core/units/show'
import { out, printJson, type Command } from '../command'
import { readPlan } from '../inputs'
import { fixed } from '../../core/units/number'

export const short: Command = {
  name: 'short',
  takes: 'PLAN.json',
  options: { json: {} },
  help: `A dead short at every terminal and lead end: prospective current, what opens first and when, what survives,
selectivity, unprotected lengths, what is still live with each breaker or switch open.
Exit 1: a conductor burns, or something goes on elsewhere than at a source's own post, which no fuse protects.`,
  run(call) {
    const plan = readPlan(call)
    const study = shortStudy(plan)
    const exit = study.shorts.some(isBad) ? 1 : 0
    if (call.json) {
      printJson(study)
      return exit
    }
    for (const s of study.shorts) out(shortLine(plan, s))
    out('\nBefore the first fuse:')
    for (const u of study.unprotected) {
      const upTo = u.prospectiveA === null ? '' : `, up to ${fixed(u.prospectiveA, 0)} A`
      out(`  ${u.lead.padEnd(16)} ${metres(u.lengthM)} from ${u.source}${upTo}`)
    }
    for (const { words, dead, live } of study.isolation)
      out(`${words} open: ${dead.length ? `dead ${dead.join(', ')}; ` : ''}still live ${live.join(', ')}`)
    out(
      '\nProspective currents, contacts new; no protection by a management system is assumed. ' +
        'Local codes and a licensed electrician decide.',
    )
    return exit
  },
}

function shortLine(plan: Plan, s: Short): string {
  const where = s.kind === 'terminal' ? s.at : `${s.lead}, its end at ${s.at}`
  const [also] = s.opensWith
  const said = [openingWords(plan, s), endWords(s), also ? `the ${deviceWords(plan, also)} may open with it` : '']
  const amps = `${s.known ? '' : 'over '}${fixed(s.prospectiveA, 0)} A`
  return `${where.padEnd(26)} ${amps}  ${said.filter(Boolean).join('; ')}`
}

/** What it comes to, where it is not cut off and that is not said yet. */
function endWords(s: Short): string {
  const outcome = outcomeOf(s)
  const isSaid = outcome === 'cleared' || outcome === 'dead' || (outcome === 'stays' && !s.opens.length)
  return isSaid ? '' : OUTCOME_WORDS[outcome]
}

function openingWords(plan: Plan, { opens: [first], clears }: Short): string {
  if (first)
    return `${deviceWords(plan, first)} opens first, after ${seconds(first.fastestS)} to ${seconds(first.slowestS)}`
  return clears ? 'the source limits itself' : 'nothing opens'
}
