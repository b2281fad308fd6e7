/** One thing to do at the bench, and what shows that it is well. */
export interface CommissionStep {
  /** The same for the same thing of a plan, whatever else is in it. */
  id: string
  phase: Phase
  does: string
  why: string
  /** What one should see or read. */
  see: string
  stopIf: string
  caution?: string
  lead?: string
  part?: string
  /** Where a figure is read, and in which condition; `rested`: a pack by itself. */
  reading?: { at: string; condition: string; member?: { name: string; share: number } }
  /** A device of which it is noted how it is set. */
  setting?: string
}

export const PHASES = {
  bench: 'Bench checks',
  packs: 'Each pack by itself',
  settings: 'Settings',
  connect: 'Connect in order',
  idle: 'Everything on, idle',
  keyed: 'Key into a dummy load',
  charge: 'Charging',
} as const
export type Phase = keyof typeof PHASES
