import { chemistry } from '../catalog/chemistries'
import { conditionWords } from '../circuit/conditions'
import { landEnd } from '../edit/ends'
import { addItem } from '../edit/items'
import { setField, setFields } from '../edit/set'
import { propose, type Proposal } from '../fixes/proposal'
import { hasDevice, isSwitch } from '../graph/device'
import { batteryLimit } from '../kinds/battery'
import { chargersOf, profileOf } from '../kinds/charging'
import { controller as controllerKind, panelsOn } from '../kinds/controller'
import { asKind, kindOf, partsOf, type Part, type PartOf } from '../kinds/index'
import type { ChargeOutput } from '../kinds/kind'
import { openCircuitVolts, SUN_FACTOR } from '../kinds/panel'
import { leadName, nameOf, partById, partIdOf } from '../plan/find'
import type { Lead } from '../plan/schema'
import type { Study } from '../study/study'
import { amps, celsius, volts } from '../units/show'
import type { Check, Found } from './check'

type Battery = PartOf<'battery'>
const batteries = (study: Study) => partsOf(study.plan.parts, 'battery').filter(b => b.charged !== 'elsewhere')
const controllers = (study: Study) => partsOf(study.plan.parts, 'controller')

/** Every charging device on a battery, as part and output. */
const pairs = (study: Study) =>
  batteries(study).flatMap(battery =>
    chargersOf(battery.id, study.around).map(({ partId, output }) => ({
      battery,
      device: part(study, partId),
      output,
    })),
  )

const part = (study: Study, id: string) => partById(study.plan, id)!
const batteryAt = (study: Study, id: string) => part(study, id) as Battery

/** How a device charges. */
const outputOf = (study: Study, deviceId: string): ChargeOutput | null => {
  const device = part(study, deviceId)
  return kindOf(device).charge?.(device, study.around) ?? null
}

function setTo(study: Study, deviceId: string, battery: Battery): Proposal | null {
  const now = outputOf(study, deviceId)
  const { chemistry: wanted } = battery
  if (!now?.profiles[wanted] || now.chemistry === wanted) return null
  const label = `Set ${nameOf(part(study, deviceId))} to ${chemistry(wanted).label}`
  return propose(label, setField(study.plan, deviceId, now.fields.set, wanted))
}

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
          place: controller.id,
          also: [worst.panel.id],
          condition: null,
          title:
            `${nameOf(worst.panel)}: ${worst.openV.toFixed(1)} V at ${celsius(lowC)} is too much for ` +
            `${nameOf(controller)}`,
          message:
            `${nameOf(worst.panel)} stands at ${volts(worst.openV)} on a ${celsius(lowC)} morning ` +
            `(${volts(worst.panel.openCircuitV)} at 25 °C); ${nameOf(controller)} stands ` +
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
                `A controller that stands ${larger.part.maxPanelV} V`,
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
  why: 'Sun with reflection gives a quarter more than the label. A chopping controller has no way to refuse it.',
  source: 'NFPA 70 690.8 (1.25 × Isc)',
  find: study =>
    controllers(study).flatMap((controller): Found[] => {
      const shortA = SUN_FACTOR * panelsOn(controller, study.around).reduce((sum, p) => sum + p.shortCircuitA, 0)
      const limit = controller.maxPanelA ?? controller.maxChargeA
      if (shortA <= limit + 1e-9) return []
      return [
        {
          severity: 'fail',
          place: controller.id,
          also: panelsOn(controller, study.around).map(p => p.id),
          condition: null,
          title: `Panels can give ${amps(shortA)} into ${nameOf(controller)}`,
          message:
            `The panels give up to ${amps(shortA)} (1.25 × their short-circuit current); the input of ` +
            `${nameOf(controller)} takes ${amps(limit)}.`,
          numbers: { shortA, maxPanelA: limit },
        },
      ]
    }),
  fixes: (found, study) => {
    const size = [10, 15, 20, 30, 40, 60].find(a => a >= found.numbers.shortA!)
    const controller = part(study, found.place) as PartOf<'controller'>
    if (!size) return []
    const sizes = { maxPanelA: size, maxChargeA: Math.max(size, controller.maxChargeA) }
    return [{ label: `A ${size} A controller in its place`, patch: setFields(study.plan, controller.id, sizes) }]
  },
}

/** Above this ratio of panel to battery voltage a chopping controller throws a third of the sun away. */
const PWM_RATIO = 1.45

export const pwmMismatch: Check = {
  id: 'pwm-mismatch',
  severities: ['caution'],
  looksAt: 'charging in full sun',
  title: 'Chopping controller with a panel far above the battery',
  why:
    "A chopping (PWM) controller joins the panel to the battery: the panel is pulled down to the battery's " +
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
          title: `${nameOf(controller)} throws ${(bestW - getsW).toFixed(0)} of ${bestW.toFixed(0)} W away`,
          message:
            `${nameOf(worst)} works best at ${volts(worst.maxPowerV)}; a chopping controller pulls it down to ` +
            `${volts(absorptionV)}: about ${getsW.toFixed(0)} W of ${bestW.toFixed(0)} W.`,
          numbers: { bestW, getsW, maxPowerV: worst.maxPowerV, absorptionV },
        },
      ]
    }),
  fixes: (found, study) => [
    propose('A tracking (MPPT) controller in its place', setField(study.plan, found.place, 'type', 'mppt')),
  ],
}

export const chargeChemistry: Check = {
  id: 'charge-chemistry',
  severities: ['danger'],
  looksAt: 'charging; every charging device against the battery it is wired to',
  title: 'Charging device set to another chemistry',
  why:
    'Each chemistry has its own end-of-charge voltage. Over it cells vent or burn; under it the battery never ' +
    'fills. Lithium cells take no equalising and no constant float.',
  source: "the chemistry's charging voltages; the device's setting",
  find: study =>
    pairs(study).flatMap(({ battery, device, output }): Found[] => {
      const label = chemistry(battery.chemistry).label
      const known = Object.keys(output.profiles)
      if (known.length && !output.profiles[battery.chemistry]) {
        return [
          {
            severity: 'danger',
            place: device.id,
            also: [battery.id],
            condition: 'charging/idle',
            title: `${nameOf(device)} has no setting for ${label}`,
            message:
              `${nameOf(device)} knows ${known.map(id => chemistry(id).label).join(', ')}; ${nameOf(battery)} is ` +
              `${label}.`,
            numbers: {},
          },
        ]
      }
      if (output.chemistry === undefined || output.chemistry === battery.chemistry) return []
      return [
        {
          severity: 'danger',
          place: device.id,
          also: [battery.id],
          condition: 'charging/idle',
          title: `${nameOf(device)} is set to ${chemistry(output.chemistry).label}`,
          message:
            `${nameOf(device)} is set to ${chemistry(output.chemistry).label}` +
            `${output.absorptionV === null ? '' : ` (${volts(output.absorptionV)})`}; ${nameOf(battery)} is ${label}.`,
          numbers: output.absorptionV === null ? {} : { absorptionV: output.absorptionV },
        },
      ]
    }),
  fixes: (found, study) => [setTo(study, found.place, batteryAt(study, found.also![0]!))].filter(p => p !== null),
}

export const chargeVoltage: Check = {
  id: 'charge-voltage',
  severities: ['danger', 'caution'],
  looksAt: "charging; absorption and float voltage of every charging device against the battery's chemistry",
  title: 'Charging voltage outside what the battery wants',
  why:
    'Too high an absorption voltage harms cells at once; too low a one never fills them; a float above the ' +
    "chemistry's, left on for weeks, wears the battery out.",
  source: 'charging voltages of the chemistry',
  find: study =>
    pairs(study).flatMap(({ battery, device, output }): Found[] => {
      const { absorptionV: range, floatV: floats, label } = chemistry(battery.chemistry)
      // Set to another chemistry: that is the finding.
      if (
        !range ||
        output.absorptionV === null ||
        (output.chemistry !== undefined && output.chemistry !== battery.chemistry)
      )
        return []
      const [low, high] = range.map(v => v * battery.seriesCells) as [number, number]
      const at = { place: device.id, also: [battery.id], condition: 'charging/idle' }
      if (output.absorptionV > high + 0.05) {
        return [
          {
            ...at,
            severity: 'danger',
            title: `${nameOf(device)} charges to ${volts(output.absorptionV)}`,
            message:
              `${nameOf(device)} charges to ${volts(output.absorptionV)}; ${label} with ${battery.seriesCells} ` +
              `cells stands ${volts(high)}.`,
            numbers: { absorptionV: output.absorptionV, highV: high },
          },
        ]
      }
      if (output.absorptionV < low - 0.05) {
        return [
          {
            ...at,
            severity: 'caution',
            title: `${nameOf(device)} never fills ${nameOf(battery)}`,
            message:
              `${nameOf(device)} charges to ${volts(output.absorptionV)}; ${label} with ${battery.seriesCells} ` +
              `cells fills from ${volts(low)}.`,
            numbers: { absorptionV: output.absorptionV, lowV: low },
          },
        ]
      }
      const highestFloat = floats && floats[1] * battery.seriesCells
      if (output.floatV !== null && (highestFloat === null || output.floatV > highestFloat + 0.05)) {
        return [
          {
            ...at,
            severity: 'caution',
            title: `${nameOf(device)} floats too high to be left on`,
            message:
              `${nameOf(device)} floats at ${volts(output.floatV)}; ${label} ` +
              (highestFloat === null
                ? 'is not left on float.'
                : `with ${battery.seriesCells} cells is left at ${volts(highestFloat)} at most.`),
            numbers: { floatV: output.floatV, ...(highestFloat !== null && { highestFloatV: highestFloat }) },
          },
        ]
      }
      return []
    }),
  fixes: (found, study) => {
    const battery = batteryAt(study, found.also![0]!)
    const other = setTo(study, found.place, battery)
    if (other) return [other]
    const now = outputOf(study, found.place)
    const { absorptionV: range, floatV: floats } = chemistry(battery.chemistry)
    if (!now?.chemistry || !range) return []
    const whole = (perCell: number) => Number((perCell * battery.seriesCells).toFixed(2))
    const absorptionV = whole((range[0] + range[1]) / 2)
    const floatV = floats && whole(floats[0])
    const float = floatV ? `float ${floatV} V` : 'no float'
    const label = `Set ${nameOf(part(study, found.place))} to ${absorptionV} V, ${float}`
    return [
      propose(
        label,
        setField(study.plan, found.place, `${now.fields.profiles}.${now.chemistry}`, { absorptionV, floatV }),
      ),
    ]
  },
}

export const chargeCurrent: Check = {
  id: 'charge-current',
  severities: ['danger'],
  looksAt: 'charging, all idle; every charging device at full current',
  title: 'Battery charged faster than it may be',
  why:
    'Lithium cells charged too fast plate metal and can short inside; lead-acid gases and warms. A small pack ' +
    'wants a small charge current.',
  source: "the battery's data sheet (maxChargeA, BMS limit)",
  find: study =>
    batteries(study).flatMap((battery): Found[] => {
      const limit = batteryLimit(battery, 'maxChargeA')
      const devices = chargersOf(battery.id, study.around)
      const chargeA = devices.reduce((sum, d) => sum + d.output.maxA, 0)
      const others = batteries(study).filter(b => study.around(battery.id).some(a => a.part.id === b.id))
      const share = others.length ? battery.capacityAh / others.reduce((ah, b) => ah + b.capacityAh, 0) : 1
      if (limit === undefined || chargeA * share <= limit + 1e-9) return []
      return [
        {
          severity: 'danger',
          place: battery.id,
          also: devices.map(d => d.partId),
          condition: 'charging/idle',
          title: `${nameOf(battery)} charged with ${amps(chargeA * share)}`,
          message:
            `${devices.map(d => nameOf(part(study, d.partId))).join(' and ')} can put ${amps(chargeA * share)} ` +
            `into ${nameOf(battery)}; it takes ${amps(limit)} (${(limit / battery.capacityAh).toFixed(1)} C).`,
          numbers: { chargeA: chargeA * share, maxChargeA: limit },
        },
      ]
    }),
  fixes: (found, study) =>
    found.also!.flatMap((id): Proposal[] => {
      const now = outputOf(study, id)!
      const room = found.numbers.maxChargeA! - (found.numbers.chargeA! - now.maxA)
      if (room <= 0) return []
      return ofCurrent(study, id, a => a <= room, 'largest')
    }),
}

/** Charge currents that devices are sold with, A. */
const SOLD_A = [0.5, 1, 2, 3, 4, 5, 8, 10, 15, 20, 30] as const

/**
 * A device made to charge with a current that fits: set to one of its choices, or another of that size in its place.
 */
function ofCurrent(
  study: Study,
  deviceId: string,
  fits: (amps: number) => boolean,
  prefer: 'largest' | 'least',
): Proposal[] {
  const device = part(study, deviceId)
  const { fields, choicesA } = outputOf(study, deviceId)!
  const fitting = (choicesA ?? SOLD_A).filter(fits)
  const chosen = prefer === 'largest' ? fitting.at(-1) : fitting[0]
  if (chosen === undefined) return []
  const another = `A ${chosen} A ${kindOf(device).label}`
  const inItsPlace = prefer === 'largest' ? `${another}, or limit it to that` : `${another} in its place`
  return [
    propose(
      choicesA ? `Set ${nameOf(device)} to ${chosen} A` : inItsPlace,
      setField(study.plan, deviceId, fields.current, chosen),
    ),
  ]
}

export const chargeRateLow: Check = {
  id: 'charge-rate-low',
  severities: ['caution'],
  looksAt: 'charging, all idle',
  title: 'Charges too slowly to keep up',
  why:
    'What the station takes while it only listens goes on day and night; a charge current below it never fills ' +
    'the battery.',
  source: 'charge current against the idle draw',
  find: study =>
    batteries(study).flatMap((battery): Found[] => {
      const devices = chargersOf(battery.id, study.around)
      const chargeA = devices.reduce((sum, d) => sum + d.output.maxA, 0)
      const idle = study.point('charging/idle')
      if (!devices.length || !idle || idle.status !== 'ok') return []
      const idleA = study.batteryIdleA(battery.id)
      if (idleA === null || chargeA >= idleA) return []
      return [
        {
          severity: 'caution',
          place: devices[0]!.partId,
          also: [battery.id],
          condition: 'charging/idle',
          title: `${amps(chargeA)} of charge does not keep up with ${amps(idleA)}`,
          message:
            `All idle the station takes ${amps(idleA)}; ` +
            `${devices.map(d => nameOf(part(study, d.partId))).join(' and ')} ` +
            `${devices.length > 1 ? 'give' : 'gives'} ${amps(chargeA)}.`,
          numbers: { chargeA, idleA },
        },
      ]
    }),
  fixes: (found, study) => ofCurrent(study, found.place, a => a >= found.numbers.idleA!, 'least'),
}

export const lithiumCold: Check = {
  id: 'lithium-cold',
  severities: ['danger'],
  looksAt: 'charging on the coldest day of the place the battery stands in',
  title: 'Lithium battery charged in the cold',
  why:
    'Below freezing lithium plates as metal on the anode instead of going in: capacity is lost for good and the ' +
    'cell can short inside later. Something has to keep the charge off.',
  source: "charging limits of the chemistry; the battery's own lowTempChargeC",
  find: study =>
    batteries(study).flatMap((battery): Found[] => {
      const devices = chargersOf(battery.id, study.around)
      const limitC = battery.lowTempChargeC ?? battery.bms?.lowTempChargeC ?? chemistry(battery.chemistry).chargeAboveC
      const lowC = study.plan.site?.zones?.find(z => z.id === battery.zone)?.ambientC.low ?? study.site.ambientC.low
      if (
        !devices.length ||
        limitC === null ||
        lowC >= limitC ||
        !['lifepo4', 'nmc', 'lipo'].includes(battery.chemistry)
      )
        return []
      const locks =
        battery.lockOut ||
        battery.bms?.lowTempChargeC !== undefined ||
        devices.every(d => (part(study, d.partId) as { lockOut?: boolean }).lockOut)
      if (locks) return []
      return [
        {
          severity: 'danger',
          place: battery.id,
          also: devices.map(d => d.partId),
          condition: 'charging/idle',
          title: `${nameOf(battery)} may be charged at ${celsius(lowC)}`,
          message:
            `It gets down to ${celsius(lowC)} where ${nameOf(battery)} stands; it may not be charged below ` +
            `${celsius(limitC)}, and nothing in the plan keeps the charge off.`,
          numbers: { lowC, limitC },
        },
      ]
    }),
  fixes: (found, study) => [
    propose('A pack or relay with a cold charge cut-off', setField(study.plan, found.place, 'lockOut', true)),
    ...(found.also!.length === 1
      ? [
          propose(
            `A temperature sensor on ${nameOf(part(study, found.also![0]!))}`,
            setField(study.plan, found.also![0]!, 'lockOut', true),
          ),
        ]
      : []),
  ],
}

export const ventilation: Check = {
  id: 'ventilation',
  severities: ['danger'],
  looksAt: 'charging',
  title: 'Flooded battery charged without ventilation',
  why:
    'A flooded battery gives off hydrogen and oxygen on charge; a spark at a loose clamp is enough. The gas has ' +
    'to be led outdoors, and switches and fuses kept out of its way.',
  source: 'IEC 62485-2: ventilation of secondary batteries',
  find: study =>
    batteries(study).flatMap((battery): Found[] => {
      if (battery.chemistry !== 'flooded' || battery.ventilated) return []
      return [
        {
          severity: 'danger',
          place: battery.id,
          condition: 'charging/idle',
          title: `${nameOf(battery)} gives off gas on charge`,
          message:
            `${nameOf(battery)} is flooded and charged where it stands; the plan does not say that its gas is led ` +
            'outdoors.',
          numbers: { capacityAh: battery.capacityAh },
        },
      ]
    }),
  fixes: (found, study) => [
    propose('A vented box, its gas led outdoors', setField(study.plan, found.place, 'ventilated', true)),
  ],
}

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

export const vehicleEngineOff: Check = {
  id: 'vehicle-engine-off',
  severities: ['caution'],
  looksAt: 'charging from a vehicle with its engine off',
  title: 'Charging from a vehicle with the engine off',
  why:
    'With the engine off the charge comes out of the starter battery, and the next morning the vehicle does not ' +
    'start. A charger that starts with the engine, or a switch, keeps it.',
  source: 'practice of vehicle installs',
  find: study =>
    partsOf(study.plan.parts, 'vehicle').flatMap(vehicle =>
      study.around(vehicle.id).flatMap(({ part: drain, terminal }): Found[] => {
        if (!chargesFromWire(drain, terminal) || asKind(drain, 'converter')?.ignition) return []
        const ways = [...study.leadsOf(vehicle.id), ...study.leadsOf(drain.id)]
        if (ways.some(l => l.inline?.some(isSwitch))) return []
        return [
          {
            severity: 'caution',
            place: drain.id,
            also: [vehicle.id],
            condition: null,
            title: `${nameOf(drain)} drains ${nameOf(vehicle)}`,
            message:
              `${nameOf(drain)} hangs on ${nameOf(vehicle)} with nothing to open the way: ` +
              `at ${volts(vehicle.engineOffV)}, engine off, it goes on drawing from the starter battery.`,
            numbers: { engineOffV: vehicle.engineOffV },
          },
        ]
      }),
    ),
  fixes: (found, study) => {
    const lead = study.leadsOf(found.also![0]!)[0]
    const drain = part(study, found.place)
    const ignition = asKind(drain, 'converter')
      ? [propose(`Start ${nameOf(drain)} by the ignition`, setField(study.plan, drain.id, 'ignition', true))]
      : []
    return [...ignition, ...(lead ? [switchIn(study, lead, true, `A switch in ${leadName(lead)}`)] : [])]
  },
}

/** Whether what stands on a vehicle's wire takes charge from it: a DC-DC charger by its input, or a battery. */
const chargesFromWire = (drain: Part, terminal: string) =>
  asKind(drain, 'battery') !== null || (Boolean(asKind(drain, 'converter')?.charges) && terminal.endsWith('.in'))

/** Where a hand reaches a switch, m from the lead's from end. */
const SWITCH_M = 0.3

const switchIn = (study: Study, lead: Lead, closed: boolean, label: string): Proposal => ({
  label,
  patch: addItem(study.plan, lead.id, { kind: 'switch', closed }, { fromEndM: SWITCH_M }),
})

export const supplyCharge: Check = {
  id: 'supply-charge',
  severities: ['fail'],
  looksAt: 'charging, all active',
  title: 'Supply too small for charge and transmit at once',
  why:
    'A gate charges the battery from the same supply that carries the station; together they may ask for more ' +
    'than it gives, just while transmitting.',
  source: "the supply's data sheet (continuousA)",
  find: study =>
    partsOf(study.plan.parts, 'supply').flatMap((supply): Found[] => {
      const { value, condition } = study.partAmps(supply)
      const chargeA = chargeOn(study, supply.id)
      if (chargeA === 0 || value <= supply.continuousA || value - chargeA > supply.continuousA) return []
      return [
        {
          severity: 'fail',
          place: supply.id,
          condition,
          title: `${nameOf(supply)} cannot charge and carry the station`,
          message:
            `${amps(value)} is drawn from ${nameOf(supply)} with ${conditionWords(study.plan, condition)}, ` +
            `${amps(chargeA)} of it for charging; it gives ${amps(supply.continuousA)} for long.`,
          numbers: { amps: value, chargeA, continuousA: supply.continuousA },
        },
      ]
    }),
  fixes: (found, study) =>
    study.around(found.place).flatMap(({ part: other }): Proposal[] => {
      const gate = asKind(other, 'gate')
      const room = found.numbers.continuousA! - (found.numbers.amps! - found.numbers.chargeA!)
      const choice = gate?.chargeAmps?.filter(a => a <= room).at(-1)
      return gate && choice
        ? [propose(`Set ${nameOf(gate)} to ${choice} A`, setField(study.plan, gate.id, 'chargeA', choice))]
        : []
    }),
}

/** What gates on a supply take from it for charging, A. */
export function chargeOn(study: Study, supplyId: string): number {
  const onSupply = study.around(supplyId).filter(a => a.terminal.endsWith('.supply'))
  return onSupply.reduce((sum, a) => sum + (asKind(a.part, 'gate')?.chargeA ?? 0), 0)
}

export const supplyAsCharger: Check = {
  id: 'supply-as-charger',
  severities: ['caution'],
  looksAt: 'charging; supplies of fixed output wired to a battery',
  title: 'Supply left on as a charger',
  why:
    "A supply at its fixed output is above most batteries' float voltage and below what fills them: left on it " +
    'wears the battery, and never makes it full.',
  source: 'charging voltages of the chemistry',
  find: study =>
    partsOf(study.plan.parts, 'supply').flatMap((supply): Found[] =>
      batteries(study).flatMap((battery): Found[] => {
        if (!study.around(supply.id).some(a => a.part.id === battery.id)) return []
        const { absorptionV, floatV } = chemistry(battery.chemistry)
        const highestFloat = floatV ? floatV[1] * battery.seriesCells : null
        const fills = absorptionV ? absorptionV[0] * battery.seriesCells : Infinity
        if ((highestFloat !== null && supply.setV <= highestFloat + 0.05) || supply.setV >= fills - 0.05) return []
        return [
          {
            severity: 'caution',
            place: supply.id,
            also: [battery.id],
            condition: null,
            title: `${nameOf(supply)} left on ${nameOf(battery)}`,
            message:
              `${nameOf(supply)} stands at ${volts(supply.setV)}: ` +
              (highestFloat === null
                ? 'not a float voltage for this chemistry, '
                : `above the ${volts(highestFloat)} that ${nameOf(battery)} may be left at, `) +
              `and under the ${volts(fills)} that fills it.`,
            numbers: {
              setV: supply.setV,
              ...(highestFloat !== null && { highestFloatV: highestFloat }),
              fillsV: fills,
            },
          },
        ]
      }),
    ),
  fixes: (found, study) => {
    const supply = part(study, found.place) as PartOf<'supply'>
    const floatV = found.numbers.highestFloatV === undefined ? null : Number(found.numbers.highestFloatV.toFixed(2))
    const { adjustable } = supply
    const canSet = floatV !== null && adjustable && floatV >= adjustable.minV && floatV <= adjustable.maxV
    const lead = study.leadsOf(supply.id)[0]
    const hasSwitch = lead?.inline?.some(i => i.kind === 'switch')
    return [
      ...(canSet
        ? [propose(`Set ${nameOf(supply)} to ${floatV} V`, setField(study.plan, supply.id, 'setV', floatV))]
        : []),
      ...(lead && !hasSwitch
        ? [switchIn(study, lead, false, `A switch in ${leadName(lead)}, open when the battery is not in use`)]
        : []),
    ]
  },
}

export const generatorLoad: Check = {
  id: 'generator-load',
  severities: ['fail'],
  looksAt: 'everything on the generator at full output',
  title: 'Generator asked for more than it gives',
  why: 'Overloaded, a small generator slows down, its voltage sags and what hangs on it drops out or is harmed.',
  source: "the generator's label; efficiencies of 0.85",
  find: study =>
    partsOf(study.plan.parts, 'generator').flatMap((generator): Found[] => {
      const wanted = (generator.feeds ?? []).reduce((sum, id) => {
        const fed = partById(study.plan, id)
        return sum + (fed ? (kindOf(fed).acInputW?.(fed) ?? 0) : 0)
      }, 0)
      if (wanted <= generator.ratedW) return []
      return [
        {
          severity: 'fail',
          place: generator.id,
          also: generator.feeds,
          condition: null,
          title: `${nameOf(generator)} asked for ${wanted.toFixed(0)} W`,
          message:
            `What hangs on ${nameOf(generator)} takes up to ${wanted.toFixed(0)} W from it at full output; it ` +
            `gives ${generator.ratedW} W.`,
          numbers: { wantedW: wanted, ratedW: generator.ratedW },
        },
      ]
    }),
  fixes: (found, study) => {
    const size = [1000, 2000, 3000, 5000].find(w => w >= found.numbers.wantedW!)
    return size ? [propose(`A ${size} W generator`, setField(study.plan, found.place, 'ratedW', size))] : []
  },
}
