import { lan } from '../../lan/lan'
import { ownMachineOnly } from '../../requests/ownMachine'

/** A new one-time code, and the addresses that take it. */
export default defineEventHandler(event => {
  ownMachineOnly(event)
  const invitation = lan.invitation()
  if (!invitation) throw createError({ statusCode: 409, message: 'Nothing listens on the local net now.' })
  return { ...invitation, until: new Date(invitation.until).toISOString() }
})
