import { EventEmitter } from 'node:events'

/** What was saved, told to every window: at once within this server, by the database between several. */

export interface Change {
  /** A document by its kind, or the list of stations; all: something may have been missed. */
  of: 'plan' | 'noise' | 'hours' | 'log' | 'shelf' | 'list' | 'all'
  /** The station's. */
  id?: string
  revision?: number
}

const heard = new EventEmitter().setMaxListeners(0)

/** Tells the windows of this server. */
export const tellWindows = (change: Change) => void heard.emit('change', change)

/** @returns ends it */
export function onChange(listener: (change: Change) => void): () => void {
  heard.on('change', listener)
  return () => heard.off('change', listener)
}

let publish: (change: Change) => Promise<unknown> = change => Promise.resolve(tellWindows(change))

/** Where several servers share a database, they all are told by it: this one too. */
export function publishBy(others: typeof publish) {
  publish = others
}

/** Tells every window. What was saved is saved, whether or not the others hear of it at once. */
export const announce = (change: Change): void => void publish(change).catch(() => undefined)
