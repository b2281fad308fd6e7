import { saveStation } from '../../../db/stations'
import { notFound, saveBody } from '../../../requests/body'
import { whoAsks } from '../../../requests/ownMachine'

/** 200 with the new revision; 409 with what stands now where somebody else saved since; nothing is overwritten. */
export default defineEventHandler(async event => {
  const { plan, note, baseRevision } = await saveBody(event)
  const result = await saveStation(getRouterParam(event, 'id')!, baseRevision, plan, { note, who: whoAsks(event) })
  if (result.status === 'gone') throw notFound()
  if (result.status === 'conflict') setResponseStatus(event, 409)
  return result
})
