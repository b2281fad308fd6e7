import { commonForm } from './commonForm'
import { kindOf, type Part } from './index'
import type { FormField, FormList } from './kind'
import { lowered } from '../units/words'

/** All that can be entered of a part, by its kind's own description and what every part may say. */
export interface Form {
  fields: readonly FormField[]
  lists: readonly FormList[]
}

const FIGURES = new Set(['voltage', 'current', 'power', 'resistance', 'charge', 'energy', 'fraction', 'temperature'])

/** Where a figure came from, and whether it is a recommended or an absolute limit. */
const figuresList = (fields: readonly FormField[]): FormList => ({
  path: 'figures',
  label: 'Where figures came from',
  one: 'figure',
  more: true,
  keyed: {
    label: 'Figure',
    choices: part =>
      fields
        .filter(f => FIGURES.has(f.quantity) && (!f.when || f.when(part)))
        .map(f => ({ id: f.path, label: f.label })),
  },
  fresh: () => ({ from: 'manual' }),
  fields: [
    { path: 'from', label: 'From', quantity: 'choice', choices: ['manual', 'label', 'measured', 'guess'] },
    { path: 'limit', label: 'Limit', quantity: 'choice', choices: ['recommended', 'absolute'] },
  ],
})

/** What a figure of a part is called in its form, within a sentence; its path where the form has no line for it. */
export function figureName(part: Part, path: string): string {
  const field = formOf(part).fields.find(f => f.path === path)
  return field ? lowered(field.label) : path
}

export function formOf(part: Part): Form {
  const kind = kindOf(part)
  return { fields: [...kind.form, ...commonForm], lists: [...(kind.lists ?? []), figuresList(kind.form)] }
}
