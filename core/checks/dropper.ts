import { conditionWords } from '../circuit/conditions'
import { arrivalSpan } from '../circuit/matrix'
import { compile, isFed } from '../circuit/network'
import { setItem } from '../edit/items'
import { applyEdit } from '../edit/patch'
import { solvedAfter } from '../fixes/conductor'
import { gives, isLoad, needs } from '../kinds/index'
import type { Dropper } from '../kinds/inline'
import { leadName, partById } from '../plan/find'
import type { Lead } from '../plan/schema'
import { against, amps, volts } from '../units/show'
import { anA, capital, someOf } from '../units/words'
import type { Check, Found } from './check'
import type { Study } from '../study/study'
import { asGiven } from '../units/number'

type Placed = { lead: Lead; item: Dropper }

const droppersOf = (study: Study): Placed[] =>
  study.plan.leads.flatMap(lead =>
    (lead.inline ?? []).flatMap(item => (item.kind === 'dropper' ? [{ lead, item }] : [])),
  )

const dropperIn = (study: Study, leadId: string) => droppersOf(study).find(d => d.lead.id === leadId)!

/** Most diodes that the plan's format takes in a row. */
const MOST_IN_SERIES = 8

export const dropperIdle: Check = {
  id: 'dropper-idle',
  severities: ['fail'],
  looksAt: 'all in which the load behind the diode idles and the source is highest',
  title: 'Dropper diode drops too little at idle',
  why:
    'A diode drops least when least flows, so what it takes off while transmitting is no proof: the radio sees ' +
    'its highest voltage when it only listens.',
  source: 'the exponential law of a silicon diode',
  find: study =>
    droppersOf(study).flatMap(({ lead }): Found[] => {
      const load = study.loads.find(l => lead.to === l.id || lead.from === l.id)
      const span = load && study.arrival(load.id)
      if (!load || !span || span.high.value <= needs(load).maxV + 1e-6) return []
      const stairs = study.staircase(load.id, span.high.condition)
      const dropV =
        stairs?.steps.filter(s => s.kind === 'diode' && s.place === lead.id).reduce((v, s) => v + s.dropV, 0) ?? 0
      const branch = study.solved.network.branchOfLead.get(lead.id)!
      const flowing = Math.abs(study.point(span.high.condition)!.amps[branch]!)
      return [
        {
          severity: 'fail',
          place: lead.id,
          also: [load.id],
          condition: span.high.condition,
          title: `Diode drops only ${volts(dropV)} at idle`,
          message:
            `With ${conditionWords(study.plan, span.high.condition)} only ${amps(flowing)} flows and the diode in ` +
            `${leadName(lead)} drops ${volts(dropV)}; ${against(volts, span.high.value, needs(load).maxV)} ` +
            `still reaches ${study.name(load)}, ` +
            `whose limit is ${volts(needs(load).maxV)}.`,
          numbers: { dropV, amps: flowing, arrivesV: span.high.value, maxV: needs(load).maxV },
        },
      ]
    }),
  fixes: (found, study) => {
    const { lead, item } = dropperIn(study, found.place)
    const now = item.count ?? 1
    const more = Array.from({ length: 3 }, (_, i) => now + 1 + i).filter(n => n <= MOST_IN_SERIES)
    for (const count of more) {
      const patch = setItem(study.plan, lead.id, item.id, { count })
      const solved = solvedAfter(study.plan, patch)
      const span = solved && arrivalSpan(solved, found.also![0]!)
      if (span && span.high.value <= found.numbers.maxV!) return [{ label: `${count} diodes in series`, patch }]
    }
    return []
  },
}

export const dropperRating: Check = {
  id: 'dropper-rating',
  severities: ['danger'],
  looksAt: 'all; the largest current through each dropper',
  title: 'Dropper diode over its current',
  why:
    'A diode over its current overheats inside its adapter and fails, most often to a short: then the full ' +
    'voltage reaches the radio.',
  source: "the diode's data sheet (average forward current)",
  find: study =>
    droppersOf(study).flatMap(({ lead, item }): Found[] => {
      const ratedA = item.ratedA ?? 1
      const { value, condition } = study.leadAmps(lead)
      if (value <= ratedA + 1e-9) return []
      return [
        {
          severity: 'danger',
          place: lead.id,
          condition,
          title: `${against(amps, value, ratedA)} through ${anA(amps(ratedA))} diode`,
          message:
            `${against(amps, value, ratedA)} flows through the dropper in ${leadName(lead)} with ` +
            `${conditionWords(study.plan, condition)}; it is rated ${amps(ratedA)}.`,
          numbers: { amps: value, ratedA },
        },
      ]
    }),
  fixes: (found, study) => {
    const { lead, item } = dropperIn(study, found.place)
    const ratedA = [3, 6, 10, 20, 30, 50].find(a => a >= 1.2 * found.numbers.amps!)
    if (ratedA === undefined) return []
    const label = capital(anA(`${asGiven(ratedA)} A diode in its place`))
    return [{ label, patch: setItem(study.plan, lead.id, item.id, { ratedA }) }]
  },
}

/** The load at the end of a lead whose diode points away from it. */
function loadBehind(study: Study, { lead, item }: Placed): string[] {
  const load = study.loads.find(l => lead.to === l.id || lead.from === l.id)
  return load && lead[item.stripe ?? 'to'] !== load.id ? [load.id] : []
}

const turned = (study: Study, { lead, item }: Placed) =>
  setItem(study.plan, lead.id, item.id, { stripe: item.stripe === 'from' ? 'to' : 'from' })

/** Parts that nothing feeds, and that would be fed were the diode the other way round. */
function fedByTurning(study: Study, placed: Placed): string[] {
  const dark = study.plan.parts.filter(p => !gives(p) && !isFed(study.solved.network, p.id))
  const edit = dark.length ? applyEdit(study.plan, turned(study, placed)) : null
  if (!edit?.ok) return []
  const network = compile(edit.plan)
  return dark.filter(p => isFed(network, p.id)).map(p => p.id)
}

/** Diodes the wrong way round, each with the parts that it blocks. */
export const wrongWay = (study: Study): { placed: Placed; blocks: string[] }[] =>
  droppersOf(study)
    .map(placed => ({ placed, blocks: [...new Set([...loadBehind(study, placed), ...fedByTurning(study, placed)])] }))
    .filter(d => d.blocks.length > 0)

export const dropperDirection: Check = {
  id: 'dropper-direction',
  severities: ['fail'],
  looksAt: 'all',
  title: 'Dropper diode the wrong way round',
  why:
    'The stripe points toward the radio. The other way round nothing flows, and a diode of low rating breaks ' +
    'through.',
  source: 'the exponential law of a silicon diode',
  find: study =>
    wrongWay(study).map(({ placed: { lead, item }, blocks }): Found => {
      const parts = blocks.map(id => partById(study.plan, id)!)
      const loads = parts.filter(isLoad)
      const names = someOf((loads.length ? loads : parts).map(study.name))
      return {
        severity: 'fail',
        place: lead.id,
        item: item.id,
        also: blocks,
        condition: null,
        title: 'Diode the wrong way round',
        message: `The stripe of the diode in ${leadName(lead)} points away from ${names}: it blocks.`,
        numbers: {},
      }
    }),
  fixes: (found, study) => {
    const placed = droppersOf(study).find(d => d.lead.id === found.place && d.item.id === found.item)!
    return [{ label: 'Turn the diode round', patch: turned(study, placed) }]
  },
}
