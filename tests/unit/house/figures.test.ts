import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect, it } from 'vitest'

/** A figure goes through core/units before it stands in a sentence: 21.400000000000002 A is told to nobody. */

const ROOT = join(import.meta.dirname, '../../..')
const UNIT = '(?:[AVWmgsΩ]|Ah|Wh|°C|min|h|Hz|kHz|dB|kg)\\b'
/** A name or a member alone, then a unit: `${device.ratedA} A`, `{{ m.amps }} A`. */
const RAW = [new RegExp(`\\$\\{([\\w.!?]+)\\} ${UNIT}`, 'g'), new RegExp(`\\{\\{ ([\\w.!?]+) \\}\\} ${UNIT}`, 'g')]

/** Words already, constants, or the whole numbers of a drill. */
const WORDS = ['cellV', 'volts', 'low', 'high', 'written', 'to']
const isConstant = (name: string) => /^[A-Z_]+$|^FACTORS\./.test(name)
const isDrill = (file: string) => file === 'core/practice/drills.ts'

const sources = ['core', 'app', 'cli'].flatMap(folder =>
  readdirSync(join(ROOT, folder), { recursive: true, encoding: 'utf8' })
    .filter(f => /\.(ts|vue)$/.test(f))
    .map(f => join(folder, f)),
)

it('no figure stands raw before its unit', () => {
  const raw = sources
    .filter(file => !isDrill(file))
    .flatMap(file => {
      const text = readFileSync(join(ROOT, file), 'utf8')
      const names = RAW.flatMap(pattern => [...text.matchAll(pattern)].map(match => match[1]!))
      return names.filter(name => !WORDS.includes(name) && !isConstant(name)).map(name => `${file}: ${name}`)
    })
  expect(raw).toEqual([])
})
