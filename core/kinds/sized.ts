import { roundedTo } from '../units/number'
/** Figures that go with the size of a thing, beside its mass and its price. */
const ALWAYS = ['massG', 'cost'] as const

/**
 * A thing with some of its figures times a factor, and its mass and price with them; its sides with the cube root.
 * What it does not say stays so.
 */
export function grown<T extends object>(thing: T, fields: readonly (keyof T)[], factor: number): T {
  const all = [...fields, ...ALWAYS] as (keyof T)[]
  const said = all.filter(field => typeof thing[field] === 'number')
  const { sizeMm } = thing as { sizeMm?: number[] }
  return {
    ...thing,
    ...Object.fromEntries(said.map(f => [f, inFour((thing[f] as number) * factor)])),
    ...(sizeMm && { sizeMm: sizeMm.map(side => inFour(side * Math.cbrt(factor))) }),
  }
}

/** As it would stand on a label: four figures. */
const inFour = (value: number) => roundedTo(value, 4)
