/* eslint-disable max-lines -- one logbook grows through the cases */
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { loadFace } from '../../../cli/faces'
import { casePdf } from '../../../core/formats/pdf/noiseCase'
import { causesOf } from '../../../core/noise/cause'
import {
  cureObservation,
  cureSchema,
  effect,
  gains,
  similarCures,
  suggestions,
  type Cure,
} from '../../../core/noise/cure'
import {
  emptyLogbook,
  logbookSchema,
  readCaseText,
  reason,
  receiverOf,
  splitByBand,
  triedCures,
  writeCase,
  type NoiseCase,
} from '../../../core/noise/logbook'
import type { Observation } from '../../../core/noise/observation'
import { observationWords } from '../../../core/noise/observationWords'
import { isPart } from '../../../core/noise/suspect'
import { caseReport, reportText } from '../../../core/noise/report'
import { applyEdit } from '../../../core/edit/patch'
import { threeWay } from '../../../core/merge/threeWay'
import type { Plan } from '../../../core/plan/schema'
import { demoPlan } from '../../data/plans'

const demoLog = (name: string) =>
  logbookSchema.parse(JSON.parse(readFileSync(join(import.meta.dirname, `../../../demo/noise/${name}.json`), 'utf8')))
const tern = { plan: demoPlan('tern-rock-light'), log: demoLog('tern-rock-light') }
const heron = { plan: demoPlan('narrowboat-heron'), log: demoLog('narrowboat-heron') }
const heard = (setup: object, what: 'same' | 'weaker' | 'gone', id = 'o9'): Observation => ({
  kind: 'listen',
  id,
  at: '2026-08-02T19:00:00Z',
  setup,
  heard: what,
})
const cure = (more: Partial<Cure> = {}): Cure => ({
  id: 'k1',
  at: '2026-06-13T14:00:00Z',
  what: 'choke',
  where: 'ctl',
  kept: true,
  ...more,
})
const withFindings = (c: NoiseCase, ...more: Observation[]): NoiseCase => ({
  ...c,
  observations: [...c.observations, ...more],
})

describe('the demo cases', () => {
  it('stand half done: a most likely cause, not yet believed, and a next test', () => {
    for (const { plan, log } of [tern, heron]) {
      const report = caseReport(plan, log.cases[0]!, log)
      expect(report.state).toBe('open')
      expect(report.next.length).toBeGreaterThan(3)
      expect(log.surveys[0]!.rows.some(r => !log.surveys[0]!.readings[r.id])).toBe(true)
    }
  })
  it('Tern Rock: the survey alone says the controller, above about 7 A; the antenna off says radiated', () => {
    const [first] = tern.log.cases
    expect(reason(tern.plan, first!, tern.log).belief.pairs[0]).toMatchObject({ device: 'ctl' })
    const report = caseReport(tern.plan, withFindings(first!, heard({ antenna: 'dummy' }, 'gone')), tern.log)
    expect(report.state).toBe('believed')
    expect(report.ranked[0]).toMatchObject({ label: 'Charge controller, by the antenna' })
    expect(report.ranked[0]!.when).toMatch(/^above 4 to [0-9.]+ A, as heard$/)
    expect(report.suggestions[0]!.title).toMatch(/common-mode choke on panel lead/i)
    expect(report.suggestions.map(s => s.what)).toContain('distance')
  })
  it('Heron: the comb fits the inverter; a battery of its own and a choke say common mode', () => {
    const report = caseReport(
      heron.plan,
      withFindings(
        heron.log.cases[0]!,
        heard({ feed: 'own-battery' }, 'gone', 'o2'),
        heard({ added: [{ what: 'choke', at: 'radio' }] }, 'weaker', 'o3'),
        heard({ added: [{ what: 'lc-filter', at: 'radio' }] }, 'same', 'o4'),
        heard({ devices: { inv: { state: 'off' } } }, 'gone', 'o5'),
      ),
      heron.log,
    )
    expect(report.ranked[0]!.pair).toMatchObject({ device: 'inv', way: 'dc-common' })
    expect(report.state).toBe('believed')
    expect(report.forIt.map(e => e.words)).toContain('Tones 62.3 kHz apart, which fits Inverter (20 m)')
  })
})

describe('a case report', () => {
  const [first] = heron.log.cases
  it('says a contradiction in words, and calls nothing believed', () => {
    const report = caseReport(
      heron.plan,
      withFindings(
        first!,
        heard({ devices: { inv: { state: 'off' } } }, 'gone', 'o2'),
        heard({ devices: { inv: { state: 'off' } } }, 'same', 'o3'),
      ),
      heron.log,
    )
    expect(report.state).toBe('torn')
    expect(report.headline).toMatch(/contradict/)
    expect(report.contradictions).toHaveLength(1)
    expect(report.contradictions[0]).toMatch(/no cause in common/)
    // One finding against three is one sentence.
    const odd = caseReport(
      heron.plan,
      withFindings(
        first!,
        heard({ devices: { inv: { state: 'off' } } }, 'gone', 'o2'),
        heard({ devices: { dcdc: { state: 'off' } } }, 'gone', 'o3'),
      ),
      heron.log,
    )
    expect(odd.contradictions).toHaveLength(1)
    expect(odd.contradictions[0]).toMatch(
      /^“DC-DC charger off: gone” has no cause in common with .* and “Inverter off: gone”/,
    )
  })
  it('says that bands may have ways of their own, and splits', () => {
    const own = (what: 'gone' | 'same', band: string, id: string) => ({
      ...heard({ feed: 'own-battery' }, what, id),
      bands: [band],
    })
    const both = withFindings(first!, own('gone', '20 m', 'o2'), own('same', '15 m', 'o3'))
    expect(caseReport(heron.plan, both, heron.log).contradictions[0]).toBe(
      '“The radio on a battery of its own: as strong (15 m)” has no cause in common with “The radio on a ' +
        'battery of its own: gone (20 m)”. They were heard on different bands: there may be a way in of its own ' +
        'on each. Make a case for each band.',
    )
    expect(caseReport(heron.plan, both, heron.log).bandsDiffer).toBe(true)
    const parts = splitByBand(both, n => `n${n}`)
    expect(parts.map(c => [c.id, c.title, c.observations.map(o => o.id)])).toEqual([
      ['n0', 'Evenly spaced tones through 20 m and 15 m: 20 m', ['o1', 'o2']],
      ['n1', 'Evenly spaced tones through 20 m and 15 m: 15 m', ['o3']],
    ])
    const ways = parts.map(c => caseReport(heron.plan, c, heron.log))
    expect(ways.map(r => r.contradictions)).toEqual([[], []])
    expect(ways[0]!.ranked[0]!.pair.way).not.toBe('antenna')
    expect(ways[1]!.ranked[0]!.pair.way).toBe('antenna')
  })
  it('does not advise a test that was made', () => {
    const before = caseReport(heron.plan, first!, heron.log).next.map(t => t.id)
    expect(before).toContain('dummy')
    const after = caseReport(
      heron.plan,
      withFindings(first!, heard({ antenna: 'dummy' }, 'weaker')),
      heron.log,
    ).next.map(t => t.id)
    expect(after).not.toContain('dummy')
    expect(before).not.toContain('comb')
  })
  it('says each finding in words', () => {
    const { devices } = causesOf(heron.plan, { bands: [] })
    expect(
      observationWords(
        heard({ devices: { inv: { state: 'off' }, dcdc: { state: 'working', currentA: 20 } } }, 'gone'),
        devices,
      ),
    ).toBe('DC-DC charger at 20 A, with Inverter off: gone')
    expect(
      observationWords(heard({ antenna: 'dummy', added: [{ what: 'choke', at: 'radio' }] }, 'weaker'), devices),
    ).toBe('The antenna off, with a choke on the lead of the radio: weaker')
    expect(observationWords({ kind: 'sniff', id: 'o', at: '', loudest: 'inv' }, devices)).toBe(
      'Pocket set: loudest at Inverter',
    )
    expect(observationWords({ kind: 'comb', id: 'o', at: '', spacingHz: null }, devices)).toBe('No evenly spaced tones')
  })
  it('is text for a list, with evidence, log, cures and cautions, and a PDF', async () => {
    const solved: NoiseCase = {
      ...withFindings(tern.log.cases[0]!, {
        ...heard({ antenna: 'dummy' }, 'gone'),
        who: 'HF operator',
        allowedBy: 'sun',
      }),
      cures: [cure({ before: { '30 m': 'S7' }, after: { '30 m': 'S3' }, sideEffects: 'none seen' })],
    }
    const report = caseReport(tern.plan, solved, tern.log)
    const text = reportText(tern.plan, solved, report)
    for (const words of [
      'Hiss on 30 m',
      'Believed',
      'The antenna off: gone',
      'possible by sun',
      'Common-mode choke at Charge controller: gone, 30 m −23 dB',
      'kept',
      'Never defeat a fuse or a safety earth',
    ])
      expect(text).toContain(words)
    const pdf = await casePdf({ plan: tern.plan, noiseCase: solved, report }, { loadFace })
    expect(new TextDecoder('latin1').decode(pdf.subarray(0, 5))).toBe('%PDF-')
  })
})

describe('a part that is called as what is no part', () => {
  it.each(['outside', 'other', 'receiver'])('%s: is not taken for it, and it is said', id => {
    const plan = structuredClone(tern.plan)
    const part = plan.parts.find(p => p.id === 'ctl')!
    part.id = id
    for (const lead of plan.leads) {
      lead.from = lead.from.replace(/^ctl(?=\.|$)/, id)
      lead.to = lead.to.replace(/^ctl(?=\.|$)/, id)
    }
    const causes = causesOf(plan, { bands: ['30 m'] })
    expect(causes.devices.filter(d => d.id === id)).toHaveLength(1)
    expect(causes.devices.find(d => d.id === id)!.kind).toBe(id)
    const report = caseReport(plan, tern.log.cases[0]!, tern.log)
    expect(report.cautions[0]).toMatch(new RegExp(`^Charge controller is not weighed: .*“${id}”.*another id`))
    expect(caseReport(tern.plan, tern.log.cases[0]!, tern.log).cautions[0]).not.toMatch(/not weighed/)
  })
})

describe('cures', () => {
  it("gain dB band by band, by the receiver's calibration", () => {
    const c = cure({ before: { '30 m': 'S7', '20 m': 'S3' }, after: { '30 m': 'S3', '20 m': 'S3' } })
    expect(gains(c)).toEqual([
      { band: '30 m', db: 24 },
      { band: '20 m', db: 0 },
    ])
    expect(gains(c, tern.log.receiver)[0]!.db).toBeCloseTo(23, 0)
    expect(effect(c)).toBe('gone')
    expect(effect(cure({ before: { '30 m': 'S7' }, after: { '30 m': 'S6' } }))).toBe('weaker')
    expect(effect(cure({ before: { '30 m': 'S7' }, after: { '30 m': 'S6.5' } }))).toBe('same')
    expect(effect(cure({ byEar: 'weaker' }))).toBe('weaker')
    expect(effect(cure())).toBeNull()
  })
  it('are tests too, where they tell something', () => {
    expect(cureObservation(cure({ byEar: 'gone' }))).toMatchObject({
      setup: { added: [{ what: 'choke', at: 'ctl' }] },
      heard: 'gone',
    })
    expect(cureObservation(cure({ what: 'from-battery', byEar: 'same' }))).toMatchObject({
      setup: { feed: 'own-battery' },
    })
    expect(cureObservation(cure({ what: 'other-hours', byEar: 'gone' }))).toBeNull()
    expect(cureObservation(cure())).toBeNull()
  })
  it('more distance is a change of the plan only where the plan says that something is near', () => {
    const patchOf = (nearAntennaLead: boolean) => {
      const plan = {
        ...heron.plan,
        parts: heron.plan.parts.map(p => (p.id === 'inv' ? { ...p, nearAntennaLead } : p)),
      } as Plan
      const { devices } = causesOf(plan, { bands: [] })
      return suggestions(plan, { device: 'inv', way: 'antenna' }, devices).find(s => s.what === 'distance')!.patch
    }
    const at = heron.plan.parts.findIndex(p => p.id === 'inv')
    expect(patchOf(true)).toEqual([{ op: 'replace', path: `/parts/${at}/nearAntennaLead`, value: false }])
    expect(patchOf(false)).toBeUndefined()
  })
  it('suggested for every cause apply to the plan, or have no patch', () => {
    for (const { plan } of [tern, heron]) {
      const { devices } = causesOf(plan, { bands: [] })
      for (const device of devices) {
        for (const way of ['antenna', 'dc-common', 'dc-differential', 'audio', 'mains'] as const) {
          const list = suggestions(
            plan,
            { device: device.id, way },
            devices,
            plan.parts.find(p => p.kind === 'radio')!.id,
          )
          expect(list.length).toBeGreaterThan(0)
          for (const s of list) {
            if (!s.patch) continue
            const edited = applyEdit(plan, s.patch)
            expect(edited.ok, s.title).toBe(true)
          }
          if (way === 'mains' && isPart(device.id)) expect(list[0]!.caution).toMatch(/unplugged/)
        }
      }
    }
  })
  it('of similar devices are counted from the logbook', () => {
    const tried = [
      cure({ byEar: 'gone' }),
      cure({ id: 'k2', byEar: 'same', kept: false }),
      cure({ id: 'k3', what: 'distance', before: { '30 m': 'S7' }, after: { '30 m': 'S4' } }),
      cure({ id: 'k4' }),
    ].map(c => ({ cure: c, deviceKind: 'controller', station: 'Tern Rock' }))
    expect(similarCures(tried, 'controller')).toEqual([
      { what: 'distance', times: 1, helped: 1, kept: 1, bestDb: 18 },
      { what: 'choke', times: 2, helped: 1, kept: 1, bestDb: null },
    ])
    expect(similarCures(tried, 'inverter')).toEqual([])
  })
  it('have a schema that refuses what is no cure', () => {
    expect(cureSchema.safeParse(cure()).success).toBe(true)
    expect(cureSchema.safeParse({ ...cure(), what: 'prayer' }).success).toBe(false)
  })
})

describe('the logbook', () => {
  it('of a new station is empty and valid', () => {
    expect(logbookSchema.safeParse(emptyLogbook()).success).toBe(true)
  })
  it('takes no survey into a practice case', () => {
    const practice = { ...tern.log.cases[0]!, practice: { seed: 3 } }
    expect(reason(tern.plan, practice, tern.log).evidence).toEqual([])
  })
  it('changed in two windows keeps what both wrote', () => {
    const [survey] = tern.log.surveys
    const [first] = tern.log.cases
    const mine = {
      ...tern.log,
      surveys: [{ ...survey!, readings: { ...survey!.readings, mains: { '80 m': 'S5' } } }],
      cases: [withFindings(first!, heard({ antenna: 'dummy' }, 'gone', 'mine'))],
    }
    const theirs = {
      ...tern.log,
      surveys: [
        {
          ...survey!,
          readings: { ...survey!.readings, mains: { '40 m': 'S4' }, off: { ...survey!.readings.off, '80 m': 'S9' } },
        },
      ],
      cases: [withFindings(first!, heard({ rfGain: 'down' }, 'gone', 'theirs')), { ...first!, id: 'c2' }],
    }
    const both = threeWay(tern.log, mine, theirs, { renames: true }).value
    expect(both.surveys[0]!.readings.mains).toEqual({ '80 m': 'S5', '40 m': 'S4' })
    // What the other window alone has changed is not taken back by this one's older figure.
    expect(both.surveys[0]!.readings.off!['80 m']).toBe('S9')
    expect(both.cases.map(c => c.observations.map(o => o.id))).toEqual([['theirs', 'mine'], []])
    expect(logbookSchema.safeParse(both).success).toBe(true)
  })
  it('counts the cures of its cases by the kind of device believed in, practice left out', () => {
    const [first] = tern.log.cases
    const log = {
      ...tern.log,
      cases: [
        { ...first!, cures: [cure({ where: 'radio', byEar: 'gone' as const })] },
        { ...first!, id: 'c2', practice: { seed: 1 }, cures: [cure()] },
      ],
    }
    expect(triedCures(tern.plan, log)).toMatchObject([{ deviceKind: 'controller', station: 'Tern Rock light' }])
  })
  it('reads each survey and case by the calibration of its own radio', () => {
    const deaf = {
      calibration: [
        { shown: 'S1', dbm: -119 },
        { shown: 'S9', dbm: -110 },
      ],
    }
    const log = { ...tern.log, receivers: { hf: deaf } }
    expect(receiverOf(log, 'hf')).toEqual(deaf)
    expect(receiverOf(log, 'vhf')).toEqual(tern.log.receiver)
    const cured = { ...tern.log.cases[0]!, cures: [cure({ before: { '30 m': 'S7' }, after: { '30 m': 'S3' } })] }
    // Four units of this meter are 4.5 dB.
    expect(caseReport(tern.plan, cured, log).cures[0]!.did).toBe('weaker, 30 m −5 dB')
    const heardWith = (radio?: string) =>
      reason(tern.plan, tern.log.cases[0]!, {
        ...log,
        surveys: log.surveys.map(s => ({ ...s, ...(radio && { radio }) })),
      }).evidence.map(o => o.kind === 'listen' && o.heard)
    expect(heardWith()).toEqual(['gone', 'gone', 'same'])
    expect(heardWith('hf')).not.toEqual(heardWith())
    expect(logbookSchema.safeParse(log).success).toBe(true)
  })
  it('writes a case to a file and reads it back', () => {
    const text = writeCase(heron.log.cases[0]!)
    const read = readCaseText(text)
    expect(read.ok && read.case).toEqual({ ...heron.log.cases[0]!, format: 'wireman-noise-case', version: 1 })
  })
  it.each([
    ['', /empty/],
    ['{', /not JSON/],
    ['{"format":"other"}', /format is "other"/],
    ['{"format":"wireman-noise-case","version":9}', /newer/],
    ['{"format":"wireman-noise-case","version":1}', /id/],
    ['null', /format is missing/],
  ])('refuses %j in words', (text, wrong) => {
    const read = readCaseText(text)
    expect(!read.ok && read.wrong).toMatch(wrong)
  })
})
