import { connector, HOUSING_SOFTENS_C } from '../catalog/connectors'
import { partAmps } from '../circuit/point'
import { conditionWords, type LoadPart } from '../circuit/conditions'
import { awgArea, fitsContact } from '../connector/fits'
import { riseNew } from '../connector/heat'
import { conductorMm2, conductorName } from '../conductor/resistance'
import { thickerSizes, thinnerSizes } from '../conductor/ladder'
import { swapConductor } from '../fixes/conductor'
import { changeEnd, changeTerminal, strongerMating } from '../fixes/parts'
import { addAdapter } from '../fixes/adapter'
import { addTail } from '../fixes/joints'
import type { Proposal } from '../fixes/proposal'
import { leadById, leadName } from '../plan/find'
import { terminalName } from '../plan/names'
import type { Lead } from '../plan/schema'
import { against, amps, celsius } from '../units/show'
import type { Check, Found } from './check'
import { waysToJoin } from '../shelf/ways'
import { mendHeat } from './connectorHeat'
import { agedC, ampsAt, carriesAged, carriesNew, endOf, landingsOf, sharing } from './landings'
import { asGiven, fixed } from '../units/number'
import { anA, capital } from '../units/words'

/** What goes onto terminals that have no family of their own. */
const COUNTERPARTS: Record<string, string> = { screw: 'fork', 'post-4mm': 'banana-4' }

export const connectorMating: Check = {
  id: 'connector-mating',
  severities: ['fail'],
  looksAt: 'all',
  title: 'Connectors that do not mate',
  why:
    'Two ends mate if family and, where they have one, sex match. What is forced together makes contact by luck, ' +
    'and heats.',
  source: 'connector families of the catalogue',
  find: study =>
    landingsOf(study).flatMap(({ lead, fitted, terminal, terminalConnector, mating }): Found[] =>
      mating.mates
        ? []
        : [
            {
              severity: 'fail',
              place: terminal,
              also: [lead.id],
              condition: null,
              title: `${capital(connector(fitted).label)} does not mate at ${terminalName(study.plan, terminal)}`,
              message:
                `The ${connector(fitted).label} on ${leadName(lead)} does not go onto ` +
                `${terminalName(study.plan, terminal)}, ${anA(connector(terminalConnector).label)}: ${mating.why}.`,
              numbers: {},
            },
          ],
    ),
  fixes: (found, study) => {
    const landing = endOf(found, study)
    if (!landing) return []
    const { lead, end, terminal, terminalConnector, fitted } = landing
    const onto = COUNTERPARTS[terminalConnector] ?? terminalConnector
    const ways = waysToJoin(fitted, terminalConnector, study.leadAmps(lead).value, study.shelf).filter(
      w => w.steps.length === 1,
    )
    const adapters = ways.map(way => addAdapter(study.plan, lead, end, way))
    const owned = ways.map((w, i) => (w.steps[0]!.from === 'owned' ? adapters[i]! : null))
    const others = ways.map((w, i) => (w.steps[0]!.from === 'owned' ? null : adapters[i]!))
    return [
      ...owned,
      onto === 'bare' ? null : changeEnd(study.plan, lead, end, onto),
      changeTerminal(study.plan, terminal, fitted),
      ...others.slice(0, 1),
    ].filter((p): p is Proposal => p !== null)
  },
}

export const connectorShared: Check = {
  id: 'connector-shared',
  severities: ['fail', 'caution'],
  looksAt: 'all; every contact that two or more loads share, new and aged',
  title: 'One contact shared by loads that together are too much for it',
  why:
    'Each load alone is within what the contact carries; together, or together once it has aged, they are not. ' +
    'That is how a good connector melts on the busiest evening.',
  source: `the connector's rating; aged contact resistance and ${asGiven(HOUSING_SOFTENS_C)} °C`,
  find: study =>
    landingsOf(study).flatMap(({ lead, mating, fitted, contact, terminal }): Found[] => {
      if (!mating.mates || mating.ratedA === null) return []
      const { value, condition } = study.leadAmps(lead)
      const isNew = value > mating.ratedA + 1e-9
      const carries = isNew ? carriesNew(mating.ratedA) : carriesAged(study, contact, mating.ratedA)
      if (carries(value)) return []
      const sharers = sharing(study, lead, carries)
      if (!sharers.length) return []
      const reachesC = agedC(contact, mating.ratedA, value, study.site.ambientC.high)
      // What each takes at once: alone, or at another voltage, it may take more.
      const takes = (load: LoadPart) => partAmps(study.solved.network, study.point(condition)!, load)
      return [
        {
          severity: isNew ? 'fail' : 'caution',
          place: terminal,
          also: [lead.id, ...sharers.map(s => s.load.id)],
          condition,
          title: `${sharers.length} loads share the contact at ${terminalName(study.plan, terminal)}`,
          message:
            `${sharers.map(s => `${study.name(s.load)} (${amps(takes(s.load))})`).join(' and ')} share the ` +
            `${connector(fitted).label} at ${terminalName(study.plan, terminal)}: ` +
            `${against(amps, value, mating.ratedA)} together with ` +
            `${conditionWords(study.plan, condition)}. It is rated ${amps(mating.ratedA)}; aged it reaches ` +
            `${against(celsius, reachesC, HOUSING_SOFTENS_C)}, and housings soften from ${celsius(HOUSING_SOFTENS_C)}.`,
          numbers: { amps: value, ratedA: mating.ratedA, reachesC },
        },
      ]
    }),
  fixes: (found, study) =>
    mendHeat(
      found,
      study,
      (ratedA, value, id) =>
        value <= ratedA && agedC({ connector: id }, ratedA, value, study.site.ambientC.high) <= HOUSING_SOFTENS_C,
    ),
}

export const connectorRating: Check = {
  id: 'connector-rating',
  severities: ['fail'],
  looksAt: 'all; the largest current through each mating, contacts as new',
  title: "Current over a connector's rating",
  why:
    'A contact is rated for a 30 °C rise when new; beyond, it heats with the square of the current, its springs ' +
    'soften, and it heats more. Two mated contacts carry what the smaller one carries.',
  source: 'IEC 60512-5-2 (30 °C rise at the rated current)',
  find: study =>
    landingsOf(study).flatMap((landing): Found[] => {
      const { lead, mating, fitted, terminal } = landing
      const { value, condition } = ampsAt(study, landing)
      if (
        !mating.mates ||
        mating.ratedA === null ||
        value <= mating.ratedA + 1e-9 ||
        sharing(study, lead, carriesNew(mating.ratedA)).length
      )
        return []
      const riseC = riseNew(fitted, mating.ratedA, value)
      return [
        {
          severity: 'fail',
          place: terminal,
          also: [lead.id],
          condition,
          title: `${against(amps, value, mating.ratedA)} through ${anA(amps(mating.ratedA))} connector`,
          message:
            `${against(amps, value, mating.ratedA)} passes the ${connector(fitted).label} of ${leadName(lead)} at ` +
            `${terminalName(study.plan, terminal)} with ${conditionWords(study.plan, condition)}; it is rated ` +
            `${amps(mating.ratedA)}. New, it warms by ${celsius(riseC)}.`,
          numbers: { amps: value, ratedA: mating.ratedA, riseC },
        },
      ]
    }),
  fixes: (found, study) => mendHeat(found, study, (ratedA, value) => ratedA >= value),
}

export const connectorConductor: Check = {
  id: 'connector-conductor',
  severities: ['caution'],
  looksAt: 'all',
  title: 'Conductor does not fit its connector',
  why:
    'Too thick, and strands are cut off to get it in; too thin, and the crimp does not hold. Both end in a hot or ' +
    'loose contact.',
  source: 'conductor ranges of the connector families',
  find: study =>
    study.plan.leads.flatMap(lead =>
      (['from', 'to'] as const).flatMap((end): Found[] => {
        const fitted = lead.ends?.[end]?.connector
        const area = conductorMm2(lead.conductor)
        if (!fitted || fitsContact(fitted, area)) return []
        const takes = connector(fitted).takesAwg!
        const thick = area > awgArea(takes.thickest)
        return [
          {
            severity: 'caution',
            place: lead[end],
            also: [lead.id],
            condition: null,
            title:
              `${conductorName(lead.conductor)} too ${thick ? 'thick' : 'thin'} for ` +
              `${anA(connector(fitted).label)}`,
            message:
              `${capital(leadName(lead))} is ${conductorName(lead.conductor)}` +
              `${lead.conductor.mm2 === undefined ? ` (${fixed(area, 1)} mm²)` : ''}; ` +
              `the ${connector(fitted).label} at ${terminalName(study.plan, lead[end])} takes ` +
              `${takes.thinnest} to ${takes.thickest} AWG ` +
              `(${fixed(awgArea(takes.thinnest), 1)}–${fixed(awgArea(takes.thickest), 1)} mm²).`,
            numbers: { mm2: area, thinnestMm2: awgArea(takes.thinnest), thickestMm2: awgArea(takes.thickest) },
          },
        ]
      }),
    ),
  fixes: (found, study) => {
    const lead = leadById(study.plan, found.also![0]!)!
    const end = lead.from === found.place ? ('from' as const) : ('to' as const)
    const area = conductorMm2(lead.conductor)
    const fitsBoth = (mm2: number) =>
      (['from', 'to'] as const).every(e => !lead.ends?.[e] || fitsContact(lead.ends[e].connector, mm2))
    const thicker = thickerSizes(lead.conductor).find(c => fitsBoth(conductorMm2(c)))
    const carries = (c: Lead['conductor']) => study.largestFuse({ ...lead, conductor: c }) >= study.leadAmps(lead).value
    const thinner = thinnerSizes(lead.conductor).find(c => fitsBoth(conductorMm2(c)) && carries(c))
    const onTail = [...thickerSizes(lead.conductor), ...thinnerSizes(lead.conductor)].find(c =>
      fitsContact(lead.ends![end]!.connector, conductorMm2(c)),
    )
    return [
      strongerMating(
        study.plan,
        lead,
        end,
        id => fitsContact(id, area) && connector(id).ratedA! >= study.leadAmps(lead).value,
      ),
      thicker ? swapConductor(study.plan, lead, thicker) : null,
      thinner ? swapConductor(study.plan, lead, thinner) : null,
      onTail ? addTail(study.plan, lead, end, onTail) : null,
    ].filter((p): p is Proposal => p !== null)
  },
}
