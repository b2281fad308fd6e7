import { listDevices } from '../../db/devices'
import { lan } from '../../lan/lan'
import { ownMachineOnly } from '../../requests/ownMachine'

/** Whether devices may come in, where, and which were let in. */
export default defineEventHandler(async event => {
  ownMachineOnly(event)
  return { ...lan.state(), devices: await listDevices() }
})
