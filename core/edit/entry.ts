import { conductorName } from '../conductor/resistance'
import { readConductor } from '../units/conductor'
import { readQuantity, showQuantity, type Entry, type Units } from '../units/quantity'
import { readTemperature, showTemperature } from '../units/temperature'
import { readWindow, showWindow, type ReadWindow } from '../units/window'

/** Text on one side, the plan's value on the other: what is typed into a field of any quantity, and shown in it. */

const wrong = (text: string, example: string): Entry<never> => ({
  ok: false,
  wrong: `"${text.trim()}" cannot be read; write it as ${example}`,
})

const parted = (text: string) =>
  text
    .split(/[,;]/)
    .map(t => t.trim())
    .filter(Boolean)

/** "120 × 80 × 45 mm" */
function readSize(text: string): Entry<number[]> {
  const sides = text
    .replace(/mm\s*$/i, '')
    .split(/[x×*]/i)
    .map(t => readQuantity(t, 'count'))
  const values = sides.flatMap(s => (s.ok ? [s.value] : []))
  return values.length === 3 && sides.length === 3 ? { ok: true, value: values } : wrong(text, '120 × 80 × 45')
}

/** "2, 5, 10 A" */
function readCurrents(text: string): Entry<number[]> {
  const each = parted(text).map(t => readQuantity(t, 'current'))
  const bad = each.find(e => !e.ok)
  return bad && !bad.ok ? bad : { ok: true, value: each.flatMap(e => (e.ok ? [e.value] : [])) }
}

/** @returns the value that a field of a quantity takes, or what is wrong with the text */
export function readEntry(text: string, quantity: string, units: Units): Entry<unknown> {
  switch (quantity) {
    case 'text':
    case 'note':
      return { ok: true, value: text.trim() || undefined }
    case 'conductor':
      return readConductor(text, units)
    case 'window':
      return readWindow(text)
    case 'temperature':
      return readTemperature(text, units)
    case 'number':
      return readQuantity(text, 'count')
    case 'words':
      return { ok: true, value: parted(text) }
    case 'currents':
      return readCurrents(text)
    case 'size':
      return readSize(text)
    default:
      return readQuantity(text, quantity, units)
  }
}

/** A value as it is entered again. */
export function showEntry(value: unknown, quantity: string, units: Units): string {
  if (value === undefined || value === null) return ''
  switch (quantity) {
    case 'text':
    case 'note':
      return String(value)
    case 'conductor':
      return conductorName(value as Parameters<typeof conductorName>[0])
    case 'window':
      return showWindow(value as ReadWindow)
    case 'temperature':
      return showTemperature(value as number, units)
    case 'words':
      return (value as string[]).join(', ')
    case 'currents':
      return (value as number[]).map(a => showQuantity(a, 'current', units)).join(', ')
    case 'size':
      return (value as number[]).join(' × ')
    case 'number':
      return String(value)
    default:
      return showQuantity(value as number, quantity, units)
  }
}
