import { readStation } from '../../../db/stations'
import { notFound } from '../../../requests/body'

export default defineEventHandler(async event => {
  const station = await readStation(getRouterParam(event, 'id')!)
  if (!station) throw notFound()
  return station
})
