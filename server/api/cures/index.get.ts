import { allTriedCures } from '../../db/noise'

export default defineEventHandler(() => allTriedCures())
