import { DOCUMENTS, type DocumentKind, type DocumentName } from './documents'
import { waitingDrafts, type WaitingDraft } from './keptHere'
import { reach } from './reach'

/**
 * What was changed here while the server was away, and is open in no window now, is saved: merged with what others made
 * of it. What cannot be merged waits until its station is opened, where the user settles it.
 */
export async function sendWaiting(isOpen: (name: string) => boolean): Promise<void> {
  for (const draft of await waitingDrafts()) {
    if (draft.isOwn && isOpen(draft.name)) continue
    const isSent = await send(draft).catch(() => false)
    if (isSent) await draft.drop()
    else if (reach.value !== 'here') return
  }
}

async function send({ name, base, value }: WaitingDraft): Promise<boolean> {
  const [kind, id = ''] = name.split(' ') as [DocumentName, string?]
  const { read, save, merge } = DOCUMENTS[kind] as unknown as DocumentKind<unknown>
  const theirs = await read(id)
  // What was read from this browser's own store is not what the server has.
  if (reach.value !== 'here') return false
  const both = merge(base, value, theirs.value)
  if (both.value === null) return false
  if (JSON.stringify(both.value) === JSON.stringify(theirs.value)) return true
  const saved = await save(id, theirs.revision, both.value)
  return saved.status === 'saved'
}
