import fc from 'fast-check'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import Papa from 'papaparse'
import { describe, expect, it } from 'vitest'
import { conditionsOf, findCondition } from '../../../core/circuit/conditions'
import { solveMatrix } from '../../../core/circuit/matrix'
import { namePoint } from '../../../core/circuit/point'
import { cutListCsv, partsCsv, shoppingCsv } from '../../../core/formats/csv'
import { spiceNetlist } from '../../../core/formats/spice'
import { shownOf } from '../../../core/picture/shown'
import { labelsSvg, pathSvg } from '../../../core/formats/svg'
import { readPlanText } from '../../../core/plan/faults'
import { buildSheet } from '../../../core/sheets/build'
import { LABEL_FORMATS, labelsOf, laidOut } from '../../../core/sheets/labels'
import { judge } from '../../../core/verdict/verdict'
import { madeUpPlan } from '../../bench/plans'
import { DEMOS, demoPlan, fuse, lead, smallPlan } from '../../data/plans'
import exported from '../../data/spice/exported.json'
import { EXPORTED, netlistFile } from '../../data/spice/exported'

const root = join(import.meta.dirname, '../../..')
const planOf = (file: string) => {
  const read = readPlanText(readFileSync(join(root, file), 'utf8'))
  if (!read.ok) throw new Error(file)
  return read.plan
}

describe('the netlist', () => {
  const cases = Object.entries(EXPORTED).flatMap(([file, ids]) => ids.map(id => [file, id] as const))
  it.each(cases)('of %s in %s is the one a simulator ran, and that gave these voltages within 1 mV', (file, id) => {
    const plan = planOf(file)
    const condition = findCondition(plan, id)
    if (typeof condition === 'string') throw new Error(condition)
    // Another netlist wants another run: node --import tsx tests/data/spice/export.ts
    expect(spiceNetlist(plan, condition)).toBe(readFileSync(netlistFile(file, id), 'utf8'))
    const solved = solveMatrix(plan, [condition])
    const point = namePoint(solved.network, solved.points[0]!)
    const theirs = (exported as Record<string, Record<string, number>>)[`${file} ${id}`]!
    expect(Object.keys(theirs).length).toBeGreaterThan(3)
    for (const [terminal, { volts }] of Object.entries(point.nodes)) {
      const reference = theirs[terminal.replaceAll('.', '_').toLowerCase()]
      if (reference !== undefined)
        expect(Math.abs(volts! - reference), `${terminal} ${volts} ${reference}`).toBeLessThan(1e-3)
    }
  })
  it('names nodes as terminals, sets every one of them, and ends in .op', () => {
    const plan = demoPlan('tern-rock-light')
    const text = spiceNetlist(plan, conditionsOf(plan)[0]!)
    for (const node of ['bat', 'blk_p1', 'ctl_panel', 'hf']) expect(text).toContain(`.nodeset V(${node})=`)
    expect(text.trim().split('\n').slice(-2)).toEqual(['.op', '.end'])
    expect(text).not.toMatch(/NaN|undefined|Infinity/)
  })
  it('keeps names apart that would fall together, and off the ground', () => {
    const plan = smallPlan({
      parts: [
        { id: '0', kind: 'battery', chemistry: 'lifepo4', seriesCells: 4, capacityAh: 10, internalOhm: 0.01 },
        { id: 'a', kind: 'joint' },
        {
          id: 'a_b',
          kind: 'radio',
          supply: { minV: 9, maxV: 16 },
          draw: { model: 'constant-current', idleA: 1, activeA: 2 },
        },
      ] as never,
      leads: [
        lead({ id: 'x', from: '0', to: 'a.a', ends: {} }),
        lead({ id: 'y', from: 'a.b', to: 'a_b', ends: {}, inline: [] }),
      ],
    })
    const text = spiceNetlist(plan, conditionsOf(plan)[0]!)
    expect(text).toContain('V(0_2)')
    expect(text).toContain('V(a_b_2)')
  })
})

describe('lists as CSV', () => {
  const sheet = buildSheet(demoPlan('tern-rock-light'))
  it.each([
    ['cut list', cutListCsv(sheet), sheet.cutList.length],
    ['parts', partsCsv(sheet), sheet.parts.length],
    ['shopping', shoppingCsv(sheet), sheet.shopping.length],
  ])('%s has a row for each, and reads back', (_name, text, rows) => {
    const { data, errors } = Papa.parse<Record<string, string>>(text.trim(), { header: true })
    expect(errors).toEqual([])
    expect(data).toHaveLength(rows)
  })
  it('says lengths in metres with points', () =>
    expect(cutListCsv(sheet)).toContain('l2,HF lead,"Fused block, p1",HF radio,12 AWG,105,3.6,3.88,red+black'))
})

/** Every tag closed, every attribute quoted: enough of XML to know that a browser will take it. */
function wellFormed(xml: string): boolean {
  const open: string[] = []
  for (const [, close, name, attributes, empty] of xml.matchAll(
    /<(\/?)([a-zA-Z]+)((?:\s+[a-zA-Z-]+="[^"<]*")*)\s*(\/?)>/g,
  )) {
    if (close) {
      if (open.pop() !== name) return false
    } else if (!empty) open.push(name!)
    if (attributes === undefined) return false
  }
  return open.length === 0 && !/&(?!amp;|lt;|gt;|quot;)/.test(xml)
}

describe('pictures', () => {
  it.each([...DEMOS.map(d => [d, demoPlan(d)] as const), ['60 parts', madeUpPlan(60)] as const])(
    'the path of %s is a picture with every part in it',
    (_name, plan) => {
      const { verdict, study } = judge(plan)
      const svg = pathSvg({ ...plan, name: `${plan.name} <&"> ` }, verdict, shownOf(study, verdict))
      expect(wellFormed(svg)).toBe(true)
      expect(svg).not.toMatch(/NaN|undefined/)
      for (const load of study.loads) expect(svg).toContain(load.name ?? load.id)
    },
  )
  it.each(LABEL_FORMATS)('labels fit their $id', format => {
    const labels = labelsOf(demoPlan('tern-rock-light'))
    const svg = labelsSvg(labels, format)
    expect(wellFormed(svg)).toBe(true)
    for (const [, size, words] of svg.matchAll(/font-size="([\d.]+)"[^>]*>([^<]*)</g))
      expect(Number(size) * 0.56 * words!.length).toBeLessThanOrEqual(format.widthMm - 2.9)
  })
})

describe('labels', () => {
  it('name both ends of a lead by where they go, and warn of a diode', () => {
    const labels = labelsOf(
      smallPlan({
        leads: [lead({ name: 'radio lead', inline: [fuse(20), { id: 'd', kind: 'dropper', ratedA: 20, atM: 0.5 }] })],
      }),
    )
    expect(labels.filter(l => l.kind === 'lead').map(l => l.lines)).toEqual([
      ['radio lead → hf', 'HOLDS A DIODE'],
      ['radio lead → bat', 'HOLDS A DIODE'],
    ])
    expect(labels.find(l => l.kind === 'fuse')!.lines).toEqual(['20 A blade', 'radio lead'])
    expect(labels[0]!.warns).toBe(true)
  })

  /** Ten leads of names that begin alike, of words of any length. */
  const aName = fc
    .array(fc.stringMatching(/^[a-zA-Z0-9-]{1,24}$/), { minLength: 1, maxLength: 9 })
    .map(w => `Feeder of the upper room ${w.join(' ')}`)
  const named = (names: string[]) => {
    const demo = demoPlan('tern-rock-light')
    return { ...demo, leads: demo.leads.map((l, i) => ({ ...l, name: names[i % names.length]! })) }
  }

  it('are no two of the same words, however alike the names of leads are', () => {
    fc.assert(
      fc.property(fc.array(aName, { minLength: 1, maxLength: 3 }), names => {
        const all = labelsOf(named(names)).map(l => l.lines.join('|'))
        expect(new Set(all).size).toBe(all.length)
      }),
      { seed: 3, numRuns: 30 },
    )
  })

  it.each(LABEL_FORMATS)('of a $id hold every word of the longest names, within their edges', format => {
    const widthOf = (text: string) => 0.56 * text.length
    fc.assert(
      fc.property(aName, name => {
        for (const label of labelsOf(named([name]))) {
          const lines = laidOut(label, format, widthOf)
          expect(lines.map(l => l.text).join(' ')).toBe(label.lines.join(' '))
          for (const l of lines) {
            expect(widthOf(l.text) * l.sizeMm).toBeLessThanOrEqual(format.widthMm - 3 + 1e-9)
            expect(l.fromTopMm).toBeLessThanOrEqual(format.heightMm)
            expect(l.fromTopMm - l.sizeMm).toBeGreaterThanOrEqual(0)
          }
        }
      }),
      { seed: 4, numRuns: 40 },
    )
  })
})
