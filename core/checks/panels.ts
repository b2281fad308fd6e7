import { setField, setFields } from '../edit/set'
import { propose, type Proposal } from '../fixes/proposal'
import { profileOf } from '../kinds/charging'
import { controller as controllerKind, panelsOn } from '../kinds/controller'
import type { PartOf } from '../kinds/index'
import { hotShortCircuitA, openCircuitVolts, SUN_FACTOR } from '../kinds/panel'
import type { Study } from '../study/study'
import { against, amps, celsius, volts } from '../units/show'
import type { Check, Found } from './check'
import { controllers, part } from './batteries'
import { asGiven, fixed } from '../units/number'
import { anA, capital } from '../units/words'

/** Panels and the controller behind them. */

export const panelColdVoltage: Check = {
  id: 'panel-cold-voltage',
  severities: ['danger'],
  looksAt: 'the coldest morning of the site, panels open',
  title: "Panel string over the controller's voltage on the coldest day",
  why:
    "A panel's voltage rises as it gets colder, and at sunrise it is cold, open and in the sun at once. Over its " +
    "limit a controller's input is destroyed, and it may fail as a short.",
  source: 'Voc · (1 + β·(T − 25)), data sheets; NFPA 70 690.7',
  find: study =>
    controllers(study).flatMap((controller): Found[] => {
      const lowC = study.site.ambientC.low
      const worst = panelsOn(controller, study.around)
        .map(panel => ({ panel, openV: openCircuitVolts(panel, lowC) }))
        .sort((a, b) => b.openV - a.openV)[0]
      if (!worst || worst.openV < controller.maxPanelV) return []
      return [
        {
          severity: 'danger',
          limit: [controller.id, 'maxPanelV'],
          place: controller.id,
          also: [worst.panel.id],
          condition: null,
          title:
            `${study.name(worst.panel)}: ${fixed(worst.openV, 1)} V at ${celsius(lowC)} is too much for ` +
            `${study.name(controller)}`,
          message:
            `${against(volts, worst.openV, controller.maxPanelV)} stands at ` +
            `${study.name(worst.panel)} on a ${celsius(lowC)} morning ` +
            `(${volts(worst.panel.openCircuitV)} at 25 °C); ${study.name(controller)} stands ` +
            `${volts(controller.maxPanelV)}.`,
          numbers: { openV: worst.openV, maxPanelV: controller.maxPanelV, lowC },
        },
      ]
    }),
  fixes: (found, study) => {
    const panel = part(study, found.also![0]!) as PartOf<'panel'>
    const controller = part(study, found.place) as PartOf<'controller'>
    const larger = controllerKind.catalogue.find(
      r => r.part.maxPanelV > found.numbers.openV! && r.part.maxChargeA >= controller.maxChargeA,
    )
    return [
      ...inParallel(study, panel),
      ...(larger
        ? [
            {
              ...propose(
                `A controller that stands ${asGiven(larger.part.maxPanelV)} V`,
                setField(study.plan, controller.id, 'maxPanelV', larger.part.maxPanelV),
              ),
              cost: 'another controller',
            },
          ]
        : []),
    ]
  },
}

/** A string of panels joined side by side instead of one after the other. */
function inParallel(study: Study, panel: PartOf<'panel'>): Proposal[] {
  const members = panel.members ?? []
  const inString = Math.max(0, ...members.map(m => members.filter(o => (o.string ?? 1) === (m.string ?? 1)).length))
  if (inString < 2) return []
  return [
    {
      label: `The ${inString} panels in parallel, not in series`,
      cost: 'half the voltage, more current in the panel lead',
      patch: setFields(study.plan, panel.id, {
        openCircuitV: panel.openCircuitV / inString,
        maxPowerV: panel.maxPowerV / inString,
        shortCircuitA: panel.shortCircuitA * inString,
        maxPowerA: panel.maxPowerA * inString,
        ...Object.fromEntries(members.map((_, i) => [`members.${i}.string`, i + 1])),
      }),
    },
  ]
}

export const panelCurrent: Check = {
  id: 'panel-current',
  severities: ['fail'],
  looksAt: "full sun: 1.25 × the panels' short-circuit current",
  title: 'Panels give more current than the controller takes',
  why: 'Sun with reflection gives a quarter more than the label. A PWM controller has no way to refuse it.',
  source: 'NFPA 70 690.8 (1.25 × Isc)',
  find: study =>
    controllers(study).flatMap((controller): Found[] => {
      const hotC = study.site.ambientC.high
      const shortA =
        SUN_FACTOR * panelsOn(controller, study.around).reduce((sum, p) => sum + hotShortCircuitA(p, hotC), 0)
      const limit = controller.maxPanelA ?? controller.maxChargeA
      if (shortA <= limit + 1e-9) return []
      return [
        {
          severity: 'fail',
          limit: [controller.id, controller.maxPanelA === undefined ? 'maxChargeA' : 'maxPanelA'],
          place: controller.id,
          also: panelsOn(controller, study.around).map(p => p.id),
          condition: null,
          title: `Panels can give ${amps(shortA)} into ${study.name(controller)}`,
          message:
            `The panels give up to ${against(amps, shortA, limit)} (1.25 × ` +
            `their short-circuit current); the input of ` +
            `${study.name(controller)} takes ${amps(limit)}.`,
          numbers: { shortA, maxPanelA: limit },
        },
      ]
    }),
  fixes: (found, study) => {
    const size = [10, 15, 20, 30, 40, 60].find(a => a >= found.numbers.shortA!)
    const controller = part(study, found.place) as PartOf<'controller'>
    if (!size) return []
    const sizes = { maxPanelA: size, maxChargeA: Math.max(size, controller.maxChargeA) }
    const label = capital(anA(`${asGiven(size)} A controller in its place`))
    return [{ label, patch: setFields(study.plan, controller.id, sizes) }]
  },
}

/** Above this ratio of panel to battery voltage a PWM controller throws a third of the sun away. */
const PWM_RATIO = 1.45

export const pwmMismatch: Check = {
  id: 'pwm-mismatch',
  severities: ['caution'],
  looksAt: 'charging in full sun',
  title: 'PWM controller with a panel far above the battery',
  why:
    "A PWM controller joins the panel to the battery: the panel is pulled down to the battery's " +
    'voltage and what lies above it is lost.',
  source: "panel curve: power at the battery's voltage against power at its best point",
  find: study =>
    controllers(study).flatMap((controller): Found[] => {
      const { absorptionV } = profileOf(controller.chemistries, controller.set)
      const panels = panelsOn(controller, study.around)
      if (controller.type !== 'pwm' || absorptionV === null || !panels.length) return []
      const worst = panels.reduce((a, b) => (b.maxPowerV > a.maxPowerV ? b : a))
      if (worst.maxPowerV / absorptionV <= PWM_RATIO) return []
      const bestW = panels.reduce((w, p) => w + p.maxPowerV * p.maxPowerA, 0)
      const getsW = panels.reduce((w, p) => w + Math.min(p.maxPowerV, absorptionV) * p.shortCircuitA, 0)
      return [
        {
          severity: 'caution',
          place: controller.id,
          also: [worst.id],
          condition: null,
          title: `${study.name(controller)} throws ${fixed(bestW - getsW, 0)} of ${fixed(bestW, 0)} W away`,
          message:
            `${study.name(worst)} works best at ${volts(worst.maxPowerV)}; a PWM controller pulls it down to ` +
            `${volts(absorptionV)}: about ${fixed(getsW, 0)} W of ${fixed(bestW, 0)} W.`,
          numbers: { bestW, getsW, maxPowerV: worst.maxPowerV, absorptionV },
        },
      ]
    }),
  fixes: (found, study) => [
    propose('An MPPT controller in its place', setField(study.plan, found.place, 'type', 'mppt')),
  ],
}
