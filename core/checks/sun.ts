import { chargesToV } from '../kinds/charging'
import { panelsOn } from '../kinds/controller'
import { setFields } from '../edit/set'
import { propose, type Proposal } from '../fixes/proposal'
import { asKind, kindOf, type PartOf } from '../kinds/index'
import { CELLS_WARMER_C, SILICON_PER_C } from '../kinds/panel'
import { partById } from '../plan/find'
import type { Study } from '../study/study'
import { against, celsius, volts } from '../units/show'
import { controllers } from './batteries'
import type { Check, Found } from './check'

/** Whether panels are enough for their controller. */

/** What an MPPT controller needs above the battery to work at all (typical of the class), V. */
const TRACKING_MARGIN_V = 1

export const panelHotVoltage: Check = {
  id: 'panel-hot-voltage',
  severities: ['fail'],
  looksAt: 'the hottest day of the site, panels in full sun',
  title: 'Panel too low to charge when hot',
  why:
    "A panel's voltage falls as it warms, and a controller can only go down from it: in the heat of a summer noon, " +
    'when most is expected, the battery is never filled.',
  source: 'Vmp · (1 + β·(T − 25)), cells 30 °C above the air; data sheets',
  find: study =>
    controllers(study).flatMap((controller): Found[] => {
      const output = kindOf(controller).charge?.(controller, study.around)
      const [panel] = [...panelsOn(controller, study.around)].sort((a, b) => a.maxPowerV - b.maxPowerV)
      if (!panel || !output) return []
      const cellC = study.site.ambientC.high + CELLS_WARMER_C
      const hotV = panel.maxPowerV * (1 + (panel.voltsPerC ?? SILICON_PER_C.volts) * (cellC - 25))
      const needsV = chargesToV(output, study.around) + (controller.type === 'mppt' ? TRACKING_MARGIN_V : 0)
      if (hotV >= needsV) return []
      return [
        {
          severity: 'fail',
          place: controller.id,
          also: [panel.id],
          condition: null,
          title: `${study.name(panel)} is too low for ${study.name(controller)} on a hot day`,
          message:
            `With cells at ${celsius(cellC)} ${study.name(panel)} works best at ${against(volts, hotV, needsV)} ` +
            `(${volts(panel.maxPowerV)} at 25 °C); ${study.name(controller)} needs ${volts(needsV)} to fill ` +
            `the battery.`,
          numbers: { hotV, needsV, cellC },
        },
      ]
    }),
  fixes: (found, study) => {
    const panel = asKind(partById(study.plan, found.also![0]!)!, 'panel')
    return panel && !panel.members ? [twoInSeries(study, panel)] : []
  },
}

/** A second panel like it, in series: twice the volts at the same amps. */
function twoInSeries(study: Study, panel: PartOf<'panel'>): Proposal {
  const { openCircuitV, shortCircuitA, maxPowerV, maxPowerA } = panel
  const one = { string: 1, openCircuitV, shortCircuitA, maxPowerV, maxPowerA }
  const doubled = { openCircuitV: 2 * openCircuitV, maxPowerV: 2 * maxPowerV, members: [one, one] }
  return propose(`A second ${study.name(panel)}, in series with it`, setFields(study.plan, panel.id, doubled))
}
