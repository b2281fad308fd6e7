/** What goes wrong with a station's power, as operators say it. */
export const SYMPTOMS = {
  'cuts-out-on-transmit': 'it cuts out, or starts anew, on transmit',
  'both-died': 'two radios went dead at once',
  'weak-late': 'it gets weak late in the day',
  'behaves-oddly': 'it behaves oddly: display dims, settings are lost, audio breaks up',
  'will-not-charge': 'the pack is not charged',
  'bank-sleeps': 'the bank goes to sleep',
  'low-voltage-port': 'a port gives 9 V in place of 12',
  'flat-overnight': 'the pack was flat in the morning',
  'fuse-blew': 'a fuse blew',
  'resets-at-changeover': 'it starts anew when mains come or go',
  'one-odd-of-two': 'one of two radios on the same battery is odd',
  'not-heard': 'I still hear them, they no longer hear me',
} as const
export type Symptom = keyof typeof SYMPTOMS
export const SYMPTOM_IDS = Object.keys(SYMPTOMS) as [Symptom, ...Symptom[]]

/** Classes of causes. */
export const CAUSES = {
  sag: 'the voltage sags under its least when it transmits',
  joint: 'a joint has gone bad',
  shared: 'a joint that both share has gone bad',
  empty: 'the pack is nearly empty',
  aged: 'the pack has aged: it holds less and sags more',
  bms: 'the management system cuts off',
  limit: 'the source or converter gives no more amps',
  blown: 'a fuse or breaker is open',
  'small-fuse': 'the fuse is too small for what flows',
  short: 'something is short, or has been',
  sleeps: 'it sleeps, since too little is taken',
  'no-12': 'the source does not offer the voltage that is asked for',
  'cable-3a': 'the cable or port gives less than is asked',
  'wrong-set': 'the charging device is set to another chemistry',
  'too-cold': 'it is too cold for it to be charged',
  'no-input': 'the charging device has nothing to charge from',
  'charger-small': 'what charges is too small, or holds too low a voltage',
  'left-on': 'it was left on',
  'load-cut': 'the load terminal opens: its timer or its low-voltage cut',
  gap: 'the changeover lets go for too long',
  rf: 'radio frequency gets into the supply lead',
  antenna: 'the antenna or its lead, not the power',
  'low-power': 'transmit power is down with the voltage',
  itself: 'the radio itself',
  other: 'something that is not in this list',
} as const
export type CauseClass = keyof typeof CAUSES

/** A cause in a plan: of a class, at a place. */
export interface PowerCause {
  id: string
  of: CauseClass
  /** A part, lead or joint; empty for one that is nowhere in the plan. */
  place: string
  words: string
  /** Why it is as likely as it is, in figures of the plan; empty where nothing speaks. */
  why: string
  /** Odds before anything was found. */
  odds: number
}
