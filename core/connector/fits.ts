import { connector } from '../catalog/connectors'
import { awgDiameterMm } from '../conductor/resistance'

/** Copper area of a solid AWG size, mm². */
export const awgArea = (awg: number) => (Math.PI / 4) * awgDiameterMm(awg) ** 2

/** Whether a contact takes a conductor of this area, mm²; metric sizes are let in within a tenth. */
export function fitsContact(connectorId: string, area: number): boolean {
  const takes = connector(connectorId).takesAwg
  return !takes || (area >= 0.9 * awgArea(takes.thinnest) && area <= 1.1 * awgArea(takes.thickest))
}
