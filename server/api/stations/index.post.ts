import { createStation } from '../../db/stations'
import { createBody } from '../../requests/body'
import { whoAsks } from '../../requests/ownMachine'

export default defineEventHandler(async event => {
  const { plan, note } = await createBody(event)
  setResponseStatus(event, 201)
  return createStation(plan, { note, who: whoAsks(event) })
})
