import { setItem } from '../edit/items'
import { setField, setPlan } from '../edit/set'
import { propose } from '../fixes/proposal'
import { partsOf } from '../kinds/index'
import type { Check, Found } from './check'
import { leadName } from '../plan/find'
import { capital } from '../units/words'

export const hiddenDiode: Check = {
  id: 'hidden-diode',
  severities: ['caution'],
  looksAt: 'all',
  title: 'Lead hides a diode without a label',
  why:
    'A lead that looks like any other and drops 0.7 V, or passes nothing the other way, costs somebody an ' +
    'evening; on the wrong radio it starves it.',
  source: 'practice',
  find: study => [
    ...study.plan.leads.flatMap(lead =>
      (lead.inline ?? []).flatMap((item): Found[] =>
        item.kind === 'dropper' && !item.labelled
          ? [
              {
                severity: 'caution',
                place: lead.id,
                also: [item.id],
                condition: null,
                title: `${capital(leadName(lead))} hides a diode`,
                message:
                  `${capital(leadName(lead))} has ${item.count ?? 1} ` +
                  `diode${(item.count ?? 1) > 1 ? 's' : ''} in it, and the plan does not say that it is labelled.`,
                numbers: {},
              },
            ]
          : [],
      ),
    ),
    ...partsOf(study.plan.parts, 'adapter')
      .filter(adapter => adapter.dropper && !adapter.labelled)
      .map((adapter): Found => ({
        severity: 'caution',
        place: adapter.id,
        condition: null,
        title: `${study.name(adapter)} hides a diode`,
        message: `${study.name(adapter)} has a diode in it, and the plan does not say that it is labelled.`,
        numbers: {},
      })),
  ],
  fixes: (found, study) =>
    found.also
      ? [
          {
            label: 'Label the lead: holds a diode',
            patch: setItem(study.plan, found.place, found.also[0]!, { labelled: true }),
          },
        ]
      : [propose('Label it: holds a diode', setField(study.plan, found.place, 'labelled', true))],
}

export const hookUpOrder: Check = {
  id: 'hook-up-order',
  severities: ['danger'],
  looksAt: "the owner's own order of connecting, where the plan has one",
  title: 'Panel connected before the battery',
  why:
    "A controller that meets the panel first has nothing to put its power into: it takes the panel's voltage for " +
    "the system's, and some are destroyed at once.",
  source: "controllers' manuals: battery first, panel second, loads last",
  find: study =>
    study.plan.hookUp === undefined
      ? []
      : partsOf(study.plan.parts, 'controller').flatMap((controller): Found[] => {
          const at = (terminal: string) =>
            Math.min(
              ...study
                .leadsAt(`${controller.id}.${terminal}`)
                .map(l => study.plan.hookUp!.indexOf(l.id))
                .filter(i => i >= 0),
            )
          const [panel, battery] = [at('panel'), at('battery')]
          if (!Number.isFinite(panel) || panel > battery) return []
          return [
            {
              severity: 'danger',
              place: controller.id,
              also: [study.plan.hookUp![panel]!],
              condition: null,
              title: `The panel meets ${study.name(controller)} before the battery`,
              message:
                `In the plan's order the panel's lead is connected as number ${panel + 1}, ` + "before the battery's.",
              numbers: { panelStep: panel + 1 },
            },
          ]
        }),
  fixes: (found, study) => {
    const order = study.plan.hookUp!
    const panel = found.also![0]!
    const battery = study
      .leadsAt(`${found.place}.battery`)
      .map(l => l.id)
      .filter(id => order.includes(id))
    const without = order.filter(id => id !== panel)
    const after = Math.max(...battery.map(id => without.indexOf(id)), -1)
    const mended = [...without.slice(0, after + 1), panel, ...without.slice(after + 1)]
    const own = "Wireman's own order: battery first, panel second, loads last"
    return battery.length
      ? [{ label: 'Battery first, panel second', patch: setPlan(study.plan, 'hookUp', mended) }]
      : [{ label: own, patch: setPlan(study.plan, 'hookUp', undefined) }]
  },
}
