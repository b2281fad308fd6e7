import { z } from 'zod'
import { celsius, fraction, id, words } from '../kinds/fields'
import { MODE_IDS } from './modes'

/** The one definition of the open format of an event, `wireman-event` version 1: what happens to a plan over time. */

export const EVENT_FORMAT = 'wireman-event'
export const EVENT_VERSION = 1
/** A year and a day, h. */
export const MOST_HOURS = 8784

const CLOCK = /^([01]\d|2[0-3]):[0-5]\d$|^24:00$/
const MOMENT = /^\d{4}-\d{2}-\d{2}T([01]\d|2[0-3]):[0-5]\d$/

const moment = z.string().regex(MOMENT, 'a local date and time as 2026-06-13T09:00')
const time = z
  .union([z.number().min(0).max(MOST_HOURS), z.string().regex(CLOCK), moment])
  .describe('hours from the start (2.5), a clock time that comes every day (09:00), or a local date and time')

const times = {
  from: time.optional().describe('unsaid: the start'),
  to: time.optional().describe('unsaid: the end'),
}

const activitySchema = z.strictObject({
  who: words.optional(),
  part: id.describe('the radio'),
  mode: z.enum(MODE_IDS),
  powerW: z.number().gt(0).max(10000).optional().describe('transmit power; unsaid: the one the radio is set to'),
  share: fraction.optional().describe('share of the time that it transmits; unsaid: what is usual in the mode'),
  ratio: fraction
    .optional()
    .describe(
      'average current over key-down current while it transmits, between listening and full; unsaid: the mode’s',
    ),
  between: z.enum(['listening', 'off']).optional().describe('outside its times; unsaid: listening'),
  ...times,
})

const loadSchema = z.strictObject({
  part: id,
  duty: z.number().min(0).max(1).optional().describe('share of the time that it is active; unsaid: 1'),
  between: z.enum(['idle', 'off']).optional().describe('outside its times; unsaid: idle'),
  ...times,
})

const suppliedSchema = z.strictObject({
  parts: z
    .array(id)
    .min(1)
    .max(50)
    .describe('supplies, chargers, generators and vehicles that run then; a switch in their lead is closed with them'),
  ...times,
})

const panelSchema = z.strictObject({
  part: id,
  tiltDeg: z.number().min(0).max(90).optional().describe('from the level; unsaid: 0, it lies flat'),
  azimuthDeg: z
    .number()
    .min(0)
    .max(360)
    .optional()
    .describe('the way it faces, from north over east; unsaid: the equator'),
  turned: z.boolean().optional().describe('somebody turns it to the sun'),
  shade: z.number().min(0).max(1).optional().describe('share of the sun that is kept from it; unsaid: 0'),
  ageYears: z.number().min(0).max(60).optional(),
})

const weatherSchema = z.strictObject({
  cloud: z
    .union([z.number().min(0).max(1), z.array(z.number().min(0).max(1)).min(1).max(366)])
    .optional()
    .describe('cloud cover, 0 clear to 1 overcast: of the whole time, or day by day; unsaid: 0.5'),
  airC: z.strictObject({ low: celsius, high: celsius }).optional().describe("of a day; unsaid: the site's typical"),
  irradianceWm2: z
    .array(z.number().min(0).max(2000))
    .min(1)
    .max(MOST_HOURS)
    .optional()
    .describe('measured or forecast, on the level, hour by hour from the start; goes before cloud'),
})

const storeSchema = z.strictObject({
  part: id.describe('a battery, bank or power station'),
  startCharge: z.number().min(0).max(1).optional().describe('unsaid: 1, full'),
  health: fraction.optional().describe('what is left of its printed capacity; unsaid: 1'),
  heldAwake: z.boolean().optional().describe('its wake mode is held by hand: it does not go to sleep'),
  zone: id.optional().describe('the place it is in; unsaid: the one that the plan says, else the air'),
  places: z
    .array(z.strictObject({ zone: id.optional().describe('unsaid: outdoors, in the air'), ...times }))
    .max(100)
    .optional()
    .describe('where it is at times: brought in for the night, left in the car'),
})

const swapSchema = z.strictObject({
  part: id,
  at: time,
  charge: z.number().min(0).max(1).optional().describe('of the one that comes; unsaid: 1, full'),
  massG: z.number().gt(0).max(1e6).optional(),
})

const spareSchema = z.strictObject({
  part: id.describe('the pack in use'),
  count: z
    .int()
    .min(1)
    .max(99)
    .describe('packs like it that lie ready, full at the start; put in when the one in use is at its end'),
  refillH: z
    .number()
    .gt(0)
    .max(1000)
    .optional()
    .describe('hours that a charger beside takes for one from empty, one after the other; unsaid: none'),
  ...times,
})

export const eventSchema = z.strictObject({
  format: z.literal(EVENT_FORMAT),
  version: z.literal(EVENT_VERSION),
  name: words,
  note: z.string().max(2000).optional(),
  start: moment,
  hours: z.number().gt(0).max(MOST_HOURS),
  utcOffsetH: z.number().min(-12).max(14).optional().describe('of the local time; unsaid: 0'),
  place: z
    .strictObject({ latDeg: z.number().min(-90).max(90), lonDeg: z.number().min(-180).max(180) })
    .optional()
    .describe('without it there is no sun'),
  activities: z.array(activitySchema).max(500).optional(),
  loads: z.array(loadSchema).max(500).optional(),
  supplied: z.array(suppliedSchema).max(500).optional(),
  panels: z.array(panelSchema).max(100).optional(),
  weather: weatherSchema.optional(),
  stores: z.array(storeSchema).max(100).optional(),
  swaps: z.array(swapSchema).max(200).optional(),
  spares: z.array(spareSchema).max(20).optional(),
  reserve: z
    .number()
    .min(0)
    .max(0.9)
    .optional()
    .describe('charge kept beyond what the battery is planned to: of its capacity; unsaid: 0'),
})
export type HoursEvent = z.infer<typeof eventSchema>
export type Activity = z.infer<typeof activitySchema>
export type EventTime = z.infer<typeof time>
