import { z } from 'zod'
import { eventSchema } from '../hours/event'
import { logSchema } from '../log/log'
import { logbookSchema } from '../noise/logbook'
import { planSchema } from '../plan/schema'

/**
 * An open format as JSON Schema. What a field's pattern says is all it says: a time may stand without its zone, which
 * the standard's own format of a time refuses.
 */
const published = (id: string, title: string, schema: z.ZodType): object => ({
  $id: id,
  title,
  ...z.toJSONSchema(schema, {
    io: 'input',
    override: ({ jsonSchema }) => {
      if (jsonSchema.pattern !== undefined) delete jsonSchema.format
      // Names within this file, which the standard has no word for.
      delete jsonSchema.id
    },
  }),
})

export const planJsonSchema = () => published('wireman-plan-1', 'Wireman plan, version 1', planSchema)
export const eventJsonSchema = () => published('wireman-event-1', 'Wireman event, version 1', eventSchema)
export const logJsonSchema = () => published('wireman-log-1', 'Wireman log, version 1', logSchema)
/** A case file is one of its cases. */
export const logbookJsonSchema = () => published('wireman-noise-1', 'Wireman noise logbook, version 1', logbookSchema)
