import { readStation } from '../../../../db/stations'
import { notFound } from '../../../../requests/body'

export default defineEventHandler(async event => {
  const number = Number(getRouterParam(event, 'number'))
  const station =
    Number.isInteger(number) && number > 0 ? await readStation(getRouterParam(event, 'id')!, number) : null
  if (!station) throw notFound()
  return station
})
