import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { asRecorded } from './recorded'
import { partOf } from './sampled'

const folder = join(import.meta.dirname, 'recorded')

/** `./run record` sets this; the differences are then read in the commit. */
const writes = process.env.WIREMAN_RECORD === '1'

/**
 * A test for each answer: it is what its file says.
 * @param bySeed the answers are groups of names, of which some are asked: those are what the file says of them
 */
export function holdsToRecorded(what: string, all: Readonly<Record<string, () => unknown>>, bySeed = false) {
  describe(what, () => {
    it.each(Object.keys(all))('%s says what it said', async name => {
      const file = join(folder, `${name}.json`)
      const answer = asRecorded(await all[name]!())
      if (writes) writeFileSync(file, answer)
      // No sentence tells a number that is none; what was a mistake to ask may say why.
      const said = answer.replaceAll(/"thrown: [^"]*"/g, '')
      expect(said.match(/.{40}\b(NaN|undefined|Infinity)\b.{20}/g)).toBeNull()
      const now = JSON.parse(answer) as Parameters<typeof partOf>[1]
      const recorded = JSON.parse(readFileSync(file, 'utf8')) as typeof now
      expect(now).toEqual(bySeed ? partOf(recorded, now) : recorded)
    })
  })
}
