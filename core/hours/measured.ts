import type { Measured } from './calibrate'

/** "18Ah", "230 Wh", "100-64%", "69 to 64 %": what somebody measured; null where it is none of these. */
export function readMeasured(written: string): Measured | null {
  const text = written
    .replace(/\s/g, '')
    .replace(/[−–]|to/g, '-')
    .replace(',', '.')
  const amount = /^(\d+(?:\.\d+)?)(Ah|Wh)$/i.exec(text)
  if (amount) return { kind: /ah/i.test(amount[2]!) ? 'Ah' : 'Wh', value: Number(amount[1]) }
  const two = /^(\d+(\.\d+)?)%?-(\d+(?:\.\d+)?)%$/.exec(text)
  if (!two) return null
  const [from, to] = [Number(two[1]), Number(two[3])]
  return from <= 100 && to < from ? { kind: 'percent', from, to, resolution: two[2] ? 0.1 : 1 } : null
}
