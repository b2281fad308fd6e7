import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { COMPONENTS } from '../../../app/theme'

const APP = join(import.meta.dirname, '../../../app')
const views = readdirSync(APP, { recursive: true, encoding: 'utf8' }).filter(f => f.endsWith('.vue'))
/** The frameworks' own. */
const GIVEN = ['NuxtLink', 'NuxtPage', 'Teleport', 'Transition', 'TransitionGroup', 'KeepAlive', 'Suspense']

/** Components that a view's template names, and nothing gives it. */
function unknownIn(source: string): string[] {
  const [script = '', ...rest] = source.split(/(?=<template>)/)
  const named = new Set([...rest.join('').matchAll(/<([A-Z]\w+)/g)].map(m => m[1]!))
  const isKnown = (name: string) =>
    [...COMPONENTS, ...GIVEN].includes(name) || new RegExp(`(import|const)\\b[^;]*?\\b${name}\\b`).test(script)
  return [...named].filter(name => !isKnown(name))
}

describe('the components of the views', () => {
  it('each is imported, or one of those of the library that the build knows: another is drawn as nothing', () => {
    const unknown = views.flatMap(view => unknownIn(readFileSync(join(APP, view), 'utf8')).map(c => `${view}: ${c}`))
    expect(unknown).toEqual([])
  })
  it('and each that the build knows stands in a view', () => {
    const all = views.map(view => readFileSync(join(APP, view), 'utf8')).join('\n')
    const unused = COMPONENTS.filter(
      name => !all.includes(`<${name}`) && !all.includes(`primevue/${name.toLowerCase()}`),
    )
    expect(unused).toEqual([])
  })
  it('a component that nothing gives is found', () => {
    const view = "<script setup>\nimport Icon from './Icon.vue'\n</script>\n<template><Icon /><Slider /></template>"
    expect(unknownIn(view)).toEqual(['Slider'])
  })
})
