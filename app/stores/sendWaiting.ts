import { DOCUMENTS, type DocumentKind, type DocumentName } from './documents'
import { waitingDrafts, type WaitingDraft } from './keptHere'
import { reach } from './reach'
import { isSentFromHere } from './sentFrom'

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

async function send({ name, base, value, sent = [] }: WaitingDraft): Promise<boolean> {
  const [kind, id = ''] = name.split(' ') as [DocumentName, string?]
  const { read, save, merge } = DOCUMENTS[kind] as unknown as DocumentKind<unknown>
  const theirs = await read(id)
  // What was read from this browser's own store is not what the server has.
  if (reach.value !== 'here') return false
  const both = isSentFromHere(sent, theirs.value as object) ? value : merge(base, value, theirs.value).value
  if (both === null) return false
  if (JSON.stringify(both) === JSON.stringify(theirs.value)) return true
  const saved = await save(id, theirs.revision, both)
  return saved.status === 'saved'
}
