/** What a scene is made of: SVG elements with classes, and what a press on one asks for. */

export interface Shape {
  el: 'g' | 'svg' | 'rect' | 'path' | 'line' | 'circle' | 'text' | 'tspan' | 'title'
  class: string
  /** Further SVG attributes, px. */
  at: Readonly<Record<string, string | number>>
  holds: readonly (Shape | string)[]
  /** How it answers to a hand and a screen reader; an exported picture leaves it out. */
  acts?: Acts
}

export interface Acts {
  label?: string
  /** Where it stands in the order of the tab key; null where it is pressed only. */
  tab?: 0 | -1 | null
  press?: Act
  /** On a double press. */
  open?: Act
  focus?: Act
}

export type Act =
  | { does: 'select' | 'edit' | 'add' | 'unfold'; id: string }
  /** A figure to be changed where it stands: the form opens at x, y, or else at the shape itself. */
  | { does: 'token'; id: string; what: 'conductor' | 'length' | 'rating'; itemId?: string; x?: number; y?: number }

type Attributes = Record<string, string | number | undefined>
type Classes = string | readonly (string | false | null | undefined)[]

const joined = (classes: Classes) => (typeof classes === 'string' ? classes : classes.filter(Boolean).join(' '))
/** What is said of them. A picture has thousands of these: a plain loop takes a fifth of what lists of pairs take. */
function given(at: Attributes): Record<string, string | number> {
  const said: Record<string, string | number> = {}
  for (const name in at) {
    const value = at[name]
    if (value !== undefined) said[name] = value
  }
  return said
}

/** One element; what it holds may have gaps, which are left out. */
export function shape(
  el: Shape['el'],
  classes: Classes,
  at: Attributes = {},
  holds: readonly (Shape | string | null | undefined | false)[] = [],
): Shape {
  const kept = holds.filter((h): h is Shape | string => (typeof h === 'object' ? h !== null : typeof h === 'string'))
  return { el, class: joined(classes), at: given(at), holds: kept }
}

/** The same shape, answering to a hand. */
export const touched = (drawn: Shape, acts: Acts): Shape => ({ ...drawn, acts })

/** The same shapes answering to nothing: a picture to look at. */
export const still = (drawn: Shape): Shape => {
  const { acts: _acts, ...shown } = drawn
  return { ...shown, holds: drawn.holds.map(held => (typeof held === 'string' ? held : still(held))) }
}

/** A line of words at a place, px. */
export const words = (classes: Classes, [x, y]: [number, number], text: string, anchor?: 'middle' | 'end') =>
  shape('text', classes, { x, y, 'text-anchor': anchor }, [text])

export const moved = (x: number, y: number) => `translate(${x} ${y})`
