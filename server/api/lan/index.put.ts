import { lan } from '../../lan/lan'
import { lanBody } from '../../requests/body'
import { ownMachineOnly } from '../../requests/ownMachine'

/** Listens on the local net, or no longer. */
export default defineEventHandler(async event => {
  ownMachineOnly(event)
  const { on } = await lanBody(event)
  return lan.turn(on)
})
