import { createHash, randomInt, timingSafeEqual } from 'node:crypto'

/** One-time codes that let a device in, and how guessing at them is slowed and ended. */

/** Letters and figures that are not taken for one another. */
const LETTERS = 'ABCDEFGHJKLMNPQRSTUVWXYZ23456789'
/** 40 bits: with the guesses below, one in 10¹¹ to hit one. */
const CODE_LENGTH = 8
export const CODE_HOLDS_MS = 5 * 60_000
/** After so many wrong guesses the code is void, whoever made them. */
const MOST_WRONG = 10
/** Pause after the first wrong guess of an address, doubled by each further one, ms. */
const FIRST_PAUSE_MS = 1000
const LONGEST_PAUSE_MS = 60_000
/** A net has no more addresses that guess than these; the oldest is forgotten. */
const MOST_REMEMBERED = 500

export type Guess =
  | { is: 'right' }
  | { is: 'wrong' }
  | { is: 'none' }
  | { is: 'early'; /** Until it may be tried again. */ waitMs: number }

/** "abcd-2345" as "ABCD2345" */
const plain = (code: string) => code.toUpperCase().replace(/[^A-Z0-9]/g, '')

const digest = (code: string) => createHash('sha256').update(code).digest()

export class Pairing {
  private code: { digest: Buffer; until: number; wrong: number } | null = null
  private readonly slowed = new Map<string, { wrong: number; until: number }>()

  constructor(private readonly now: () => number = Date.now) {}

  /** A new code; the one before it is void. */
  begin(): { code: string; until: number } {
    const code = Array.from({ length: CODE_LENGTH }, () => LETTERS[randomInt(LETTERS.length)]).join('')
    const until = this.now() + CODE_HOLDS_MS
    this.code = { digest: digest(code), until, wrong: 0 }
    return { code, until }
  }

  end() {
    this.code = null
  }

  /** What a code given from an address is worth. Right: it is used up. */
  guess(text: string, address: string): Guess {
    const at = this.now()
    const slow = this.slowed.get(address)
    if (slow && slow.until > at) return { is: 'early', waitMs: slow.until - at }
    if (!this.code || this.code.until <= at) {
      this.code = null
      this.slow(address, at)
      return { is: 'none' }
    }
    if (timingSafeEqual(digest(plain(text)), this.code.digest)) {
      this.code = null
      this.slowed.delete(address)
      return { is: 'right' }
    }
    if (++this.code.wrong >= MOST_WRONG) this.code = null
    this.slow(address, at)
    return { is: 'wrong' }
  }

  private slow(address: string, at: number) {
    const wrong = (this.slowed.get(address)?.wrong ?? 0) + 1
    this.slowed.delete(address)
    this.slowed.set(address, { wrong, until: at + Math.min(LONGEST_PAUSE_MS, FIRST_PAUSE_MS * 2 ** (wrong - 1)) })
    const [oldest] = this.slowed.keys()
    if (this.slowed.size > MOST_REMEMBERED) this.slowed.delete(oldest!)
  }
}
