import { saveLogbook } from '../../../../db/noise'
import { logbookBody, notFound } from '../../../../requests/body'

/** 200 with the new revision; 409 with what stands now where another window saved since. */
export default defineEventHandler(async event => {
  const { logbook, baseRevision } = await logbookBody(event)
  const result = await saveLogbook(getRouterParam(event, 'id')!, baseRevision, logbook)
  if (!result) throw notFound()
  if (result.status === 'conflict') setResponseStatus(event, 409)
  return result
})
