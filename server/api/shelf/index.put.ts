import { saveShelf } from '../../db/shelf'
import { shelfBody } from '../../requests/body'

/** 200 with the new revision; 409 with what stands now where another window saved since. */
export default defineEventHandler(async event => {
  const { items, baseRevision } = await shelfBody(event)
  const result = await saveShelf(baseRevision, items)
  if (result.status === 'conflict') setResponseStatus(event, 409)
  return result
})
