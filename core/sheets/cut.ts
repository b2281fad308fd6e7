import { rounded } from '../units/number'
/** Slack on each conductor: a twentieth, and room for a second crimp at each end, m. */
const SLACK_SHARE = 0.05
const SLACK_END_M = 0.05

/** Length to cut one conductor to, m, rounded up to the centimetre. */
export function cutLength(lengthM: number): number {
  return Math.ceil(rounded(lengthM * (1 + SLACK_SHARE) + 2 * SLACK_END_M, 6) * 100 - 1e-9) / 100
}
