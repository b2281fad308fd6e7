import { effectScope, nextTick, shallowRef } from 'vue'
import { describe, expect, it } from 'vitest'
import { useFirstFix } from '../../../app/findings/useFirstFix'
import type { Fix } from '../../../core/verdict/fixes'
import type { Finding } from '../../../core/verdict/verdict'

/** A press of F, the fix of a finding, and what was taken. */
function pressed() {
  const finding = shallowRef<Finding | null>({ key: 'a' } as Finding)
  const fixes = shallowRef<ReadonlyMap<string, Fix[]>>(new Map())
  const taken: string[] = []
  const take = (of: Finding, { label }: Fix) => taken.push(`${of.key} ${label}`)
  const press = effectScope().run(() => useFirstFix({ finding, fixes: () => fixes.value, take }))!
  const work = async (key: string, ...labels: string[]) => {
    fixes.value = new Map([...fixes.value, [key, labels.map(label => ({ label }) as Fix)]])
    await nextTick()
  }
  const look = async (key: string) => {
    finding.value = { key } as Finding
    await nextTick()
  }
  return { press, work, look, taken, fixes }
}

describe('the first fix of the finding that is looked at', () => {
  it('is taken at once where it is worked out', async () => {
    const { press, work, taken } = pressed()
    await work('a', 'thicker', 'shorter')
    press()
    expect(taken).toEqual(['a thicker'])
  })
  it('is taken once it is worked out, once', async () => {
    const { press, work, taken } = pressed()
    press()
    press()
    expect(taken).toEqual([])
    await work('b', 'other')
    await work('a', 'thicker')
    await work('c', 'third')
    expect(taken).toEqual(['a thicker'])
  })
  it('is not taken of another finding than was looked at, nor later', async () => {
    const { press, work, look, taken } = pressed()
    press()
    await look('b')
    await work('b', 'other')
    await look('a')
    await work('a', 'thicker')
    expect(taken).toEqual([])
  })
  it('is none where nothing mends it', async () => {
    const { press, work, taken, fixes } = pressed()
    press()
    await work('a')
    fixes.value = new Map([['a', [{ label: 'late' } as Fix]]])
    await nextTick()
    expect(taken).toEqual([])
  })
})
