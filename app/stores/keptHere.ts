import { createStore, del, entries, get, set } from 'idb-keyval'
import type { Print } from './sentFrom'

/**
 * What this browser keeps over a closed page: answers of the server as they were last read, and what was changed here
 * and is not saved yet. A window's drafts are its own while it lives; those of a window that is gone are for the next.
 */

export interface Draft<T = unknown> {
  /** Of what: "plan" or another kind of document, and the station's id. */
  name: string
  /** What the change was made on. */
  base: T
  /** What was sent of it and not answered. */
  sent?: readonly Print[]
  value: T
}

const isThere = typeof indexedDB !== 'undefined'
const answers = isThere ? createStore('wireman-answers', 'answers') : undefined
const drafts = isThere ? createStore('wireman-drafts', 'drafts') : undefined

/** A browser that keeps nothing, or no more, goes on without: what is typed stays in the page. */
const quietly = <T>(kept: Promise<T> | undefined): Promise<T | undefined> =>
  kept ? kept.catch(() => undefined) : Promise.resolve(undefined)

export const keepAnswer = (path: string, value: unknown) => quietly(answers && set(path, value, answers))
export const keptAnswer = <T>(path: string): Promise<T | undefined> => quietly(answers && get<T>(path, answers))

/** This page, until it is closed: a lock says to the others that it lives. */
const windowId = Math.random().toString(36).slice(2)
const lockOf = (id: string) => `wireman-window-${id}`
if (isThere && 'locks' in navigator) void navigator.locks.request(lockOf(windowId), () => new Promise(() => undefined))

const keyOf = (name: string) => `${windowId} ${name}`

export const keepDraft = <T>(draft: Draft<T>) => quietly(drafts && set(keyOf(draft.name), draft, drafts))
export const dropDraft = (name: string) => quietly(drafts && del(keyOf(name), drafts))

/** A draft that no other living window has, and the way to say that it is taken over. */
export interface WaitingDraft<T = unknown> extends Draft<T> {
  isOwn: boolean
  drop: () => Promise<unknown>
}

/** All drafts, with whose they are, and whether that window lives. */
async function allDrafts() {
  const all = (await quietly(drafts && entries<string, Draft>(drafts))) ?? []
  if (!all.length) return []
  const { held = [] } = (await quietly(navigator.locks?.query())) ?? {}
  const living = new Set(held.map(l => l.name))
  return all.map(([key, draft]) => {
    const [owner] = key.split(' ') as [string]
    return { key, draft, owner, isOwn: owner === windowId, isLiving: living.has(lockOf(owner)) }
  })
}

export async function waitingDrafts(): Promise<WaitingDraft[]> {
  const all = await allDrafts()
  return all
    .filter(d => d.isOwn || !d.isLiving)
    .map(({ key, draft, isOwn }) => ({ ...draft, isOwn, drop: () => quietly(drafts && del(key, drafts)) }))
}

const awaited = new Set<string>()
/** Calls once a window that has drafts now is gone: one that was closed just before this one opened still lives. */
export async function whenOthersAreGone(then: () => void) {
  for (const { owner, isOwn, isLiving } of await allDrafts()) {
    if (isOwn || !isLiving || awaited.has(owner)) continue
    awaited.add(owner)
    void navigator.locks.request(lockOf(owner), then)
  }
}

/** Those of one document, to be taken on top of what the server has. */
export const waitingDraftsOf = async <T>(name: string): Promise<WaitingDraft<T>[]> =>
  (await waitingDrafts()).filter((d): d is WaitingDraft<T> => d.name === name)
