import { cellFamily, chemistry } from '../catalog/chemistries'
import { kindOf, type Part } from '../kinds/index'
import { nameOf } from '../plan/find'
import type { Plan } from '../plan/schema'
import { figure, fixed } from '../units/number'
import { restedOf } from './rested'

/** What is done now and then to a battery, with where it stops. Figures are of the plan's own packs. */
export interface Procedure {
  id: string
  part: string
  title: string
  when: string
  caution: string
  steps: { does: string; see: string; stopIf: string }[]
}

/** A bench supply brings a flat or sleeping pack back with so much of its capacity, A per Ah (practice). */
const TRICKLE_PER_AH = 0.05
/** Volts a lead-acid cell is not brought back from (practice). */
const LEAD_LOST_V = 1.7

export function proceduresOf(plan: Plan): Procedure[] {
  return plan.parts.flatMap(part => {
    const rested = restedOf(part)
    const { settingFor } = kindOf(part)
    const made = settingFor?.(part) ?? (part as { chemistry?: string; seriesCells?: number })
    if (!rested || made.chemistry === undefined || !made.seriesCells) return []
    const facts = { part, cells: made.seriesCells, chemistryId: made.chemistry, ah: rested.store.capacity }
    // Of cells that nobody charges, or of which nobody says how, there is nothing to tell.
    return chemistry(made.chemistry).absorptionV ? [...recovery(facts), ...balance(facts), apart(facts)] : []
  })
}

interface Facts {
  part: Part
  cells: number
  chemistryId: string
  ah: number
}

const v = (volts: number) => `${fixed(volts, 1)} V`
const isLithium = ({ chemistryId }: Facts) => cellFamily(chemistryId) === 'lithium'

function recovery(facts: Facts): Procedure[] {
  const absorption = chemistry(facts.chemistryId).absorptionV
  if (!absorption) return []
  return isLithium(facts) ? [wake(facts, absorption), lithiumFlat(facts)] : [leadFlat(facts, absorption)]
}

type Volts = readonly [number, number]
const trickle = ({ ah }: Facts) => `${figure(Math.max(0.1, TRICKLE_PER_AH * ah))} A`
const emptyOf = ({ chemistryId, cells }: Facts) => chemistry(chemistryId).curve[0]![1] * cells
const BESIDE_IT = 'Never below 0 °C; outdoors or on stone, and beside it all the time.'

const wake = (facts: Facts, absorption: Volts): Procedure => ({
  id: `wake ${facts.part.id}`,
  part: facts.part.id,
  title: `Wake ${nameOf(facts.part)}`,
  when: 'Its terminals show nothing, or a volt or two: its management system has cut off.',
  caution: BESIDE_IT,
  steps: [
    {
      does: 'Everything off it. A bench supply, or a charger that wakes lithium packs, straight on its posts.',
      see: `Supply set to ${v(absorption[0] * facts.cells)}, ${trickle(facts)}, before it is joined; red on +.`,
      stopIf: 'You cannot limit the amps: use another charger.',
    },
    {
      does: 'Join for a minute, then take it off and meter the posts.',
      see: `The posts hold over ${v(emptyOf(facts))} by themselves: it is awake. Charge it as usual.`,
      stopIf: 'Nothing after three tries, or it swells, smells or gets warm: it is finished. Do not open it.',
    },
  ],
})

const lithiumFlat = (facts: Facts): Procedure => ({
  id: `trickle ${facts.part.id}`,
  part: facts.part.id,
  title: `Bring ${nameOf(facts.part)} back from flat`,
  when: `It rests under ${v(emptyOf(facts))}.`,
  caution: BESIDE_IT,
  steps: [
    {
      does: `${trickle(facts)}, no more, until it rests over ${v(emptyOf(facts))}.`,
      see: 'Volts rise within the first half hour and keep when the charge is taken off.',
      stopIf: `Under ${v(2 * facts.cells)} for weeks, no rise in an hour, warmth: its cells are harmed. Do not go on.`,
    },
    {
      does: 'Then as usual, and a capacity test before it is trusted.',
      see: 'Over four fifths of what is printed.',
      stopIf: 'Less than that: use it where nothing depends on it, or hand it in.',
    },
  ],
})

const leadFlat = (facts: Facts, absorption: Volts): Procedure => ({
  id: `trickle ${facts.part.id}`,
  part: facts.part.id,
  title: `Bring ${nameOf(facts.part)} back from flat`,
  when: `It rests under ${v(emptyOf(facts))}.`,
  caution: chemistry(facts.chemistryId).caution || 'It may give off gas: ventilate, no sparks.',
  steps: [
    {
      does: `A charger of its chemistry at ${trickle(facts)} for up to a day.`,
      see: `Over ${v(2 * facts.cells)} in the first hours, ${v(absorption[0] * facts.cells)} at the end.`,
      stopIf: `Under ${v(LEAD_LOST_V * facts.cells)} for weeks, or one cell stays far behind the others: hand it in.`,
    },
    {
      does: 'Rest it for a night, then a capacity test.',
      see: 'Over half of what is printed.',
      stopIf: 'It falls by more than half a volt in the night with nothing on it: a cell is short.',
    },
  ],
})

function balance(facts: Facts): Procedure[] {
  const { part, cells, chemistryId } = facts
  const absorption = chemistry(chemistryId).absorptionV
  if (!isLithium(facts) || !absorption || cells < 2) return []
  const cellV = fixed(absorption[1], 2)
  return [
    {
      id: `balance ${part.id}`,
      part: part.id,
      title: `Top-balance the cells of ${nameOf(part)}`,
      when: 'One cell reaches its end of charge long before the others, and the pack is cut off early.',
      caution: 'Bare cells in parallel give hundreds of amps into a spanner: insulated tools, one link at a time.',
      steps: [
        {
          does: 'Charge the pack full as it is, until its management system cuts off.',
          see: 'Cells within 0.1 V of each other at rest.',
          stopIf: 'A cell is over 0.3 V from the others: charge that one by itself first.',
        },
        {
          does: 'Take the pack apart into cells and join all of them in parallel, + on +.',
          see: `Under 0.05 V between any two before they are joined.`,
          stopIf: 'A meter between + and + shows more: wait, or charge the low one.',
        },
        {
          does: `A bench supply set to ${cellV} V with nothing on it, then joined; leave it until the amps fade.`,
          see: `${cellV} V at every cell, and under a hundredth of the capacity in amps.`,
          stopIf: `Any cell over ${cellV} V, or warm: take the supply off.`,
        },
      ],
    },
  ]
}

function apart({ part, cells, chemistryId }: Facts): Procedure {
  const absorption = chemistry(chemistryId).absorptionV
  return {
    id: `elsewhere ${part.id}`,
    part: part.id,
    title: `Take ${nameOf(part)} off to charge it elsewhere`,
    when: 'Its charging voltage is too high for a load, or the charger is not where the station is.',
    caution: 'The lead it leaves is live at the other end as long as anything else feeds it: cap it.',
    steps: [
      {
        does: 'Loads off, panel covered, charge sources off; its fuse out; black off, then red; cap both ends.',
        see: 'Nothing between the capped ends.',
        stopIf: 'They show volts: something else still feeds them.',
      },
      {
        does: 'Charge it on a charger of its chemistry, and let it rest for an hour.',
        see: absorption
          ? `${v(absorption[0] * cells)} to ${v(absorption[1] * cells)} at the end of charge.`
          : 'As its maker says.',
        stopIf: 'It gets warm, or the charger is set to another chemistry.',
      },
      {
        does: 'Back on: red, then black, its fuse last.',
        see: 'The step "by itself, rested" of commissioning, again.',
        stopIf: 'Another pack is on the same wires and over 0.1 V away.',
      },
    ],
  }
}
