import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { asRecorded, RECORDED } from '../../data/recorded'
import { RECORDED_ROOMS } from '../../data/recordedRooms'

const folder = join(import.meta.dirname, '../../data/recorded')

/** `./run record` sets this; the differences are then read in the commit. */
const writes = process.env.WIREMAN_RECORD === '1'

const ALL = { ...RECORDED, ...RECORDED_ROOMS }

describe('whole answers on known plans', () => {
  it.each(Object.keys(ALL))('%s says what it said', name => {
    const file = join(folder, `${name}.json`)
    const answer = asRecorded(ALL[name]!())
    if (writes) writeFileSync(file, answer)
    expect(JSON.parse(answer)).toEqual(JSON.parse(readFileSync(file, 'utf8')))
  })
})
