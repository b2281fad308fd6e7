import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { asRecorded } from './recorded'

const folder = join(import.meta.dirname, 'recorded')

/** `./run record` sets this; the differences are then read in the commit. */
const writes = process.env.WIREMAN_RECORD === '1'

/** A test for each answer: it is what its file says. */
export function holdsToRecorded(what: string, all: Readonly<Record<string, () => unknown>>) {
  describe(what, () => {
    it.each(Object.keys(all))('%s says what it said', async name => {
      const file = join(folder, `${name}.json`)
      const answer = asRecorded(await all[name]!())
      if (writes) writeFileSync(file, answer)
      expect(JSON.parse(answer)).toEqual(JSON.parse(readFileSync(file, 'utf8')))
    })
  })
}
