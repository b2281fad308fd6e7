import { chemistry } from '../catalog/chemistries'
import { conductorName } from '../conductor/resistance'
import { kindOf, type Part } from '../kinds/index'
import { showLength, type Units } from '../units/entry'
import type { Lead } from '../plan/schema'

/** Short lines about parts and leads, as the path shows them. */

/** Cut to what fits, with the rest left to the form and the tooltip. */
export const shortened = (text: string, most: number) =>
  text.length > most ? `${text.slice(0, most - 1).trimEnd()}…` : text

const tidy = (value: number, digits = 1) => String(Number(value.toFixed(digits)))

/** What a box says of a source or of what fills a battery: two short lines. */
export function sourceLines(part: Part): string[] {
  switch (part.kind) {
    case 'battery':
      return [
        `${chemistry(part.chemistry).label.replace(' lead-acid', '')}${part.seriesCells > 1 ? ` ${part.seriesCells}S` : ''} · ${tidy(part.capacityAh)} Ah`,
        [part.continuousA && `${tidy(part.continuousA)} A`, part.peakA && `${tidy(part.peakA)} A brief`]
          .filter(Boolean)
          .join(' · '),
      ].filter(Boolean)
    case 'supply':
      return [
        `set to ${tidy(part.setV, 2)} V`,
        `${tidy(part.continuousA)} A${part.peakA ? ` · ${tidy(part.peakA)} A brief` : ''}`,
      ]
    case 'vehicle':
      return ['engine on, engine off']
    case 'panel':
      return [`${tidy(part.maxPowerV * part.maxPowerA, 0)} W · ${tidy(part.openCircuitV)} V open`]
    case 'controller':
      return [
        `${part.type === 'mppt' ? 'tracking' : 'chopping'} · ${tidy(part.maxChargeA)} A`,
        `to ${tidy(part.maxPanelV)} V${part.set ? ` · ${chemistry(part.set).label}` : ''}`,
      ]
    case 'charger':
      return [`${tidy(part.maxA)} A${part.set ? ` · ${chemistry(part.set).label}` : ''}`]
    case 'converter':
      return [`charges ${tidy(part.maxOutA)} A`, part.charges?.set ? `set to ${chemistry(part.charges.set).label}` : '']
    case 'usbSource':
      return [part.voltages.map(v => v.volts).join(', ') + ' V', part.energyWh ? `${tidy(part.energyWh)} Wh` : '']
    case 'powerStation':
      return [part.energyWh ? `${tidy(part.energyWh)} Wh` : '']
    case 'generator':
      return [`${tidy(part.ratedW)} W`, part.feeds?.length ? `feeds ${part.feeds.join(', ')}` : '']
    default:
      return []
  }
}

/** What stands under the name of a bar: what it does to the voltage. */
export function barLine(part: Part): string {
  switch (part.kind) {
    case 'converter':
      return part.charges ? `charges ${tidy(part.maxOutA)} A` : `${part.topology} ${tidy(part.outV, 1)} V`
    case 'trigger':
      return `asks ${tidy(part.requestV)} V`
    case 'breaker':
      return `${tidy(part.ratedA)} A${part.closed === false ? ', off' : ''}`
    case 'adapter':
      return part.dropper ? 'holds a diode' : ''
    case 'gate':
      return part.chargeA ? `charges ${tidy(part.chargeA)} A` : ''
    default:
      return ''
  }
}

export function loadLine(part: Part): string {
  const sink = kindOf(part).sink?.(part, true)
  if (!sink) return ''
  const draw =
    sink.law === 'current'
      ? `${tidy(sink.value, 2)} A`
      : sink.law === 'power'
        ? `${tidy(sink.value)} W`
        : `${tidy(sink.value, 2)} Ω`
  return part.kind === 'radio' && part.powerW ? `${tidy(part.powerW)} W · ${draw}` : draw
}

export const leadWords = (lead: Lead, units: Units) => ({
  conductor: conductorName(lead.conductor),
  length: showLength(Math.round(lead.lengthM * 100) / 100, units),
})

/** "21 A · 0.82 V" */
export function flowWords(amps: number, dropV: number): string {
  return `${tidy(amps, amps < 10 ? 2 : 1)} A · ${dropV.toFixed(2)} V`
}
