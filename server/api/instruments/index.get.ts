import type { Heard } from '../../../core/instruments/protocol'
import { follow, isPort } from '../../instruments/gateway'

/** What instruments at a port of this machine say, as server-sent events, each a line read: see docs/instruments.md. */
export default defineEventHandler(event => {
  const port = Number(getQuery(event).port)
  if (!isPort(port)) throw createError({ statusCode: 400, message: 'port: a number from 1024 to 65535.' })
  const stream = createEventStream(event)
  const tell = (heard: Heard) => void stream.push(JSON.stringify(heard))
  const close = follow(port, tell)
  stream.onClosed(() => close())
  return stream.send()
})
