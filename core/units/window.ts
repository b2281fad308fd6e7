import { figure, rounded } from './number'
import { readQuantity, type Entry } from './quantity'
import { withoutRemarks } from './remarks'

/** A supply window as a manual prints it: "13.8 V ± 15 %", "11.7 to 15.9 V", "12 V +20 % −10 %". */

export interface ReadWindow {
  minV: number
  nominalV?: number
  maxV: number
}

const EXAMPLE = '13.8 V ± 15 % or 11.7 to 15.9 V'
/** More digits than a manual means. */
const tidy = (volts: number) => rounded(volts, 3)

/** @returns the window, V, or what is wrong with the text */
export function readWindow(text: string): Entry<ReadWindow> {
  const wrong = { ok: false, wrong: `"${text.trim()}" cannot be read; write it as ${EXAMPLE}` } as const
  const figures = withoutRemarks(text).trim()
  const window = labelled(text) ?? tolerance(figures) ?? uneven(figures) ?? span(figures)
  if (!window) return wrong
  if (window.minV >= window.maxV)
    return { ok: false, wrong: `${figure(window.minV, 2)} V is not below ${figure(window.maxV, 2)} V` }
  return window.minV >= 0 ? { ok: true, value: window } : wrong
}

const volts = (text: string): number | null => {
  const read = readQuantity(text, 'voltage')
  return read.ok && read.value > 0 ? read.value : null
}

/** What a tolerance takes off or adds, V. */
function byTolerance(nominalV: number, text: string): number | null {
  const isShare = /%\s*$/.test(text)
  const read = readQuantity(text.replace(/^[+\-−–]\s*/, ''), isShare ? 'fraction' : 'voltage')
  if (!read.ok || read.value < 0) return null
  return isShare ? nominalV * read.value : read.value
}

/** "13.8 V ± 15 %", "13.8 +/- 1.5 V" */
function tolerance(text: string): ReadWindow | null {
  const parts = text.split(/±|\+\s*\/\s*[-−–]|\+[-−–]/)
  if (parts.length !== 2) return null
  const nominalV = volts(parts[0]!)
  const by = nominalV === null ? null : byTolerance(nominalV, parts[1]!)
  if (nominalV === null || by === null) return null
  return { minV: tidy(nominalV - by), nominalV, maxV: tidy(nominalV + by) }
}

/** "12 V +20 % −10 %", in either order */
function uneven(text: string): ReadWindow | null {
  const found = /^([^+\-−–]+?)\s*([+\-−–][^+\-−–]+)[,/]?\s*([+\-−–][^+\-−–]+)$/.exec(text.trim())
  const nominalV = found && volts(found[1]!)
  if (!found || nominalV === null) return null
  const [up, down] = found[2]!.startsWith('+') ? [found[2]!, found[3]!] : [found[3]!, found[2]!]
  if (!up.startsWith('+') || down.startsWith('+')) return null
  const unit = /%/.test(text) ? '%' : ''
  const withUnit = (t: string) =>
    unit && !t.includes('%') ? `${t.replace(/[/,]\s*$/, '')} %` : t.replace(/[/,]\s*$/, '')
  const [above, below] = [byTolerance(nominalV!, withUnit(up)), byTolerance(nominalV!, withUnit(down))]
  if (above === null || below === null) return null
  return { minV: tidy(nominalV! - below), nominalV: nominalV!, maxV: tidy(nominalV! + above) }
}

/** "min 11.7 V, max 15.9 V", "11.7 V min / 15.9 V max" */
const LABELLED = [
  /^\s*min(?:imum)?\b[.:]?\s*(.+?)[,;/\s]+max(?:imum)?\b[.:]?\s*(.+)$/i,
  /^(.+?)\s*min(?:imum)?\b\.?[,;/\s]+(.+?)\s*max(?:imum)?\b\.?\s*$/i,
]

function labelled(text: string): ReadWindow | null {
  const found = LABELLED.map(pattern => pattern.exec(text)).find(Boolean)
  const [minV, maxV] = [found?.[1], found?.[2]].map(part => (part === undefined ? null : volts(part)))
  return minV && maxV ? { minV, maxV } : null
}

/** "11.7 to 15.9 V", "11.7–15.9 V", "11,7 V … 15,9 V", "10.8 to 14.4 V (12 V)", "12 V (10.8 to 14.4 V)" */
function span(text: string): ReadWindow | null {
  const named = /^(.*)\(([^()]*)\)\s*$/.exec(text)
  const [ends, middle] = named && volts(named[1]!) !== null ? [named[2]!, named[1]!] : [named?.[1] ?? text, named?.[2]]
  const parts = ends.replace(/^\s*(?:between|from)\b/i, '').split(/\s*(?:to|until|and|\.\.\.?|…|[-−–])\s*/i)
  if (parts.length !== 2) return null
  const [minV, maxV] = [volts(parts[0]!), volts(parts[1]!)]
  const nominalV = middle === undefined ? undefined : volts(middle)
  if (minV === null || maxV === null || nominalV === null) return null
  return { minV, ...(nominalV !== undefined && { nominalV }), maxV }
}

const plain = (v: number) => String(tidy(v))

/** As it is entered again: as a tolerance where it is one. */
export function showWindow(window: ReadWindow): string {
  const { minV, nominalV, maxV } = window
  const asSpan = `${plain(minV)} to ${plain(maxV)} V`
  if (nominalV === undefined) return asSpan
  const above = maxV - nominalV
  const asShare = `${plain(nominalV)} V ± ${Math.round((1000 * above) / nominalV) / 10} %`
  const asVolts = `${plain(nominalV)} V ± ${plain(above)} V`
  return [asShare, asVolts].find(text => isSame(tolerance(text), window)) ?? `${asSpan} (${plain(nominalV)} V)`
}

const isSame = (a: ReadWindow | null, b: ReadWindow) => a !== null && a.minV === b.minV && a.maxV === b.maxV
