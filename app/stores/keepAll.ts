import { hoursApi, logApi, noiseApi, shelfApi, stationsApi, triedCures } from './stationsApi'

/** Of many stations those last changed are kept. */
const MOST_STATIONS = 30

/** Reads all that a device may want where the net does not reach: what is read is kept (request.ts). */
export async function keepAll(): Promise<void> {
  const stations = await stationsApi.list()
  await Promise.all([shelfApi.read(), triedCures(), stationsApi.deleted()])
  // One after the other: somebody is at work meanwhile.
  for (const { id } of stations.slice(0, MOST_STATIONS))
    for (const read of [stationsApi.read, noiseApi.read, hoursApi.read, logApi.read]) await read(id)
}
