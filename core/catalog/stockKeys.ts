/** Names by which what a plan needs and what the shelf has are the same thing. */

export const conductorKey = (name: string) => `conductor ${name}`
export const contactKey = (connectorId: string) => `contact ${connectorId}`
export const fuseKey = (type: string, ratedA: number) => `fuse ${type} ${ratedA}`
export const adapterKey = (a: string, b: string) => `adapter ${[a, b].sort().join(' ')}`
export const packKey = (p: { chemistry: string; seriesCells: number; capacityAh: number }) =>
  `pack ${p.chemistry} ${p.seriesCells} ${p.capacityAh}`
