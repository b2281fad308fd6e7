/**
 * How operators transmit: what a mode takes on average while it transmits, of the current between listening and key
 * down. Voice takes a third to half of the key-down current, digital nearly all of it (practice).
 */
export const MODES = {
  voice: { label: 'voice (SSB)', ratio: 0.4, share: 0.3 },
  cw: { label: 'CW', ratio: 0.45, share: 0.35 },
  fm: { label: 'FM', ratio: 1, share: 0.2 },
  digital: { label: 'digital', ratio: 1, share: 0.4 },
  beacon: { label: 'beacon', ratio: 0.6, share: 1 },
} as const

export type Mode = keyof typeof MODES
export const MODE_IDS = Object.keys(MODES) as [Mode, ...Mode[]]
