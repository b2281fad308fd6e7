import { z } from 'zod'
import { id } from '../kinds/fields'

/** What was changed against the state in which the noise is heard. What it does not name stays as it was. */
export const setupSchema = z.strictObject({
  devices: z
    .partialRecord(
      id,
      z.strictObject({
        state: z.enum(['off', 'idle', 'working']),
        currentA: z.number().min(0).max(10000).optional(),
        minutesOn: z.number().min(0).max(10000).optional().describe('since it was started'),
      }),
    )
    .optional(),
  everything: z.literal('off').optional().describe('at the main switch: what the plan does not name too'),
  antenna: z.enum(['antenna', 'dummy']).optional(),
  feed: z
    .enum(['shared', 'from-battery', 'own-battery'])
    .optional()
    .describe('of the radio; from-battery: a lead of its own from the same battery, not by a load terminal'),
  data: z.literal('unplugged').optional().describe("the radio's USB and data leads"),
  rfGain: z.enum(['up', 'down']).optional(),
  added: z
    .array(
      z.strictObject({
        what: z.enum(['choke', 'lc-filter', 'mains-filter', 'distance', 'bond', 'swap']),
        at: z.union([id, z.literal('radio')]).describe('the part whose lead it is on, or that was moved or swapped'),
      }),
    )
    .max(20)
    .optional(),
})
export type Setup = z.infer<typeof setupSchema>
export type Added = NonNullable<Setup['added']>[number]

/** The noise itself, not the floor: from so many dB less on it is weaker, from so many on it counts as gone. */
export const WEAKER_DB = 4
export const GONE_DB = 15

/** What is heard then: as strong as before, weaker, or gone. */
export const HEARD = ['same', 'weaker', 'gone'] as const
export type Heard = (typeof HEARD)[number]
/** Probabilities of same, weaker and gone. */
export type Odds = readonly [same: number, weaker: number, gone: number]
