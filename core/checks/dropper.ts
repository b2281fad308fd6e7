import { conditionWords } from '../circuit/conditions'
import type { Proposal } from '../fixes/proposal'
import { arrivalSpan } from '../circuit/matrix'
import { solvedAfter } from '../fixes/conductor'
import { needs } from '../kinds/index'
import { nameOf } from '../plan/find'
import type { Lead } from '../plan/schema'
import { amps, volts, type Check, type Found } from './check'
import type { Study } from './study'

interface Placed {
  lead: Lead
  index: number
  itemIndex: number
  ratedA: number
  count: number
}

function droppersOf(study: Study): Placed[] {
  return study.plan.leads.flatMap((lead, index) =>
    (lead.inline ?? []).flatMap((item, itemIndex) =>
      item.kind === 'dropper' ? [{ lead, index, itemIndex, ratedA: item.ratedA ?? 1, count: item.count ?? 1 }] : [],
    ),
  )
}

export const dropperIdle: Check = {
  id: 'dropper-idle',
  severities: ['fail'],
  looksAt: 'all in which the load behind the diode idles and the source is highest',
  title: 'Dropper diode drops too little at idle',
  why: 'A diode drops least when least flows, so what it takes off while transmitting is no proof: the radio sees its highest voltage when it only listens.',
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
          message: `With ${conditionWords(study.plan, span.high.condition)} only ${amps(flowing)} flows and the diode in ${lead.name ?? `lead ${lead.id}`} drops ${volts(dropV)}; ${volts(span.high.value)} still reaches ${nameOf(load)}, whose limit is ${volts(needs(load).maxV)}.`,
          numbers: { dropV, amps: flowing, arrivesV: span.high.value, maxV: needs(load).maxV },
        },
      ]
    }),
  fixes: (found, study) => {
    const dropper = droppersOf(study).find(d => d.lead.id === found.place)!
    const proposals: Proposal[] = []
    for (let count = dropper.count + 1; count <= Math.min(8, dropper.count + 3); count++) {
      const patch = [
        { op: 'add' as const, path: `/leads/${dropper.index}/inline/${dropper.itemIndex}/count`, value: count },
      ]
      const solved = solvedAfter(study.plan, patch)
      const span = solved && arrivalSpan(solved, found.also![0]!)
      if (span && span.high.value <= found.numbers.maxV!) {
        proposals.push({ label: `${count} diodes in series`, patch })
        break
      }
    }
    return proposals
  },
}

export const dropperRating: Check = {
  id: 'dropper-rating',
  severities: ['danger'],
  looksAt: 'all; the largest current through each dropper',
  title: 'Dropper diode over its current',
  why: 'A diode over its current overheats inside its adapter and fails, most often to a short: then the full voltage reaches the radio.',
  source: "the diode's data sheet (average forward current)",
  find: study =>
    droppersOf(study).flatMap(({ lead, ratedA }): Found[] => {
      const { value, condition } = study.leadAmps(lead)
      if (value <= ratedA + 1e-9) return []
      return [
        {
          severity: 'danger',
          place: lead.id,
          condition,
          title: `${amps(value)} through a ${amps(ratedA)} diode`,
          message: `${amps(value)} flows through the dropper in ${lead.name ?? `lead ${lead.id}`} with ${conditionWords(study.plan, condition)}; it is rated ${amps(ratedA)}.`,
          numbers: { amps: value, ratedA },
        },
      ]
    }),
  fixes: (found, study) => {
    const dropper = droppersOf(study).find(d => d.lead.id === found.place)!
    const ratedA = [3, 6, 10, 20, 30, 50].find(a => a >= 1.2 * found.numbers.amps!)
    return ratedA === undefined
      ? []
      : [
          {
            label: `A ${ratedA} A diode in its place`,
            patch: [{ op: 'add', path: `/leads/${dropper.index}/inline/${dropper.itemIndex}/ratedA`, value: ratedA }],
          },
        ]
  },
}

export const dropperDirection: Check = {
  id: 'dropper-direction',
  severities: ['fail'],
  looksAt: 'all',
  title: 'Dropper diode the wrong way round',
  why: 'The stripe points toward the radio. The other way round nothing flows, and a diode of low rating breaks through.',
  source: 'the exponential law of a silicon diode',
  find: study =>
    droppersOf(study).flatMap(({ lead, itemIndex }): Found[] => {
      const item = lead.inline![itemIndex]!
      const load = study.loads.find(l => lead.to === l.id || lead.from === l.id)
      if (!load || item.kind !== 'dropper') return []
      const stripeEnd = item.stripe ?? 'to'
      if (lead[stripeEnd] === load.id) return []
      return [
        {
          severity: 'fail',
          place: lead.id,
          also: [load.id],
          condition: null,
          title: 'Diode the wrong way round',
          message: `The stripe of the diode in ${lead.name ?? `lead ${lead.id}`} points away from ${nameOf(load)}: it blocks.`,
          numbers: {},
        },
      ]
    }),
  fixes: (found, study) => {
    const { lead, index, itemIndex } = droppersOf(study).find(d => d.lead.id === found.place)!
    return [
      {
        label: 'Turn the diode round',
        patch: [
          {
            op: 'add',
            path: `/leads/${index}/inline/${itemIndex}/stripe`,
            value: found.also![0] === lead.to ? 'to' : 'from',
          },
        ],
      },
    ]
  },
}
