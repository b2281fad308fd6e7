import { readStation } from '../../../../db/stations'
import { standing } from '../../../../instruments/simulated'
import { instrumentsBody, notFound } from '../../../../requests/body'

/** Sets simulated instruments up on a station, with a fault hidden where a seed is given. The port they are at. */
export default defineEventHandler(async event => {
  const { hide } = await instrumentsBody(event)
  const id = getRouterParam(event, 'id')!
  const station = await readStation(id)
  if (!station) throw notFound()
  const { port, instruments } = await standing(id, station.plan, hide)
  return { port, hides: instruments.fault !== null }
})
