import { setDeleted } from '../../../db/stations'
import { notFound } from '../../../requests/body'

export default defineEventHandler(async event => {
  if (!(await setDeleted(getRouterParam(event, 'id')!, false))) throw notFound()
  return { deleted: false }
})
