import { effectScope, nextTick, reactive } from 'vue'
import { afterEach, describe, expect, it } from 'vitest'
import { noteAnswer } from '../../../app/stores/reach'
import { useBeside } from '../../../app/stores/useOpenStation'

/** What belongs to a station beside its plan. */
const scope = effectScope()
afterEach(() => {
  scope.stop()
  noteAnswer(200)
})

describe('what is opened beside a station', () => {
  it('is opened with it, and asked for again once the server answers after it did not', async () => {
    const station = reactive({ id: '' })
    const asked: string[] = []
    const open = async (id: string) => void asked.push(id)
    scope.run(() => useBeside(station, { open }))
    expect(asked).toEqual([])
    station.id = 'one'
    await nextTick()
    expect(asked).toEqual(['one'])
    noteAnswer()
    await nextTick()
    const before = asked.length
    noteAnswer(200)
    await nextTick()
    expect(asked.slice(before)).toEqual(['one'])
  })
})
