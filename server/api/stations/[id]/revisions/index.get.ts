import { listRevisions } from '../../../../db/stations'

export default defineEventHandler(event => listRevisions(getRouterParam(event, 'id')!))
