import { conditionWords } from '../circuit/conditions'
import { landEnd } from '../edit/ends'
import { addItem } from '../edit/items'
import { setField } from '../edit/set'
import { propose, type Proposal } from '../fixes/proposal'
import { hasDevice } from '../graph/device'
import { asKind, isLoad } from '../kinds/index'
import { leadName, partById, partIdOf } from '../plan/find'
import type { Study } from '../study/study'
import { asGiven, figure } from '../units/number'
import { batteryEmf, restedVolts } from '../battery/emf'
import { against, amps, volts } from '../units/show'
import type { Check, Found } from './check'
import { controllers } from './batteries'
import { anA, someOf } from '../units/words'

export const loadTerminal: Check = {
  id: 'load-terminal',
  severities: ['fail'],
  looksAt: "all; what hangs on a controller's load terminal",
  title: 'Load terminal asked for more than it gives',
  why:
    "A controller's load terminal has a small switch of its own. A transmitter on it opens it at the first word, " +
    'or burns it.',
  source: "the controller's data sheet (maxLoadA)",
  find: study =>
    controllers(study).flatMap((controller): Found[] => {
      if (controller.maxLoadA === undefined) return []
      const { value, condition } = study.terminalAmps(`${controller.id}.load`)
      if (value <= controller.maxLoadA + 1e-9) return []
      return [
        {
          severity: 'fail',
          limit: [controller.id, 'maxLoadA'],
          place: `${controller.id}.load`,
          condition,
          title: `${amps(value)} on the load terminal of ${study.name(controller)}`,
          message:
            `${against(amps, value, controller.maxLoadA)} is taken from the load ` +
            `terminal of ${study.name(controller)} with ` +
            `${conditionWords(study.plan, condition)}; it gives ${amps(controller.maxLoadA)}.`,
          numbers: { amps: value, maxLoadA: controller.maxLoadA },
        },
      ]
    }),
  fixes: (found, study) => offLoadTerminal(study, partIdOf(found.place)),
}

/** Takes the leads off a load terminal and puts them on the battery, each with a fuse at the post. */
export function offLoadTerminal(study: Study, controllerId: string): Proposal[] {
  const battery = study.around(`${controllerId}.battery`).find(a => asKind(a.part, 'battery'))
  const lead = study.leadsAt(`${controllerId}.load`)[0]
  if (!battery || !lead) return []
  const end = lead.from === `${controllerId}.load` ? 'from' : 'to'
  const connectorId = study.solved.network.terminals.get(battery.terminal)?.connector ?? 'ring-m6'
  const through = study.leadAmps(lead).value
  const ratedA = [5, 7.5, 10, 15, 20, 25, 30, 40].find(a => a >= 1.25 * through && a <= study.largestFuse(lead))
  const fuse = ratedA && !hasDevice(lead) ? ({ kind: 'fuse', type: 'blade', ratedA, legs: 'positive' } as const) : null
  const withFuse = fuse ? `, with ${anA(`${asGiven(fuse.ratedA)} A fuse`)}` : ''
  return [
    {
      label: `Move ${leadName(lead)} to ${study.name(battery.part)}${withFuse}`,
      patch: [
        ...landEnd(study.plan, lead, end, battery.terminal),
        ...setField(study.plan, lead.id, `ends.${end}`, { connector: connectorId, method: 'crimp' }),
        ...(fuse ? addItem(study.plan, lead.id, fuse, { end }) : []),
      ],
      cost: 'no low-voltage cut-off any more',
    },
  ]
}

/** A cut-off is set this much under what stands at the terminal, V: room for a worn lead. */
const CUT_ROOM_V = 0.2

export const loadCutOff: Check = {
  id: 'load-cut-off',
  severities: ['fail', 'caution'],
  looksAt: "all; the voltage at a controller's battery terminal against its low-voltage cut-off",
  title: 'Cut-off that comes too soon, or never',
  why:
    'A controller cuts its load terminal by the voltage it sees under load. Set high, it goes off at a long over ' +
    'with ' +
    'half of the battery left; set under what an empty battery rests at, it guards nothing.',
  source: "the controller's manual (lowVoltageCutV); rested volts of the chemistry",
  find: study =>
    controllers(study).flatMap((controller): Found[] => {
      const { lowVoltageCutV: cutV } = controller
      const battery = study.around(`${controller.id}.battery`).flatMap(a => asKind(a.part, 'battery') ?? [])[0]
      const span = study.arrival(`${controller.id}.battery`)
      if (cutV === undefined || !battery || !span || !study.leadsAt(`${controller.id}.load`).length) return []
      const { value, condition } = span.low
      const restsV = batteryEmf(battery, 'low')
      const emptyV = restedVolts(battery, 0)
      const at = { place: controller.id, also: [battery.id] }
      if (value < cutV)
        return [
          {
            ...at,
            severity: 'fail',
            condition,
            title: `${study.name(controller)} cuts the load off too soon`,
            message:
              `${against(volts, value, cutV)} stands at the battery terminal of ${study.name(controller)} with ` +
              `${conditionWords(study.plan, condition)}; it cuts its load off under ${volts(cutV)}, and ` +
              `${study.name(battery)} rests at ${volts(restsV)} when it is used as planned.`,
            numbers: { atV: value, cutV, restsV },
          },
        ]
      if (cutV >= emptyV - 1e-9) return []
      return [
        {
          ...at,
          severity: 'caution',
          condition: null,
          title: `The cut-off of ${study.name(controller)} guards nothing`,
          message:
            `${study.name(controller)} cuts its load off under ${volts(cutV)}; ${study.name(battery)} rests at ` +
            `${volts(emptyV)} when nothing is left in it.`,
          numbers: { cutV, emptyV, atV: value },
        },
      ]
    }),
  fixes: (found, study) => {
    const { atV, emptyV } = found.numbers
    const cutV = Math.floor(10 * (atV! - CUT_ROOM_V)) / 10
    const battery = asKind(partById(study.plan, found.also![0]!), 'battery')!
    if (cutV < (emptyV ?? restedVolts(battery, 0))) return []
    return [propose(`Cut off under ${volts(cutV)}`, setField(study.plan, found.place, 'lowVoltageCutV', cutV))]
  },
}

export const loadTimer: Check = {
  id: 'load-timer',
  severities: ['caution'],
  looksAt: "what hangs on a controller's load terminal",
  title: 'Load terminal on a timer',
  why:
    'Controllers are sold for lamps: their load terminal may go on at dusk and off after some hours. A radio on it ' +
    'goes off by itself.',
  source: "the controller's manual (loadTimerH)",
  find: study =>
    controllers(study).flatMap((controller): Found[] => {
      const fed = study.around(`${controller.id}.load`).filter(a => isLoad(a.part))
      if (!controller.loadTimerH || !fed.length) return []
      return [
        {
          severity: 'caution',
          place: controller.id,
          also: fed.map(a => a.part.id),
          condition: null,
          title: `${study.name(controller)} switches its load off after ${figure(controller.loadTimerH)} h`,
          message:
            `The load terminal of ${study.name(controller)} is on a timer of ${figure(controller.loadTimerH)} h: ` +
            `${someOf(fed.map(a => study.name(a.part)))} ${fed.length > 1 ? 'go' : 'goes'} off by itself.`,
          numbers: { loadTimerH: controller.loadTimerH },
        },
      ]
    }),
  fixes: (found, study) => [
    propose('Take the load terminal off its timer', setField(study.plan, found.place, 'loadTimerH', undefined)),
  ],
}
