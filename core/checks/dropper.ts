import { conditionWords } from '../circuit/conditions'
import { arrivalSpan } from '../circuit/matrix'
import { setItem } from '../edit/items'
import { solvedAfter } from '../fixes/conductor'
import { needs } from '../kinds/index'
import type { Dropper } from '../kinds/inline'
import { leadName, nameOf } from '../plan/find'
import type { Lead } from '../plan/schema'
import { amps, volts } from '../units/show'
import type { Check, Found } from './check'
import type { Study } from '../study/study'

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
            `${leadName(lead)} drops ${volts(dropV)}; ${volts(span.high.value)} still reaches ${nameOf(load)}, ` +
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
          title: `${amps(value)} through a ${amps(ratedA)} diode`,
          message:
            `${amps(value)} flows through the dropper in ${leadName(lead)} with ` +
            `${conditionWords(study.plan, condition)}; it is rated ${amps(ratedA)}.`,
          numbers: { amps: value, ratedA },
        },
      ]
    }),
  fixes: (found, study) => {
    const { lead, item } = dropperIn(study, found.place)
    const ratedA = [3, 6, 10, 20, 30, 50].find(a => a >= 1.2 * found.numbers.amps!)
    if (ratedA === undefined) return []
    const label = `A ${ratedA} A diode in its place`
    return [{ label, patch: setItem(study.plan, lead.id, item.id, { ratedA }) }]
  },
}

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
    droppersOf(study).flatMap(({ lead, item }): Found[] => {
      const load = study.loads.find(l => lead.to === l.id || lead.from === l.id)
      if (!load) return []
      const stripeEnd = item.stripe ?? 'to'
      if (lead[stripeEnd] === load.id) return []
      return [
        {
          severity: 'fail',
          place: lead.id,
          also: [load.id],
          condition: null,
          title: 'Diode the wrong way round',
          message: `The stripe of the diode in ${leadName(lead)} points away from ${nameOf(load)}: it blocks.`,
          numbers: {},
        },
      ]
    }),
  fixes: (found, study) => {
    const { lead, item } = dropperIn(study, found.place)
    const stripe = found.also![0] === lead.to ? 'to' : 'from'
    return [{ label: 'Turn the diode round', patch: setItem(study.plan, lead.id, item.id, { stripe }) }]
  },
}
