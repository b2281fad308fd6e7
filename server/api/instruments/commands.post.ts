import { ask } from '../../instruments/gateway'
import { commandBody } from '../../requests/body'

/** Asks something of instruments that are followed. What they say of it comes with the rest. */
export default defineEventHandler(async event => {
  const { session, command } = await commandBody(event)
  if (!ask(session, command)) throw createError({ statusCode: 404, message: 'These instruments are not listened to.' })
  return { asked: command }
})
