import { revokeDevice } from '../../../db/devices'
import { cutOff } from '../../../lan/gate'
import { ownMachineOnly } from '../../../requests/ownMachine'
import { isFull } from '../../../requests/troubles'

const UNTIL_THE_END =
  'It is out. The disk is full, so this could not be written down and holds only until Wireman is stopped: make ' +
  'room, and take it out once more.'

/** Takes a device's session back: it is not answered any more. */
export default defineEventHandler(async event => {
  ownMachineOnly(event)
  const id = getRouterParam(event, 'id')!
  try {
    if (!(await revokeDevice(id))) throw createError({ statusCode: 404, message: 'There is no such device.' })
  } catch (error) {
    throw isFull(error) ? createError({ statusCode: 507, message: UNTIL_THE_END }) : error
  } finally {
    cutOff(id)
  }
  return { revoked: true }
})
