import { nameRevision } from '../../../../db/stations'
import { notFound, revisionNameBody } from '../../../../requests/body'

/** Gives a state a name, by which it is kept for good. */
export default defineEventHandler(async event => {
  const { name } = await revisionNameBody(event)
  const number = Number(getRouterParam(event, 'number'))
  if (!Number.isSafeInteger(number) || number > 2 ** 31 - 1) throw notFound()
  if (!(await nameRevision(getRouterParam(event, 'id')!, number, name))) throw notFound()
  return { number, name }
})
