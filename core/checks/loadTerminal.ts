import { conditionWords } from '../circuit/conditions'
import { landEnd } from '../edit/ends'
import { addItem } from '../edit/items'
import { setField } from '../edit/set'
import type { Proposal } from '../fixes/proposal'
import { hasDevice } from '../graph/device'
import { asKind } from '../kinds/index'
import { leadName, nameOf, partIdOf } from '../plan/find'
import type { Study } from '../study/study'
import { amps } from '../units/show'
import type { Check, Found } from './check'
import { controllers } from './batteries'

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
          place: `${controller.id}.load`,
          condition,
          title: `${amps(value)} on the load terminal of ${nameOf(controller)}`,
          message:
            `${amps(value)} is taken from the load terminal of ${nameOf(controller)} with ` +
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
  const ratedA = [5, 7.5, 10, 15, 20, 25, 30, 40].find(a => a >= 1.25 * through && a <= study.ampacity(lead))
  const fuse = ratedA && !hasDevice(lead) ? ({ kind: 'fuse', type: 'blade', ratedA, legs: 'positive' } as const) : null
  return [
    {
      label: `Move ${leadName(lead)} to ${nameOf(battery.part)}${fuse ? `, with a ${ratedA} A fuse` : ''}`,
      patch: [
        ...landEnd(study.plan, lead, end, battery.terminal),
        ...setField(study.plan, lead.id, `ends.${end}`, { connector: connectorId, method: 'crimp' }),
        ...(fuse ? addItem(study.plan, lead.id, fuse, { end }) : []),
      ],
      cost: 'no low-voltage cut-off any more',
    },
  ]
}
