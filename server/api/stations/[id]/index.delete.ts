import { setDeleted } from '../../../db/stations'
import { notFound } from '../../../requests/body'

/** Takes the station off the list; restore puts it back. */
export default defineEventHandler(async event => {
  if (!(await setDeleted(getRouterParam(event, 'id')!, true))) throw notFound()
  return { deleted: true }
})
