import { readLog } from '../../../../db/log'
import { notFound } from '../../../../requests/body'

export default defineEventHandler(async event => {
  const state = await readLog(getRouterParam(event, 'id')!)
  if (!state) throw notFound()
  return state
})
