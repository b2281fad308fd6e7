import { saveLog } from '../../../../db/log'
import { logBody, notFound } from '../../../../requests/body'
import { whoAsks } from '../../../../requests/ownMachine'

/** 200 with the new revision; 409 with what stands now where another window saved since. */
export default defineEventHandler(async event => {
  const { log, baseRevision } = await logBody(event)
  const result = await saveLog(getRouterParam(event, 'id')!, baseRevision, log, whoAsks(event))
  if (!result) throw notFound()
  if (result.status === 'conflict') setResponseStatus(event, 409)
  return result
})
