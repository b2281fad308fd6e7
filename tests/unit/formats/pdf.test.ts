import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { loadFace } from '../../../cli/faces'
import { buildSheetPdf } from '../../../core/formats/pdf/buildSheet'
import { labelsPdf } from '../../../core/formats/pdf/labels'
import { asItStands } from '../../../core/formats/pdf/rightToLeft'
import { facesWanted, Printed, type FaceFile } from '../../../core/formats/pdf/typefaces'
import { fontOfWoff } from '../../../core/formats/pdf/woff'
import { pathOnPaper } from '../../../core/picture/paper'
import { LIGHT } from '../../../core/picture/scene/palette'
import { shownOf } from '../../../core/picture/shown'
import { buildSheet } from '../../../core/sheets/build'
import { LABEL_FORMATS, labelsOf } from '../../../core/sheets/labels'
import { judge } from '../../../core/verdict/verdict'
import { madeUpPlan } from '../../bench/plans'
import { lettersIn } from '../../data/pdf'
import { demoPlan } from '../../data/plans'
import { figure } from '../../../core/units/number'

describe('PDF', () => {
  const tern = demoPlan('tern-rock-light')
  const sheet = buildSheet(tern)
  const { verdict, study } = judge(tern)
  const path = pathOnPaper(tern, verdict, shownOf(study, verdict))
  it('of the build sheet is a PDF of some pages, without a sign its typeface lacks', async () => {
    const bytes = await buildSheetPdf(sheet, { loadFace })
    const text = Buffer.from(bytes).toString('latin1')
    expect(text.startsWith('%PDF-')).toBe(true)
    expect(text.match(/\/Type \/Page\b/g)!.length).toBeGreaterThanOrEqual(2)
  })
  it('of Tern Rock fits on three pages, on either paper, and says that it is not to be built yet', async () => {
    for (const paper of ['a4', 'letter'] as const) {
      const text = Buffer.from(await buildSheetPdf(sheet, { paper, path, loadFace })).toString('latin1')
      expect(text.match(/\/Type \/Page\b/g)!.length).toBeLessThanOrEqual(3)
      expect(text).toContain('Not ready to build: Fuse too far from House pack')
    }
  })
  it('has figures of five digits whole, and no sign that became a question mark', async () => {
    const heavy = { ...tern, parts: tern.parts.map(p => (p.id === 'bat' ? { ...p, massG: 45678, cost: 12345 } : p)) }
    const text = Buffer.from(await buildSheetPdf(buildSheet(heavy), { loadFace })).toString('latin1')
    const shown = [...text.matchAll(/\(((?:[^()\\]|\\.)*)\) Tj/g)].map(m => m[1]!)
    expect(shown.filter(line => line.includes('?'))).toEqual([])
    expect(shown.length).toBeGreaterThan(50)
  })
  it('has the path drawn on its first page: every part by its name, inside the margins', async () => {
    const [first] = Buffer.from(await buildSheetPdf(sheet, { path, loadFace }))
      .toString('latin1')
      .split('endstream')
    for (const part of tern.parts) expect(first).toContain(`(${part.name!.slice(0, 12)}`)
    // No sign that the typeface has not: a dash between two voltages among them.
    expect(first).toContain('(12.6-14.3 V)')
    // Copper in its colour, a lead as thick as it is drawn, and words at places on the page, in points.
    const copper = LIGHT.copper
      .slice(1)
      .match(/../g)!
      .map(h => (Number.parseInt(h, 16) / 255).toFixed(2))
    expect(first).toContain(`${copper.join(' ')} RG`)
    for (const [, x, y] of first!.matchAll(/([\d.-]+) ([\d.-]+) Td/g)) {
      expect(Number(x)).toBeGreaterThan(35)
      expect(Number(x)).toBeLessThan(595 - 35)
      expect(Number(y)).toBeGreaterThan(19)
      expect(Number(y)).toBeLessThan(842)
    }
  })
  it('of sixty parts gives the path the first page, and is no larger than it', async () => {
    const sixty = madeUpPlan(60)
    const judged = judge(sixty)
    const long = pathOnPaper(sixty, judged.verdict, shownOf(judged.study, judged.verdict))
    const [first] = Buffer.from(await buildSheetPdf(buildSheet(sixty), { path: long, loadFace }))
      .toString('latin1')
      .split('endstream')
    expect(first).toContain('(bat)')
    for (const [, , y] of first!.matchAll(/([\d.-]+) ([\d.-]+) Td/g)) expect(Number(y)).toBeGreaterThan(19)
  })
  it('of labels has one page a label for tape', async () => {
    const labels = labelsOf(demoPlan('clean-bench'))
    const text = Buffer.from(await labelsPdf(labels, LABEL_FORMATS[0]!, loadFace)).toString('latin1')
    expect(text.match(/\/Type \/Page\b/g)).toHaveLength(labels.length)
    expect(
      Buffer.from(await labelsPdf(labels, LABEL_FORMATS[1]!, loadFace))
        .toString('latin1')
        .match(/\/Type \/Page\b/g),
    ).toHaveLength(1)
  })
})

const NAMES = {
  cyrillic: ['Радио «Север», щит', ['sans', 'sans-bold']],
  greek: ['Σταθμός Ω', ['sans', 'sans-bold']],
  polish: ['Łódź źródło', ['sans', 'sans-bold']],
  armenian: ['Բարև ռադիո', ['sans', 'sans-bold']],
  georgian: ['რადიო', ['sans', 'sans-bold']],
  hebrew: ['רדיו', ['sans', 'sans-bold']],
  chinese: ['站点 无线电 電池', ['sans', 'sans-bold', 'world']],
  japanese: ['ラジオ バッテリー 局', ['sans', 'sans-bold', 'world']],
  korean: ['라디오 배터리', ['sans', 'sans-bold', 'world']],
  thai: ['วิทยุ', ['sans', 'sans-bold', 'world']],
  hindi: ['रेडियो', ['sans', 'sans-bold', 'world']],
  mixed: ['Радио 站', ['sans', 'sans-bold', 'world']],
} satisfies Record<string, [string, FaceFile[]]>

describe('a name in any script', () => {
  it('loads no typeface where the built-in one has all of it', () => {
    expect(facesWanted('“Nordhügel”')).toEqual(['sans', 'sans-bold'])
    expect(facesWanted('Nordhügel 13.8 V → 14.4 V, ≥ 2 Ω …')).toEqual([])
    expect(facesWanted(`−4 °C, ${figure(45678)} g`)).toEqual([])
    expect(facesWanted(JSON.stringify(buildSheet(demoPlan('tern-rock-light'))))).toEqual([])
  })
  const lettersOf = (name: string) => [...name].filter(c => c > '\u00ff')
  it.each(Object.entries(NAMES))('%s stands on a label', async (_script, [name, files]) => {
    expect(facesWanted(name)).toEqual(files)
    const plan = demoPlan('clean-bench')
    const named = { ...plan, parts: plan.parts.map((p, i) => (i ? p : { ...p, name })) }
    const embedded = lettersIn(await labelsPdf(labelsOf(named), LABEL_FORMATS[1]!, loadFace))
    for (const letter of lettersOf(name)) expect(embedded, letter).toContain(letter)
  })
  it('all of them stand in one build sheet, in the path as well', async () => {
    const names = Object.values(NAMES).map(([name]) => name)
    const plan = demoPlan('tern-rock-light')
    const named = { ...plan, name: names.at(-1)!, parts: plan.parts.map((p, i) => ({ ...p, name: names[i]! })) }
    const judged = judge(named)
    const path = pathOnPaper(named, judged.verdict, shownOf(judged.study, judged.verdict))
    const embedded = lettersIn(await buildSheetPdf(buildSheet(named), { path, loadFace }))
    for (const { name } of named.parts)
      for (const letter of lettersOf(name)) expect(embedded, `${letter} of ${name}`).toContain(letter)
  })
  it('arabic stands in its joined forms', async () => {
    const plan = { ...demoPlan('clean-bench'), name: 'راديو' }
    const embedded = lettersIn(await buildSheetPdf(buildSheet(plan), { loadFace }))
    for (const form of ['\ufead', '\ufea9', '\ufef3', '\ufeee']) expect(embedded, form).toContain(form)
  })
  it('what no typeface has is a question mark, and the rest of the name stands', async () => {
    const printed = await Printed.on({ unit: 'mm' }, 'Радио 📻', loadFace)
    expect(printed.set('Радио 📻')).toBe('Радио ?')
    expect(printed.doc.getFont().fontName).toBe('sans')
    expect(printed.set('HF radio')).toBe('HF radio')
    expect(printed.doc.getFont().fontName).toBe('helvetica')
    expect(printed.cell('站')).toEqual({ content: '?', styles: { font: 'sans' } })
  })
  it('a typeface that cannot be had is told, not printed around', async () => {
    const away = () => Promise.reject(new Error('away'))
    await expect(
      buildSheetPdf(buildSheet({ ...demoPlan('clean-bench'), name: '站' }), { loadFace: away }),
    ).rejects.toThrow('away')
  })
})

describe('from right to left', () => {
  it.each([
    ['HF radio, 10 AWG (A)', 'HF radio, 10 AWG (A)'],
    ['אבג', 'גבא'],
    ['אבג דה', 'הד גבא'],
    // A figure stays before its unit.
    ['Lead אבג: 10 AWG, 1.2 m', 'Lead גבא: 10 AWG, 1.2 m'],
    ['אבג 12 V to דה', 'גבא 12 V to הד'],
    // A mark stays with its letter.
    ['א\u05b8ב', 'בא\u05b8'],
  ])('%s', (line, stands) => {
    expect(asItStands(line)).toBe(stands)
  })
})

describe('a packed font', () => {
  const packed = readFileSync('node_modules/@fontsource/unifont/files/unifont-latin-400-normal.woff')
  it('comes out with all its tables, each as its checksum says', () => {
    const font = fontOfWoff(packed)
    const view = new DataView(font.buffer)
    const tables = view.getUint16(4)
    expect(tables).toBeGreaterThan(9)
    for (let i = 0; i < tables; i++) {
      const [sum, at, bytes] = [4, 8, 12].map(n => view.getUint32(12 + 16 * i + n)) as [number, number, number]
      const tag = String.fromCharCode(...font.subarray(12 + 16 * i, 16 + 16 * i))
      if (tag !== 'head') expect(sumOf(view, at, bytes), tag).toBe(sum)
    }
  })
  it('that is none is refused', () => {
    expect(() => fontOfWoff(new Uint8Array(10))).toThrow('no WOFF')
    expect(() => fontOfWoff(new Uint8Array(100))).toThrow('no WOFF')
  })
})

/** OpenType, "Calculating checksums". */
function sumOf(view: DataView, at: number, bytes: number): number {
  let sum = 0
  for (let i = 0; i < bytes; i += 4) {
    let word = 0
    for (let k = 0; k < 4; k++) word = word * 256 + (i + k < bytes ? view.getUint8(at + i + k) : 0)
    sum = (sum + word) % 2 ** 32
  }
  return sum
}
