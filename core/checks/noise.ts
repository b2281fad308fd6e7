import { BANDS, linesIn } from '../catalog/bands'
import { addItem } from '../edit/items'
import { setSite, setField } from '../edit/set'
import { propose, type Proposal } from '../fixes/proposal'
import { reach } from '../graph/walk'
import { asKind, kindOf, partsOf, type Part } from '../kinds/index'
import { leadName, partById, partIdOf } from '../plan/find'
import { schoolOf, type Lead } from '../plan/schema'
import { offLoadTerminal } from './loadTerminal'
import { amps } from '../units/show'
import type { Check, Found } from './check'
import type { Study } from '../study/study'
import { significant } from '../units/number'

/** Bands the station is used on: as its site or its radios say. */
function usedBands(study: Study): string[] {
  return [
    ...new Set([...(study.plan.site?.bands ?? []), ...partsOf(study.plan.parts, 'radio').flatMap(r => r.bands ?? [])]),
  ]
}

const switching = (study: Study) =>
  study.plan.parts.flatMap(part => {
    const stage = kindOf(part).switching?.(part)
    return stage ? [{ part, ...stage }] : []
  })

/** A common-mode choke on a lead of the device: what a plan can do against it beforehand. */
const isChoked = (study: Study, part: Part) => study.leadsOf(part.id).some(l => l.inline?.some(i => i.kind === 'choke'))

/** Winds of a cable through several cores: common mode goes with turns squared times cores. */
const CHOKE = { kind: 'choke', turns: 4, cores: 4 } as const

function choke(study: Study, part: Part): Proposal[] {
  // The longest lead is the best antenna; a panel's goes first.
  const lead = [...study.leadsOf(part.id)].sort(
    (a, b) =>
      Number(b.from.endsWith('.panel') || b.to.endsWith('.panel')) -
        Number(a.from.endsWith('.panel') || a.to.endsWith('.panel')) || b.lengthM - a.lengthM,
  )[0]
  if (!lead) return []
  const end = partIdOf(lead.from) === part.id ? ('from' as const) : ('to' as const)
  return [
    {
      label:
        `A common-mode choke on ${leadName(lead)}, ${CHOKE.turns} turns on ${CHOKE.cores} cores, at ` +
        `${study.name(part)}`,
      cost: 'listen before and after',
      patch: addItem(study.plan, lead.id, CHOKE, { end, fromEndM: 0.2 }),
    },
  ]
}

export const noiseKnown: Check = {
  id: 'noise-known',
  severities: ['caution'],
  looksAt: 'charging in full sun, or at full output: the current of a device against what it was tested quiet up to',
  title: 'Device known to be heard',
  why:
    'A verdict of quiet holds up to the current at which it was tested. Many controllers are silent in the ' +
    'morning and hiss at noon.',
  source: 'what the plan says of the device (noise.quietUpToA, noise.bands)',
  find: study =>
    study.plan.parts.flatMap((part): Found[] => {
      const noise = 'noise' in part ? part.noise : undefined
      if (!noise || isChoked(study, part)) return []
      const bands = usedBands(study)
      const heard = (noise.bands ?? []).filter(b => !bands.length || bands.includes(b))
      const charge = kindOf(part).charge?.(part, study.around)
      const reachesA = charge?.maxA ?? study.terminalAmps(`${part.id}.out`).value
      const over = noise.quietUpToA !== undefined && reachesA > noise.quietUpToA
      if (!heard.length || (noise.quietUpToA !== undefined && !over)) return []
      return [
        {
          severity: 'caution',
          place: part.id,
          condition: charge ? 'charging/idle' : null,
          title: `${study.name(part)} is heard on ${heard.join(', ')}`,
          message: heardWords(study.name(part), heard, reachesA, noise),
          numbers: { reachesA, ...(noise.quietUpToA !== undefined && { quietUpToA: noise.quietUpToA }) },
        },
      ]
    }),
  fixes: (found, study) => {
    const part = partById(study.plan, found.place)!
    const quiet = found.numbers.quietUpToA
    return [
      ...choke(study, part),
      ...(asKind(part, 'controller') && quiet !== undefined
        ? [
            propose(
              `Limit ${study.name(part)} to ${amps(quiet)} while listening`,
              setField(study.plan, part.id, 'maxChargeA', quiet),
            ),
          ]
        : []),
    ]
  },
}

function heardWords(
  name: string,
  heard: readonly string[],
  reachesA: number,
  { quietUpToA, note }: { quietUpToA?: number; note?: string },
): string {
  const on = `it is heard on ${heard.join(', ')}`
  const said =
    quietUpToA === undefined
      ? `${name} is heard on ${heard.join(', ')} when it works.`
      : `${name} reaches ${amps(reachesA)}; it was quiet up to ${amps(quietUpToA)}, and above that ${on}.`
  return note ? `${said} ${note}` : said
}

export const noiseLines: Check = {
  id: 'noise-lines',
  severities: ['note'],
  looksAt: 'multiples of every switching frequency against the bands the station uses',
  title: 'Switching lines land in a band in use',
  why:
    'A switching device makes a comb of lines at every multiple of its frequency. Whether they are heard is for ' +
    'the ear; where they fall is arithmetic.',
  source: 'lines at n·f; IARU band plans',
  find: study =>
    switching(study).flatMap(({ part, hz, what }): Found[] => {
      const bands = BANDS.filter(b => usedBands(study).includes(b.id))
      const hit = hz === undefined ? [] : bands.map(b => ({ band: b, lines: linesIn(b, hz) })).filter(h => h.lines > 0)
      // Lines closer together than a voice channel are a hiss, which the ear judges, not arithmetic.
      if (!hit.length || hz! < 3000 || isChoked(study, part)) return []
      return [
        {
          severity: 'note',
          place: part.id,
          condition: null,
          title: `${study.name(part)}: lines in ${hit.map(h => h.band.id).join(', ')}`,
          message:
            `The ${what} of ${study.name(part)} switches at ${significant(hz! / 1000, 4)} kHz: ` +
            `${hit.map(h => `${h.lines} line${h.lines > 1 ? 's' : ''} in ${h.band.id}`).join(', ')}, if they are ` +
            'strong enough to be heard.',
          numbers: { switchingHz: hz!, lines: hit.reduce((n, h) => n + h.lines, 0) },
        },
      ]
    }),
  fixes: (found, study) => choke(study, partById(study.plan, found.place)!),
}

export const radioOnLoadTerminal: Check = {
  id: 'radio-on-load-terminal',
  severities: ['caution', 'note'],
  looksAt: "radios behind a controller's load terminal",
  title: 'Radio fed from a load terminal',
  why:
    'The load terminal is switched by the controller and carries its noise straight into the radio; its own limit ' +
    'and low-voltage cut come on top.',
  source: 'practice; site.schools.loadsFrom',
  find: study =>
    partsOf(study.plan.parts, 'controller').flatMap((controller): Found[] => {
      const radios = partsOf(study.plan.parts, 'radio').filter(r => behindLoadTerminal(study, controller.id, r.id))
      if (!radios.length) return []
      const chosen = schoolOf(study.plan, 'loadsFrom') === 'load-terminal'
      return [
        {
          severity: chosen ? 'note' : 'caution',
          place: `${controller.id}.load`,
          also: radios.map(r => r.id),
          condition: null,
          title: `${radios.map(study.name).join(' and ')} on the load terminal of ${study.name(controller)}`,
          message:
            `${radios.map(study.name).join(' and ')} ${radios.length > 1 ? 'are' : 'is'} fed by the load terminal of ` +
            `${study.name(controller)}.`,
          numbers: {},
          otherSchool: chosen
            ? "The other school takes the radio straight off the battery: no limit and no noise of the controller's."
            : 'The other school likes the load terminal: it cuts off before the battery is ruined.',
        },
      ]
    }),
  fixes: (found, study) => offLoadTerminal(study, partIdOf(found.place)),
}

function behindLoadTerminal(study: Study, controllerId: string, loadId: string): boolean {
  const over = (ids: readonly Lead[]) => ids.flatMap(l => [partIdOf(l.from), partIdOf(l.to)])
  const beyond = (id: string) => {
    // The battery is where both ways meet: what lies beyond it is not the load terminal's.
    const ends = id === controllerId || asKind(study.parts.get(id), 'battery')
    return ends ? [] : over(study.leadsOf(id))
  }
  const first = over(study.leadsAt(`${controllerId}.load`)).filter(id => id !== controllerId)
  return reach(first, beyond).has(loadId)
}

export const nearAntennaLead: Check = {
  id: 'near-antenna-lead',
  severities: ['caution'],
  looksAt: 'switching devices said to lie beside an antenna lead',
  title: 'Switching device beside the antenna lead',
  why:
    'A converter couples into what lies next to it. The antenna lead brings it straight to the most sensitive ' +
    'place there is.',
  source: 'practice; distance is the cheapest cure',
  find: study =>
    switching(study).flatMap(({ part }): Found[] =>
      part.nearAntennaLead
        ? [
            {
              severity: 'caution',
              place: part.id,
              condition: null,
              title: `${study.name(part)} lies beside the antenna lead`,
              message: `${study.name(part)} switches, and lies beside an antenna lead.`,
              numbers: {},
            },
          ]
        : [],
    ),
  fixes: (found, study) => [
    propose('Move it a metre away from the antenna lead', setField(study.plan, found.place, 'nearAntennaLead', false)),
  ],
}

export const commonGround: Check = {
  id: 'common-ground',
  severities: ['note'],
  looksAt: 'stations with a switching device whose site says that nothing is bonded',
  title: 'No common point for ground',
  why:
    'Without one point where cases and battery negative meet, common-mode current from a converter finds its way ' +
    'home by the radio and its antenna lead.',
  source: 'practice; site.ground',
  find: study =>
    study.plan.site?.ground !== 'none' || !switching(study).length || !partsOf(study.plan.parts, 'radio').length
      ? []
      : [
          {
            severity: 'note',
            place: switching(study)[0]!.part.id,
            condition: null,
            title: 'Nothing is bonded to one ground',
            message:
              'The plan has a switching device and a radio, and says that cases and battery negative are not ' +
              'bonded at one point.',
            numbers: {},
          },
        ],
  fixes: (_found, study) => [
    {
      label: 'Bond cases and battery negative at one point',
      patch: setSite(study.plan, 'ground', 'common'),
    },
  ],
}
