import type { CauseClass, Symptom } from './symptom'

/** How well a class of causes explains a symptom, 0–1; what is not named hardly does. Judgement, from practice. */
export const FITS: Record<Symptom, Partial<Record<CauseClass, number>>> = {
  'cuts-out-on-transmit': {
    sag: 1,
    joint: 1,
    shared: 0.5,
    empty: 0.7,
    aged: 0.7,
    bms: 0.8,
    limit: 0.8,
    rf: 0.4,
    itself: 0.2,
    'cable-3a': 0.4,
    'load-cut': 0.3,
    'no-12': 0.3,
  },
  'both-died': { shared: 1, blown: 0.8, bms: 0.7, empty: 0.5, 'load-cut': 0.5, sleeps: 0.4, short: 0.3, limit: 0.3 },
  'weak-late': { empty: 1, aged: 0.7, sag: 0.6, 'charger-small': 0.6, 'low-power': 0.8, joint: 0.2, 'left-on': 0.2 },
  'behaves-oddly': { joint: 1, sag: 0.6, rf: 0.8, itself: 0.4, 'no-12': 0.5, 'cable-3a': 0.5, shared: 0.4, empty: 0.4 },
  'will-not-charge': {
    'wrong-set': 0.8,
    'no-input': 1,
    'too-cold': 1,
    'charger-small': 0.6,
    blown: 0.8,
    joint: 0.2,
    bms: 0.4,
    aged: 0.2,
  },
  'bank-sleeps': { sleeps: 1, limit: 0.2, empty: 0.15, 'cable-3a': 0.1 },
  'low-voltage-port': { 'no-12': 1, 'cable-3a': 0.4, limit: 0.2, itself: 0.02 },
  'flat-overnight': { 'left-on': 1, aged: 0.4, 'charger-small': 0.4, 'no-input': 0.5, 'wrong-set': 0.25, empty: 0.2 },
  'fuse-blew': { 'small-fuse': 1, short: 1, joint: 0.15 },
  'resets-at-changeover': { gap: 1, empty: 0.25, bms: 0.4, joint: 0.4, aged: 0.4 },
  'one-odd-of-two': { joint: 1, itself: 0.7, rf: 0.5, sag: 0.4, 'no-12': 0.2, 'cable-3a': 0.2 },
  'not-heard': { 'low-power': 1, antenna: 1, itself: 0.6, sag: 0.3, joint: 0.25, empty: 0.3 },
}

/** What is not named explains a symptom this well: by a way that nobody thought of. */
export const HARDLY = 0.003
