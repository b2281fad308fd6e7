import type { Mode } from './modes'

/** One contact of a log. */
export interface Contact {
  at: Date
  mode: string
  band?: string
}

/** What a log tells of how a station was used. */
export interface Learned {
  contacts: number
  /** Time on the air: from contact to contact, pauses of over half an hour left out. */
  onAirH: number
  contactsPerHour: number
  /** By mode: contacts, and the share of the time on the air that was transmitted, as is usual for so many contacts. */
  modes: { mode: Mode; contacts: number; share: number }[]
}

/** A longer gap is a pause, h. */
const PAUSE_H = 0.5
/**
 * Transmitted for a contact, calls and all, s: rough figures of practice, for want of a source. A voice exchange is
 * about a third of a minute, a digital one some four overs of a quarter of a minute each.
 */
const TRANSMITS_S: Record<Mode, number> = { voice: 22, cw: 30, fm: 25, digital: 55, beacon: 60 }

const VOICE = ['SSB', 'USB', 'LSB', 'AM', 'DIGITALVOICE', 'PHONE']
function modeOf(written: string): Mode {
  const mode = written.toUpperCase()
  if (mode === 'CW') return 'cw'
  if (mode === 'FM') return 'fm'
  return VOICE.includes(mode) || mode === '' ? 'voice' : 'digital'
}

/** @param contacts in the order of their times */
export function learnFrom(contacts: readonly Contact[]): Learned {
  const hours = contacts.map(c => c.at.getTime() / 3600e3)
  const gaps = hours.slice(1).map((h, i) => h - hours[i]!)
  const active = gaps.filter(g => g <= PAUSE_H)
  const mean = active.length ? active.reduce((sum, g) => sum + g, 0) / active.length : PAUSE_H / 2
  // The last contact before a pause took its time as well.
  const onAirH = active.reduce((sum, g) => sum + g, 0) + (gaps.length - active.length + 1) * mean
  const counts = new Map<Mode, number>()
  for (const c of contacts) counts.set(modeOf(c.mode), (counts.get(modeOf(c.mode)) ?? 0) + 1)
  return {
    contacts: contacts.length,
    onAirH,
    contactsPerHour: contacts.length / onAirH,
    modes: [...counts]
      .sort((a, b) => b[1] - a[1])
      .map(([mode, n]) => ({ mode, contacts: n, share: Math.min(1, (n * TRANSMITS_S[mode]) / 3600 / onAirH) })),
  }
}
