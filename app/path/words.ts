import { chemistry } from '#core/catalog/chemistries'
import { conductorName } from '#core/conductor/resistance'
import { kindOf, type Part } from '#core/kinds/index'
import { showLength, type Units } from '#core/units/entry'
import type { Lead } from '#core/plan/schema'

/** Short lines about parts and leads, as the path shows them. */

const tidy = (value: number, digits = 1) => String(Number(value.toFixed(digits)))

export function sourceLines(part: Part): string[] {
  if (part.kind === 'battery') {
    return [
      `${chemistry(part.chemistry).label}${part.seriesCells > 1 ? ` ${part.seriesCells}S` : ''} · ${tidy(part.capacityAh)} Ah`,
      [part.continuousA && `${tidy(part.continuousA)} A`, part.peakA && `${tidy(part.peakA)} A brief`].filter(Boolean).join(' · '),
    ].filter(Boolean)
  }
  if (part.kind === 'supply') return [`set to ${tidy(part.setV, 2)} V`, `${tidy(part.continuousA)} A${part.peakA ? ` · ${tidy(part.peakA)} A brief` : ''}`]
  return []
}

export function loadLine(part: Part): string {
  const sink = kindOf(part).sink?.(part, true)
  if (!sink) return ''
  const draw = sink.law === 'current' ? `${tidy(sink.value, 2)} A` : sink.law === 'power' ? `${tidy(sink.value)} W` : `${tidy(sink.value, 2)} Ω`
  return part.kind === 'radio' && part.powerW ? `${tidy(part.powerW)} W · ${draw}` : draw
}

export const leadWords = (lead: Lead, units: Units) => ({ conductor: conductorName(lead.conductor), length: showLength(Math.round(lead.lengthM * 100) / 100, units) })

/** "21 A · 0.82 V" */
export function flowWords(amps: number, dropV: number): string {
  return `${tidy(amps, amps < 10 ? 2 : 1)} A · ${dropV.toFixed(2)} V`
}
