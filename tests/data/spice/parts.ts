/** What the plans for the simulator are made of. */

const end = (connector: string) => ({ connector })
export const lead = (
  id: string,
  from: string,
  to: string,
  lengthM: number,
  conductor: object,
  ends: [string, string],
  inline?: object[],
) => ({
  id,
  from,
  to,
  lengthM,
  conductor: { insulationC: 105, ...conductor },
  ends: { from: end(ends[0]), to: end(ends[1]) },
  ...(inline && { inline }),
})

export const window = { minV: 9, nominalV: 12, maxV: 16 }
export const battery = (id: string, capacityAh: number, internalOhm: number) => ({
  id,
  kind: 'battery',
  chemistry: 'lifepo4',
  seriesCells: 4,
  capacityAh,
  internalOhm,
  terminal: 'ring-m6',
})
