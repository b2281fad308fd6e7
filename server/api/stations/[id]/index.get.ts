import { Unreadable } from '../../../db/readable'
import { readStation } from '../../../db/stations'
import { notFound } from '../../../requests/body'

export default defineEventHandler(async event => {
  const station = await readStation(getRouterParam(event, 'id')!).catch(inWords)
  if (!station) throw notFound()
  return station
})

function inWords(error: unknown): never {
  throw error instanceof Unreadable ? createError({ statusCode: 410, message: error.message }) : error
}
