import { RINGS } from '../../catalog/noise'
import { conductorMm2 } from '../../conductor/resistance'
import type { Lead } from '../../plan/schema'
import { turnsThatFit } from './choke'

/** A winding of a whole lead on cores that it goes through. */
export interface LeadWinding {
  turns: number
  cores: number
  ring: string
}

/** Strands leave air between them: a conductor is so much thicker than its copper. */
const STRANDED = 1.13
/** Insulation of a single conductor by its area, mm² and mm (typical of flexible leads). */
const INSULATION_MM = [
  { upToMm2: 2.5, mm: 0.8 },
  { upToMm2: 16, mm: 1.2 },
  { upToMm2: Infinity, mm: 1.8 },
] as const
/** Two conductors side by side take up a round hole of so many diameters of one. */
const PAIR = 1.8

/** Outside diameter of a lead of two conductors, as a hole must be to take it, mm. */
export function leadDiameterMm({ conductor }: Pick<Lead, 'conductor'>): number {
  const mm2 = conductorMm2(conductor)
  const { mm } = INSULATION_MM.find(i => mm2 <= i.upToMm2)!
  return PAIR * (2 * STRANDED * Math.sqrt(mm2 / Math.PI) + 2 * mm)
}

/** What is aimed at: four turns through four cores, 64 units; and no more cores in a row than anybody threads. */
const WANTED = { turns: 4, units: 64, mostCores: 8 } as const

/** The winding of a lead: on the smallest ring that takes four turns, else as many as fit the largest. Null: none. */
export function windingFor(lead: Pick<Lead, 'conductor'>): LeadWinding | null {
  const cableMm = leadDiameterMm(lead)
  const rings = RINGS.filter(r => r.id.startsWith('ring')).map(r => ({ ...r, fit: turnsThatFit(r.idMm, cableMm) }))
  const ring = rings.find(r => r.fit >= WANTED.turns) ?? rings.at(-1)!
  const turns = Math.min(WANTED.turns, ring.fit)
  if (turns < 1) return null
  return { turns, cores: Math.min(WANTED.mostCores, Math.ceil(WANTED.units / turns ** 2)), ring: ring.label }
}
