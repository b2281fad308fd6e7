import { connector, HOUSING_SOFTENS_C, RISE_AT_RATED_C } from '../catalog/connectors'

/**
 * Rise of a contact of some resistance a pole above ambient, °C: 30 · (I / Irated)² · (R / Rnew). Zero where the wire
 * decides.
 */
export function contactRise(connectorId: string, ratedA: number | null, currentA: number, contactOhm: number): number {
  if (ratedA === null) return 0
  return (RISE_AT_RATED_C * (currentA / ratedA) ** 2 * contactOhm) / connector(connectorId).newOhm
}

/** Rise of a new contact, °C. */
export const riseNew = (connectorId: string, ratedA: number | null, currentA: number) =>
  contactRise(connectorId, ratedA, currentA, connector(connectorId).newOhm)

/** Current at which an aged contact reaches the temperature where housings soften, A. */
export function agedLimitA(connectorId: string, ratedA: number, ambientC: number): number {
  const c = connector(connectorId)
  return ratedA * Math.sqrt(Math.max(0, HOUSING_SOFTENS_C - ambientC) / RISE_AT_RATED_C / (c.agedOhm / c.newOhm))
}
