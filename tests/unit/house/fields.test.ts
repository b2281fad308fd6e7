import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { fieldsPage, planFields } from '../../../cli/fieldsPage'

/** Fields that say what a thing is or where it stands; `version` is read before the schema is. */
const TAKEN_BEFORE = ['planSchema version', 'planSchema format']

describe('fields of a plan', () => {
  const fields = planFields()

  it('are found: those of a kind, of a list in it, of a lead, of the site', () => {
    const all = fields.map(f => `${f.schema} ${f.path}`)
    expect(all).toEqual(
      expect.arrayContaining([
        'batterySchema internalOhm',
        'radioSchema levels.*.activeA',
        'endSchema contactOhm',
        'leadSchema lengthM',
        'siteSchema zones.*.ambientC',
        'commonFields figures.*.limit',
      ]),
    )
  })

  it('know who reads them', () => {
    const of = (schema: string, path: string) => fields.find(f => f.schema === schema && f.path === path)!.readBy
    expect(of('gateSchema', 'gapMs')).toEqual(['`gate-gap`'])
    expect(of('batterySchema', 'internalOhm')).toContain('kinds/battery: battery.sources')
    expect(of('batterySchema', 'internalOhm')).not.toContain('kinds/battery: battery.form')
  })

  it('are each read by something', () => {
    const silent = fields.filter(f => !f.readBy.length).map(f => `${f.schema} ${f.path}`)
    expect(silent.filter(f => !TAKEN_BEFORE.includes(f))).toEqual([])
  })

  it('stand in docs/fields.md as the code says', () => {
    const page = readFileSync(join(import.meta.dirname, '../../../docs/fields.md'), 'utf8')
    expect(fieldsPage(fields)).toBe(page)
  })
})
