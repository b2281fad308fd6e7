import { setField } from '../edit/set'
import { arrivalSpan, type SolvedPlan } from '../circuit/matrix'
import { conditionWords, type LoadPart } from '../circuit/conditions'
import { wireDropTo, type Staircase } from '../circuit/staircase'
import { shortenUntil, thickenPath, thickenUntil } from '../fixes/conductor'
import { addRegulator } from '../fixes/converter'
import { addDropperUntil } from '../fixes/dropper'
import { propose, type Proposal } from '../fixes/proposal'
import { setSupplyUntil, turnDownUntil } from '../fixes/power'
import { absorptionVolts } from '../battery/emf'
import { nominalVolts } from '../kinds/draw'
import { asKind, needs, partsOf } from '../kinds/index'
import { leadById, partById } from '../plan/find'
import { against, percent, volts } from '../units/show'
import { guessed, type Check, type Found } from './check'
import { usbProposals } from './power'
import { Study } from '../study/study'
import { fixed } from '../units/number'

/** A limit is said to be reached within this much, V: below what anyone can measure at the bench. */
const MARGIN_V = 1e-6

const inWindow = (load: LoadPart) => (solved: SolvedPlan) => {
  const span = arrivalSpan(solved, load.id)
  return (
    span !== null &&
    span.low.value >= needs(load).minV &&
    span.high.value <= needs(load).maxV &&
    solved.points.every(p => p.status === 'ok')
  )
}

/** A radio with a pack of its own goes on where too little arrives. */
const goesOn = (load: LoadPart): boolean => asKind(load, 'radio')?.internalBattery !== undefined

/** The two or three steps of a staircase that cost most, in words. */
export function eaters(stairs: Staircase | null): string {
  if (!stairs) return ''
  const most = [...stairs.steps]
    .sort((a, b) => b.dropV - a.dropV)
    .filter(s => s.dropV >= 0.02)
    .slice(0, 3)
  return most.length
    ? ' The volts go: ' +
        `${most.map(s => `${fixed(s.dropV, 2)} V ${s.kind === 'source' ? s.label : `in ${s.label}`}`).join(', ')}.`
    : ''
}

function figuresOf(study: Study, load: LoadPart, limit: string, condition: string) {
  const source = study.staircase(load.id, condition)?.sourceId
  return [
    [load.id, limit],
    [load.id, 'draw.activeA'],
    [load.id, 'draw.activeW'],
    ...(source
      ? [
          [source, 'internalOhm'],
          [source, 'outputOhm'],
        ]
      : []),
  ] as [string, string][]
}

/** What moves closer when a lead is shortened: the load itself, or what stands at the lead's end. */
function movedBy(study: Study, stairs: Staircase, leadId: string, load: LoadPart): string {
  return stairs.leads.at(-1) === leadId
    ? study.name(load)
    : `the far end of ${leadById(study.plan, leadId)!.name ?? leadId}`
}

export const arrivalUnder: Check = {
  id: 'arrival-under',
  severities: ['fail', 'caution'],
  looksAt: 'all; broken in the corner where the sources are lowest and most is active',
  title: 'Load starves',
  why:
    'Under its supply window a radio cuts out, resets or transmits a distorted signal, often in the middle of a ' +
    'call; the voltage falls most when all transmit on a low battery.',
  source: "the load's manual (supply window)",
  find: study =>
    study.loads.flatMap((load): Found[] => {
      const span = study.arrival(load.id)
      if (!span || span.low.value >= needs(load).minV - MARGIN_V) return []
      const { value, condition } = span.low
      return [
        {
          severity: goesOn(load) ? 'caution' : 'fail',
          limit: [load.id, `${needs(load).field}.minV`],
          place: load.id,
          condition,
          title: `${study.name(load)} starves (${conditionWords(study.plan, condition)})`,
          message:
            `${against(volts, value, needs(load).minV)} reaches ${study.name(load)} with ` +
            `${conditionWords(study.plan, condition)}; it needs ` +
            `${volts(needs(load).minV)}.` +
            (goesOn(load) ? ' It goes on from its own pack meanwhile.' : '') +
            eaters(study.staircase(load.id, condition)) +
            guessed(study.plan, figuresOf(study, load, `${needs(load).field}.minV`, condition)),
          numbers: { arrivesV: value, minV: needs(load).minV, shortV: needs(load).minV - value },
        },
      ]
    }),
  fixes: (found, study) => {
    const load = partById(study.plan, found.place) as LoadPart
    const passes = inWindow(load)
    const stairs = study.staircase(load.id, found.condition!)
    if (!stairs) return []
    const wires = stairs.steps.filter(s => s.kind === 'wire').sort((a, b) => b.dropV - a.dropV)
    const [worst, next] = wires
    return [
      ...thickerWires(study, worst?.place, next?.place, passes),
      worst ? shortenUntil(study.plan, worst.place, movedBy(study, stairs, worst.place, load), passes) : null,
      turnDownUntil(study.plan, load.id, passes),
      setSupplyUntil(study.plan, stairs.sourceId, 1, passes),
      regulator(study, load, stairs, passes),
      ...usbProposals(study, stairs.sourceId),
    ].filter((p): p is Proposal => Boolean(p))
  },
}

/** The lead that drops most made thicker, or the next one; where neither does alone, both. */
function thickerWires(
  study: Study,
  worst: string | undefined,
  next: string | undefined,
  passes: (solved: SolvedPlan) => boolean,
): (Proposal | null)[] {
  const alone = [worst, next].map(id => (id === undefined ? null : thickenUntil(study.plan, id, passes)))
  if (alone.some(p => p !== null) || worst === undefined || next === undefined) return alone
  return [thickenPath(study.plan, [worst, next], passes)]
}

/** A converter before the load that holds its voltage, where its nominal one is that of the catalogue's regulators. */
function regulator(
  study: Study,
  load: LoadPart,
  stairs: Staircase,
  passes: (solved: SolvedPlan) => boolean,
): Proposal | null {
  const lead = leadById(study.plan, stairs.leads.at(-1) ?? '')
  const source = partById(study.plan, stairs.sourceId)
  const regulatedAlready = asKind(source, 'converter') ?? asKind(source, 'usbSource')
  if (!lead || asKind(load, 'inverter') || regulatedAlready) return null
  return addRegulator(study.plan, {
    lead,
    end: lead.to === load.id ? 'to' : 'from',
    load,
    activeA: study.partAmps(load).value,
    passes,
  })
}

export const arrivalOver: Check = {
  id: 'arrival-over',
  severities: ['fail', 'caution'],
  looksAt: 'all; broken in the corner where the source is highest and nothing draws',
  title: 'Load sees too much voltage',
  why:
    'Over its supply window a radio shuts down or is damaged for good. A lithium pack sits at about 14.4 V while ' +
    'charging, and an idle load drops nothing on the way.',
  source: "the load's manual (supply window)",
  find: study =>
    study.loads.flatMap((load): Found[] => {
      const span = study.arrival(load.id)
      if (!span || span.high.value <= needs(load).maxV + MARGIN_V) return []
      const { value, condition } = span.high
      return [
        {
          severity: 'fail',
          limit: [load.id, `${needs(load).field}.maxV`],
          place: load.id,
          condition,
          title: `${study.name(load)}: ${fixed(value, 1)} V is too much (${conditionWords(study.plan, condition)})`,
          message:
            `${against(volts, value, needs(load).maxV)} reaches ${study.name(load)} with ` +
            `${conditionWords(study.plan, condition)}; its limit ` +
            `is ${volts(needs(load).maxV)}.` +
            guessed(study.plan, figuresOf(study, load, `${needs(load).field}.maxV`, condition)),
          numbers: { arrivesV: value, maxV: needs(load).maxV, overV: value - needs(load).maxV },
        },
      ]
    }),
  fixes: (found, study) => {
    const load = partById(study.plan, found.place) as LoadPart
    const passes = inWindow(load)
    const stairs = study.staircase(load.id, found.condition!)
    const lastLead = stairs?.leads.at(-1)
    const lead = lastLead === undefined ? undefined : leadById(study.plan, lastLead)
    const amps = study.partAmps(load).value
    const battery = asKind(stairs ? partById(study.plan, stairs.sourceId) : undefined, 'battery')
    return [
      lead && !lead.inline?.some(i => i.kind === 'dropper')
        ? addDropperUntil(study.plan, { lead, end: lead.to === load.id ? 'to' : 'from', activeA: amps }, passes)
        : null,
      stairs ? setSupplyUntil(study.plan, stairs.sourceId, -1, passes) : null,
      stairs ? regulator(study, load, stairs, passes) : null,
      battery && found.condition!.startsWith('charging/') && absorptionVolts(battery) !== null
        ? propose(
            `Charge ${study.name(battery)} only with the loads taken off`,
            setField(study.plan, battery.id, 'charged', 'elsewhere'),
          )
        : null,
    ].filter((p): p is Proposal => Boolean(p))
  },
}

const tenths = (share: number) => percent(share, 1)

export const drop: Check = {
  id: 'drop',
  severities: ['caution'],
  looksAt: "all in which the radio is active; the conductors between the source's terminals and the radio",
  title: "Drop over the plan's share",
  why:
    'A lead that drops much leaves nothing in hand for a low battery or an aged contact, and the supply voltage ' +
    'follows the speech.',
  source: "practice: 3 % of the nominal voltage in the conductors of a radio's path (site.dropShare)",
  find: study =>
    partsOf(study.plan.parts, 'radio').flatMap((radio): Found[] => {
      const nominalV = nominalVolts(needs(radio))
      const node = study.solved.network.nodeOf.get(radio.id)!
      // The wires cannot take more than the highest source's voltage less what arrives: only where that is too much,
      // and more than was found in another condition, are they looked at.
      const suspects = study.points
        .filter(p => p.condition.active.has(radio.id))
        .map(p => ({ condition: p.condition.id, mostV: study.highestSourceV(p) - p.volts[node]! }))
        .filter(s => s.mostV > study.site.dropShare * nominalV)
        .sort((a, b) => b.mostV - a.mostV)
      let worst: { condition: string; dropV: number } | null = null
      for (const { condition, mostV } of suspects) {
        if (worst && mostV <= worst.dropV) break
        const dropV = wireDropTo(study.solved.network, study.point(condition)!, radio.id)
        if (!worst || dropV > worst.dropV) worst = { condition, dropV }
      }
      const share = worst ? worst.dropV / nominalV : 0
      if (!worst || share <= study.site.dropShare + 1e-9) return []
      const wires = study
        .staircase(radio.id, worst.condition)!
        .steps.filter(s => s.kind === 'wire')
        .sort((a, b) => b.dropV - a.dropV)
      return [
        {
          severity: 'caution',
          place: radio.id,
          condition: worst.condition,
          title: `${fixed(100 * share, 1)} % lost in the wires to ${study.name(radio)}`,
          message:
            `${volts(worst.dropV)} of ${volts(nominalV)} is lost in the wires to ${study.name(radio)} with ` +
            `${conditionWords(study.plan, worst.condition)}: ${against(tenths, share, study.site.dropShare)}, the ` +
            'plan allows ' +
            `${tenths(study.site.dropShare)}. ${wires
              .slice(0, 3)
              .map(s => `${fixed(s.dropV, 2)} V in ${s.label}`)
              .join(', ')}.`,
          numbers: { dropV: worst.dropV, nominalV, share, allowedShare: study.site.dropShare },
        },
      ]
    }),
  fixes: (found, study) => {
    const radio = partById(study.plan, found.place) as LoadPart
    const stairs = study.staircase(radio.id, found.condition!)
    const wires = (stairs?.steps ?? []).filter(s => s.kind === 'wire').sort((a, b) => b.dropV - a.dropV)
    const [worst, next] = wires
    if (!worst) return []
    const passes = (solved: SolvedPlan) => !drop.find(new Study(solved)).some(f => f.place === radio.id)
    return [
      ...thickerWires(study, worst.place, next?.place, passes),
      shortenUntil(study.plan, worst.place, movedBy(study, stairs!, worst.place, radio), passes),
      turnDownUntil(study.plan, radio.id, passes),
    ].filter((p): p is Proposal => Boolean(p))
  },
}
