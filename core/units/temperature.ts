import { fixed, readNumber, roundedTo } from './number'
import { METRIC, type Entry, type Units } from './quantity'

/** "55 F", "-4 °C" → °C. */
export function readTemperature(text: string, units: Units = METRIC): Entry<number> {
  const found = /^(.*?)\s*°?\s*([cf])?$/i.exec(text.trim())
  const number = readNumber(found?.[1] ?? '')
  if (!found || !number.ok) return { ok: false, wrong: `"${text.trim()}" is no temperature; write it as 18 C or 65 F` }
  const inF = (found[2]?.toUpperCase() ?? units.temperature) === 'F'
  return { ok: true, value: inF ? roundedTo((number.value - 32) / 1.8, 6) : number.value }
}

export function showTemperature(celsius: number, units: Units): string {
  const value = units.temperature === 'F' ? celsius * 1.8 + 32 : celsius
  return `${fixed(value, 0).replace('−', '-')} °${units.temperature}`
}
