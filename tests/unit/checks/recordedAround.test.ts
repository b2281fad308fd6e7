import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { PAIRS } from '../../data/pairs'
import { asRecorded } from '../../data/recorded'
import { changesAround } from '../../data/recordedAround'
import { sampled } from '../../data/sampled'

const file = join(import.meta.dirname, '../../data/recorded/around-pairs.json')
const writes = process.env.WIREMAN_RECORD === '1'
const answers: Record<string, unknown> = {}

describe('around every plan that makes a check fire', () => {
  const held = writes ? {} : (JSON.parse(readFileSync(file, 'utf8')) as Record<string, unknown>)
  afterAll(() => writes && writeFileSync(file, asRecorded(answers)))

  it.each(sampled(Object.entries(PAIRS)))('%s says what it said of each figure changed', (id, { fires }) => {
    const answer = changesAround(id, fires)
    answers[id] = answer
    if (!writes) expect(JSON.parse(asRecorded(answer))).toEqual(held[id])
  })
})
