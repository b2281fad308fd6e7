import { connector } from '../catalog/connectors'
import { contactOhmNow } from '../connector/mate'
import { leadResistance, type Network } from '../circuit/network'
import { inlineLoopOhm, inlineWords } from '../kinds/inline'
import { leadName } from '../plan/find'
import { terminalName } from '../plan/names'
import type { Lead, Plan } from '../plan/schema'

/** A place in a plan whose resistance may be other than the table's. */
export interface Joint {
  /** `l2.to` a mating, `l2` a conductor, `l1.f1` what is wired into a lead, `blk.p1` what stands in a part. */
  place: string
  kind: 'contact' | 'conductor' | 'inline' | 'inside'
  words: string
  branch: number
  /** In the loop as planned, Ω; a contact's is twice its table's, one for each pole. */
  loopOhm: number
  /** Figures of the table are for so many of it in the loop. */
  poles: 1 | 2
  /** How much a good one differs from its table, of its own. */
  spread: number
  /** Share of such that go bad (practice: contacts and fuse clips do, copper does not). */
  badOdds: number
  /** Of a contact that has a rating: what it rises by is judged. */
  connector?: string
}

/** Good contacts differ by this, fuses and clips by that; conductors by their length and copper; of their own. */
const CONTACT_SPREAD = 0.15
const INLINE_SPREAD = 0.15
const CONDUCTOR_SPREAD = 0.012
const INSIDE_SPREAD = 0.15
const CONTACT_BAD = 0.2
const INLINE_BAD = 0.06
const CONDUCTOR_BAD = 0.002

/** Every joint, conductor and device of a plan that current passes. */
export function jointsOf(network: Network): Joint[] {
  const { plan, branchOfLead } = network
  const inLeads = plan.leads.flatMap((lead): Joint[] => {
    const branch = branchOfLead.get(lead.id)
    return branch === undefined
      ? []
      : [...endsOf(plan, lead, branch), ...itemsOf(lead, branch), conductorOf(lead, branch)]
  })
  return [...inLeads, ...insideParts(network)]
}

const endsOf = (plan: Plan, lead: Lead, branch: number): Joint[] =>
  (['from', 'to'] as const).flatMap((end): Joint[] => {
    const fitted = lead.ends?.[end]
    if (!fitted) return []
    return [
      {
        place: `${lead.id}.${end}`,
        kind: 'contact',
        words: `${connector(fitted.connector).label} of ${leadName(lead)} at ${terminalName(plan, lead[end])}`,
        branch,
        loopOhm: 2 * contactOhmNow(fitted),
        poles: 2,
        spread: CONTACT_SPREAD,
        badOdds: CONTACT_BAD,
        connector: fitted.connector,
      },
    ]
  })

/** A dropper's resistance is nothing against its own drop. */
const itemsOf = (lead: Lead, branch: number): Joint[] =>
  (lead.inline ?? [])
    .filter(item => inlineLoopOhm(item) > 0 && item.kind !== 'dropper')
    .map(item => ({
      place: `${lead.id}.${item.id}`,
      kind: 'inline',
      words: `${inlineWords(item)} in ${leadName(lead)}`,
      branch,
      loopOhm: inlineLoopOhm(item),
      poles: 1,
      spread: INLINE_SPREAD,
      badOdds: INLINE_BAD,
    }))

const conductorOf = (lead: Lead, branch: number): Joint => ({
  place: lead.id,
  kind: 'conductor',
  words: `conductor of ${leadName(lead)}`,
  branch,
  loopOhm: leadResistance(lead).wire20Ohm,
  poles: 1,
  spread: CONDUCTOR_SPREAD,
  badOdds: CONDUCTOR_BAD,
})

const insideParts = ({ plan, branchOfTerminal, ohm }: Network): Joint[] =>
  [...branchOfTerminal]
    .filter(([, branch]) => ohm[branch]! > 0)
    .map(([terminal, branch]) => ({
      place: terminal,
      kind: 'inside',
      words: `fuse and contacts at ${terminalName(plan, terminal)}`,
      branch,
      loopOhm: ohm[branch]!,
      poles: 1,
      spread: INSIDE_SPREAD,
      badOdds: INLINE_BAD,
    }))
