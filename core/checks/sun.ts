import { chargesToV } from '../kinds/charging'
import { panelsOn } from '../kinds/controller'
import { kindOf } from '../kinds/index'
import { CELLS_WARMER_C, SILICON_PER_C } from '../kinds/panel'
import { nameOf } from '../plan/find'
import { celsius, volts } from '../units/show'
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
          title: `${nameOf(panel)} is too low for ${nameOf(controller)} on a hot day`,
          message:
            `With cells at ${celsius(cellC)} ${nameOf(panel)} works best at ${volts(hotV)} ` +
            `(${volts(panel.maxPowerV)} at 25 °C); ${nameOf(controller)} needs ${volts(needsV)} to fill the battery.`,
          numbers: { hotV, needsV, cellC },
        },
      ]
    }),
}
