import { revokeDevice } from '../../../db/devices'
import { cutOff } from '../../../lan/gate'
import { ownMachineOnly } from '../../../requests/ownMachine'

/** Takes a device's session back: it is not answered any more. */
export default defineEventHandler(async event => {
  ownMachineOnly(event)
  const id = getRouterParam(event, 'id')!
  if (!(await revokeDevice(id))) throw createError({ statusCode: 404, message: 'There is no such device.' })
  cutOff(id)
  return { revoked: true }
})
