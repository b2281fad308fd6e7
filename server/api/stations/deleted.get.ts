import { listDeleted } from '../../db/stations'

export default defineEventHandler(() => listDeleted())
