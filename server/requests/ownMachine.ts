import type { H3Event } from 'h3'
import { deviceAt } from '../lan/gate'

/** Who is let in is decided at the machine itself: a device that was let in does not let in others. */
export function ownMachineOnly(event: H3Event) {
  if (deviceAt(event.node.req))
    throw createError({ statusCode: 403, message: 'That is done at the station’s own machine.' })
}

/** The name of the device that a request comes from; empty: this machine. */
export const whoAsks = (event: H3Event): string => deviceAt(event.node.req)?.name ?? ''
