import { thickerSizes } from '../conductor/ladder'
import { conductorName } from '../conductor/resistance'
import { setField } from '../edit/set'
import { ampacityA } from '../conductor/ampacity'
import { swapConductor } from '../fixes/conductor'
import { propose, type Proposal } from '../fixes/proposal'
import { chargesToV } from '../kinds/charging'
import { panelsOn } from '../kinds/controller'
import { asKind, kindOf, partsOf } from '../kinds/index'
import { CELLS_WARMER_C, SILICON_PER_C, SUN_FACTOR } from '../kinds/panel'
import { leadById, leadName, nameOf, partById } from '../plan/find'
import { amps, celsius, volts } from '../units/show'
import { capital } from '../units/words'
import { controllers } from './batteries'
import type { Check, Found } from './check'

/** What lies between the panels and their controller, and whether they are enough for it. */

/** What an MPPT controller needs above the battery to work at all (typical of the class), V. */
const TRACKING_MARGIN_V = 1
/** Continuous sun on conductors and fuses: 1.25 for the sun and 1.25 for hours of it (NFPA 70, 690.8). */
const CONTINUOUS_SUN = SUN_FACTOR * 1.25

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

export const panelConductor: Check = {
  id: 'panel-conductor',
  severities: ['fail'],
  looksAt: 'full sun for hours: 1.56 × the short-circuit current of the panels on each lead',
  title: 'Panel lead too thin for hours of full sun',
  why: 'Sun with reflection gives a quarter more than the label, for hours: a panel lead is sized for 1.56 × Isc.',
  source: 'NFPA 70 690.8 (1.25 × 1.25)',
  find: study =>
    partsOf(study.plan.parts, 'panel').flatMap((panel): Found[] =>
      study.leadsOf(panel.id).flatMap((lead): Found[] => {
        const sunA = CONTINUOUS_SUN * panel.shortCircuitA
        const carriesA = study.ampacity(lead)
        if (sunA <= carriesA + 1e-9) return []
        return [
          {
            severity: 'fail',
            place: lead.id,
            also: [panel.id],
            condition: null,
            title: `${capital(leadName(lead))} is thin for ${amps(panel.shortCircuitA)} of sun`,
            message:
              `${capital(leadName(lead))} (${conductorName(lead.conductor)}) carries ${amps(carriesA)} where it ` +
              `lies; for ${amps(panel.shortCircuitA)} of short-circuit current it wants ${amps(sunA)} (1.56 ×).`,
            numbers: { sunA, ampacityA: carriesA },
          },
        ]
      }),
    ),
  fixes: (found, study) => {
    const lead = leadById(study.plan, found.place)!
    const enough = thickerSizes(lead.conductor).find(
      c => ampacityA(c, study.site.ampacity, study.ambient(lead).high, lead.bundledConductors) >= found.numbers.sunA!,
    )
    return enough ? [swapConductor(study.plan, lead, enough)] : []
  },
}

export const panelStrings: Check = {
  id: 'panel-strings',
  severities: ['danger'],
  looksAt: 'panels of three parallel strings and more',
  title: 'Parallel panel strings without a fuse each',
  why:
    'From three strings on, a shorted one is fed by all the others, more than its wires and its cells stand. Each ' +
    'string has its own fuse, made for direct current at its voltage.',
  source: 'IEC 62548: string overcurrent protection from three parallel strings',
  find: study =>
    partsOf(study.plan.parts, 'panel').flatMap((panel): Found[] => {
      const members = panel.members ?? []
      const strings = [...new Set(members.map(m => m.string ?? 1))]
      const bare = strings.filter(s => !members.some(m => (m.string ?? 1) === s && m.fused))
      if (strings.length < 3 || !bare.length) return []
      const othersA = (SUN_FACTOR * panel.shortCircuitA * (strings.length - 1)) / strings.length
      return [
        {
          severity: 'danger',
          place: panel.id,
          condition: null,
          title: `${bare.length} of ${strings.length} strings of ${nameOf(panel)} without a fuse`,
          message:
            `${nameOf(panel)} is ${strings.length} strings in parallel; a shorted one is fed ${amps(othersA)} by the ` +
            'others, and has no fuse of its own.',
          numbers: { strings: strings.length, bare: bare.length, othersA },
        },
      ]
    }),
  fixes: (found, study): Proposal[] => {
    const panel = asKind(partById(study.plan, found.place)!, 'panel')
    if (!panel?.members) return []
    const fused = panel.members.map(m => ({ ...m, fused: true }))
    return [propose('A fuse in each string', setField(study.plan, panel.id, 'members', fused))]
  },
}
