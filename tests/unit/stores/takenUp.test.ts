import { afterEach, describe, expect, it, vi } from 'vitest'
import { useSavedDocument } from '../../../app/stores/useSavedDocument'

interface Doc {
  name: string
}
/** What a browser keeps, and how it went: a page may be closed after any of these. */
const stands = vi.hoisted(() => ({ drafts: new Map<string, object>(), history: [] as string[][] }))

vi.mock('../../../app/stores/keptHere', () => {
  const slowly = async (change: () => void) => {
    await new Promise(go => setTimeout(go, 20))
    change()
    stands.history.push([...stands.drafts.keys()])
  }
  return {
    keepDraft: (draft: object) => slowly(() => stands.drafts.set('mine', draft)),
    dropDraft: () => slowly(() => stands.drafts.delete('mine')),
    waitingDraftsOf: async () =>
      [...stands.drafts].map(([key, draft]) => ({
        ...draft,
        isOwn: key === 'mine',
        drop: () => slowly(() => stands.drafts.delete(key)),
      })),
  }
})

afterEach(() => {
  stands.drafts.clear()
  stands.history.length = 0
})

/** Opens what the server has at revision 2, where a window that is gone left a change made on revision 1. */
async function opened(merged: Doc | null) {
  stands.drafts.set('gone', { name: 'plan x', base: { name: 'was' }, value: { name: 'typed in the field' } })
  const send = async () => ({ status: 'saved' as const, revision: 3 })
  const document = useSavedDocument<Doc, Doc>({ send, onConflict: () => merged, saveAfterMs: 60_000 })
  await document.open(
    'plan x',
    async () => ({ name: 'desk' }),
    theirs => ({ theirs, revision: 2 }),
  )
  return document
}

describe('what a window that is gone left unsaved', () => {
  it.each([
    ['is merged', { name: 'both' }, 'unsaved', { name: 'both' }],
    ['cannot be merged', null, 'conflict', { name: 'typed in the field' }],
  ] as const)('%s: is let go of only once this window keeps it', async (_, merged, state, value) => {
    const document = await opened(merged)
    expect([document.state.value, document.value.value]).toEqual([state, value])
    await expect.poll(() => [...stands.drafts.keys()]).toEqual(['mine'])
    expect(stands.history.filter(kept => kept.length === 0)).toEqual([])
    expect(stands.drafts.get('mine')).toMatchObject({ value })
  })
})
