import type { Patch } from '../edit/patch'

/** A change that might mend a finding, not yet solved again. */
export interface Proposal {
  label: string
  patch: Patch
  /** What it costs beyond what the solution shows, in words: "190 g more copper". */
  cost?: string
}

/** An edit with what it is called. */
export const propose = (label: string, patch: Patch): Proposal => ({ label, patch })
