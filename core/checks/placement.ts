import { connector } from '../catalog/connectors'
import { conditionWords } from '../circuit/conditions'
import { landEnd, setTerminalConnector } from '../edit/ends'
import { removeAll } from '../edit/remove'
import { setField } from '../edit/set'
import { changeEnd } from '../fixes/parts'
import { asKind, partsOf, type Part, type PartOf } from '../kinds/index'
import { leadById, leadName, partById, partIdOf } from '../plan/find'
import { terminalName } from '../plan/names'
import type { Lead } from '../plan/schema'
import { amps } from '../units/show'
import type { Check, Found } from './check'
import type { Study } from '../study/study'
import { fixed } from '../units/number'
import { capital } from '../units/words'

/** Leads that a load's current comes by, from the source on. */
export function wayTo(study: Study, loadId: string): Lead[] {
  const condition = study.points.find(p => p.condition.active.has(loadId))?.condition.id
  return condition === undefined
    ? []
    : (study.staircase(loadId, condition)?.leads ?? []).map(id => leadById(study.plan, id)!)
}

/** Which end of a lead is nearer the source: the one its current comes in by. */
function sourceEnd(study: Study, lead: Lead): 'from' | 'to' | null {
  const branch = study.solved.network.branchOfLead.get(lead.id)
  const point = study.points.find(p => branch !== undefined && Math.abs(p.amps[branch]!) > 1e-3)
  if (branch === undefined || !point) return null
  return point.amps[branch]! > 0 ? 'from' : 'to'
}

export const accessoryTransmitter: Check = {
  id: 'accessory-transmitter',
  severities: ['caution'],
  looksAt: 'all in which a radio transmits',
  title: 'Transmitter on an accessory socket',
  why:
    'A vehicle accessory plug holds by a spring and works loose; it is meant for ten amps at rest, and its ' +
    'contact is fifteen times that of a good one. It warms, drops volts while transmitting, and some have melted.',
  source: 'ISO 4165; contact resistances of the catalogue',
  find: study =>
    !study.plan.leads.some(
      l => l.ends?.from?.connector === 'accessory-12v' || l.ends?.to?.connector === 'accessory-12v',
    )
      ? []
      : partsOf(study.plan.parts, 'radio').flatMap((radio): Found[] => {
          const plugs = wayTo(study, radio.id).flatMap(lead =>
            (['from', 'to'] as const)
              .filter(end => lead.ends?.[end]?.connector === 'accessory-12v')
              .map(end => ({ lead, end })),
          )
          const [plug] = plugs
          const { value, condition } = study.partAmps(radio)
          if (!plug || value < 5) return []
          return [
            {
              severity: 'caution',
              place: plug.lead.id,
              also: [radio.id],
              condition,
              title: `${study.name(radio)} transmits through an accessory plug`,
              message:
                `${amps(value)} for ${study.name(radio)} passes the accessory plug of ` +
                `${leadName(plug.lead)} with ${conditionWords(study.plan, condition)}: it ` +
                `works loose, and once aged drops ${fixed(2 * connector('accessory-12v').agedOhm * value, 2)} ` +
                'V.',
              numbers: { amps: value, agedDropV: 2 * connector('accessory-12v').agedOhm * value },
            },
          ]
        }),
  fixes: (found, study) => {
    const lead = leadById(study.plan, found.place)!
    const end = lead.ends?.from?.connector === 'accessory-12v' ? ('from' as const) : ('to' as const)
    const part = partById(study.plan, partIdOf(lead[end]))!
    const better = changeEnd(study.plan, lead, end, 'stack-45')
    // A source's own socket is the field of its one terminal; a block's port says its connector.
    const terminal =
      'terminal' in part && part.terminal === 'accessory-12v'
        ? setField(study.plan, part.id, 'terminal', 'stack-45')
        : (setTerminalConnector(study.plan, lead[end], 'stack-45') ?? [])
    return [
      {
        label: `A lead of its own from ${study.name(part)}, stacking contacts in place of the socket`,
        patch: [...better.patch, ...terminal],
      },
    ]
  },
}

export const adaptersInRow: Check = {
  id: 'adapters-in-row',
  severities: ['caution'],
  looksAt: 'the way to every load',
  title: 'Adapters in a row',
  why: 'Each adapter costs two contacts of drop and heat and a place to come apart. Two of them are one made right.',
  source: 'contact resistances of the catalogue',
  find: study =>
    partsOf(study.plan.parts, 'adapter').length < 2
      ? []
      : study.loads.flatMap((load): Found[] => {
          const way = wayTo(study, load.id)
          const adapters = [...new Set(way.flatMap(l => [partIdOf(l.from), partIdOf(l.to)]))].flatMap(
            id => asKind(partById(study.plan, id), 'adapter') ?? [],
          )
          if (adapters.length < 2) return []
          return [
            {
              severity: 'caution',
              place: load.id,
              also: adapters.map(a => a.id),
              condition: null,
              title: `${adapters.length} adapters on the way to ${study.name(load)}`,
              message:
                `The current to ${study.name(load)} passes ${adapters.map(study.name).join(' and ')}: ` +
                `${2 * adapters.length} matings more than a lead made for it.`,
              numbers: { adapters: adapters.length },
            },
          ]
        }),
  fixes: (found, study) => {
    const [first, second] = found.also!.map(id => partById(study.plan, id) as PartOf<'adapter'>)
    const between = study.plan.leads.find(l =>
      [partIdOf(l.from), partIdOf(l.to)].every(id => id === first!.id || id === second!.id),
    )
    const after = study.plan.leads.find(
      l => l !== between && (partIdOf(l.from) === second!.id || partIdOf(l.to) === second!.id),
    )
    if (!first || !second || !between || !after || first.dropper || second.dropper) return []
    const firstTerminal = partIdOf(between.from) === first.id ? between.from : between.to
    const end = partIdOf(after.from) === second.id ? 'from' : 'to'
    const field = firstTerminal.endsWith('.a') ? 'a' : 'b'
    const connectorId = after[end].endsWith('.a') ? second.a : second.b
    const kept = connector(field === 'a' ? first.b : first.a).label
    return [
      {
        label: `One adapter, ${kept} to ${connector(connectorId).label}`,
        patch: [
          ...setField(study.plan, first.id, field, connectorId),
          ...landEnd(study.plan, after, end, firstTerminal),
          ...removeAll(study.plan, [between.id, second.id]),
        ],
      },
    ]
  },
}

export const exposedPins: Check = {
  id: 'exposed-pins',
  severities: ['danger'],
  looksAt: 'gendered connectors whose sex is said, unplugged',
  title: 'Live side left as exposed pins',
  why:
    'Unplugged, the side that comes from the source stays live. If it carries the pins, the first key or ring ' +
    'that touches them is a short circuit.',
  source: 'practice: sockets on the source side',
  find: study =>
    study.plan.leads.flatMap((lead): Found[] => {
      const live = sourceEnd(study, lead)
      return (['from', 'to'] as const).flatMap((end): Found[] => {
        const fitted = lead.ends?.[end]
        if (!live || !fitted?.sex || !connector(fitted.connector).gendered) return []
        // Toward its source a lead has to be the plug; toward its load it is itself the live side.
        const left = `${study.name(partById(study.plan, partIdOf(lead[end]))!)} is left with`
        const wrong = end === live ? fitted.sex === 'socket' : fitted.sex === 'plug'
        return wrong
          ? [
              {
                severity: 'danger',
                place: lead.id,
                also: [lead[end]],
                condition: null,
                title: `Live pins at ${terminalName(study.plan, lead[end])} when unplugged`,
                message:
                  `Unplugged at ${terminalName(study.plan, lead[end])}, ` +
                  `${end === live ? left : `${leadName(lead)} ends in`} ` +
                  `live pins: the ${connector(fitted.connector).label} is the wrong way round.`,
                numbers: {},
              },
            ]
          : []
      })
    }),
  fixes: (found, study) => {
    const lead = leadById(study.plan, found.place)!
    const end = lead.from === found.also![0] ? ('from' as const) : ('to' as const)
    const sex = lead.ends![end]!.sex === 'plug' ? 'socket' : 'plug'
    return [
      {
        label: `A ${sex} on the lead, and its counterpart at ${terminalName(study.plan, lead[end])}`,
        patch: setField(study.plan, lead.id, `ends.${end}.sex`, sex),
      },
    ]
  },
}

/** Families that go together both ways round, or whose polarity no shape fixes. */
const REVERSIBLE: Record<string, string> = {
  'banana-4': 'goes in both ways round',
  'two-pole-bullet': 'is wired the other way round on many solar leads',
}

/** Where bullet leads of either polarity are met: at panels, controllers and packs. */
const isSolarOrPack = (part: Part) =>
  Boolean(asKind(part, 'panel') ?? asKind(part, 'controller') ?? asKind(part, 'battery'))

export const polarityTrap: Check = {
  id: 'polarity-trap',
  severities: ['caution'],
  looksAt: 'all',
  title: 'Polarity left to luck',
  why:
    'Reversed for a moment, most radios blow their input; nothing in these connectors prevents it. Meter each ' +
    'before its first use and mark it.',
  source: 'connector families of the catalogue',
  find: study =>
    study.plan.leads.flatMap(lead =>
      (['from', 'to'] as const).flatMap((end): Found[] => {
        const fitted = lead.ends?.[end]
        const why = fitted && REVERSIBLE[fitted.connector]
        if (!why || fitted.polarityMarked) return []
        const part = partById(study.plan, partIdOf(lead[end]))!
        if (fitted.connector === 'two-pole-bullet' && !isSolarOrPack(part)) return []
        return [
          {
            severity: 'caution',
            place: lead[end],
            also: [lead.id],
            condition: null,
            title:
              `${capital(connector(fitted.connector).label)} at ` +
              `${terminalName(study.plan, lead[end])}: check the polarity`,
            message:
              `The ${connector(fitted.connector).label} of ${leadName(lead)} at ` +
              `${terminalName(study.plan, lead[end])} ${why}.`,
            numbers: {},
          },
        ]
      }),
    ),
  fixes: (found, study) => {
    const lead = leadById(study.plan, found.also![0]!)!
    const end = lead.from === found.place ? ('from' as const) : ('to' as const)
    return [
      {
        label: 'Metered and marked',
        patch: setField(study.plan, lead.id, `ends.${end}.polarityMarked`, true),
      },
    ]
  },
}
