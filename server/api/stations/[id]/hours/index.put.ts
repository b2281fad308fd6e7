import { saveEvents } from '../../../../db/hours'
import { eventsBody, notFound } from '../../../../requests/body'

/** 200 with the new revision; 409 with what stands now where another window saved since. */
export default defineEventHandler(async event => {
  const { events, baseRevision } = await eventsBody(event)
  const result = await saveEvents(getRouterParam(event, 'id')!, baseRevision, events)
  if (!result) throw notFound()
  if (result.status === 'conflict') setResponseStatus(event, 409)
  return result
})
