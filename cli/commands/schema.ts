import { eventJsonSchema, logJsonSchema, planJsonSchema } from '../../core/formats/jsonSchema'
import { printJson, type Command } from '../command'

const OTHERS: Record<string, () => object> = { event: eventJsonSchema, log: logJsonSchema }

export const schema: Command = {
  name: 'schema',
  options: { event: {}, log: {} },
  help: 'The plan format as JSON Schema; with --event that of an event, with --log that of a station’s log.',
  run(call) {
    const asked = Object.keys(OTHERS).find(option => call.has(option))
    printJson(asked ? OTHERS[asked]!() : planJsonSchema())
    return 0
  },
}
