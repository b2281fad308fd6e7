import { readEvents } from '../../../../db/hours'
import { notFound } from '../../../../requests/body'

export default defineEventHandler(async event => {
  const state = await readEvents(getRouterParam(event, 'id')!)
  if (!state) throw notFound()
  return state
})
