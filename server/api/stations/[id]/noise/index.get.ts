import { readLogbook } from '../../../../db/noise'
import { notFound } from '../../../../requests/body'

export default defineEventHandler(async event => {
  const state = await readLogbook(getRouterParam(event, 'id')!)
  if (!state) throw notFound()
  return state
})
