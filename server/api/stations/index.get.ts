import { listStations } from '../../db/stations'

export default defineEventHandler(() => listStations())
