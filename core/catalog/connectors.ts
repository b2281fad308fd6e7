/**
 * Connector families: generic classes only. Contact resistance in Ω per pole, new and aged; current in A.
 * Typical figures of each part class. The rated current gives a 30 °C rise in a new contact.
 */
export interface Connector {
  id: string
  label: string
  /** Families mate within themselves. */
  family: string
  /** null: carries what its wire carries. */
  ratedA: number | null
  newOhm: number
  agedOhm: number
  /** Conductors its contact takes, AWG numbers: thinnest and thickest. null: any. */
  takesAwg: { thinnest: number; thickest: number } | null
  /** Plug and socket differ, so the sex must match. */
  gendered: boolean
  /** How many lead ends one may land on. */
  mates: number
  /** What stands out at the bench; shown beside the choice. */
  trap: string
  source: string
}

const milli = (mOhm: number) => mOhm / 1000

function row(
  id: string,
  label: string,
  family: string,
  ratedA: number | null,
  mOhm: [number, number],
  takes: [number, number] | null,
  trap = '',
  more: Partial<Connector> = {},
): Connector {
  return {
    id,
    label,
    family,
    ratedA,
    newOhm: milli(mOhm[0]),
    agedOhm: milli(mOhm[1]),
    takesAwg: takes && { thinnest: takes[0], thickest: takes[1] },
    gendered: false,
    mates: 1,
    trap,
    source: 'typical of the class',
    ...more,
  }
}

const STUD_TRAP = 'right stud, right torque, nothing between lug and post'
const stud = (m: number) =>
  row(`ring-m${m}`, `ring on an M${m} stud`, `ring-m${m}`, null, [0.15, 1], null, STUD_TRAP, { mates: 4 })

export const CONNECTORS: readonly Connector[] = [
  row(
    'stack-15',
    'stacking contact, 15 A',
    'stack',
    15,
    [0.6, 3],
    [20, 16],
    'mates across ratings: the smallest contact decides',
  ),
  row(
    'stack-30',
    'stacking contact, 30 A',
    'stack',
    30,
    [0.6, 3],
    [16, 12],
    'mates across ratings: the smallest contact decides',
  ),
  row(
    'stack-45',
    'stacking contact, 45 A',
    'stack',
    45,
    [0.6, 3],
    [14, 10],
    'mates across ratings: the smallest contact decides',
  ),
  row(
    'heavy-50',
    'two-pole block, 50 A',
    'heavy',
    50,
    [0.4, 1.5],
    [12, 6],
    'not the same housing as the stacking contacts',
  ),
  stud(4),
  stud(5),
  stud(6),
  stud(8),
  stud(10),
  row('spade-6.3', 'push-on, 6.3 mm', 'spade', 20, [0.8, 4], [18, 12], 'pulls off'),
  row('fork', 'fork under a screw', 'screw', 30, [0.5, 3], [22, 10], 'ferrule on stranded wire'),
  row('screw', 'screw terminal', 'screw', 30, [0.5, 3], [22, 10], 'ferrule on stranded wire'),
  row('post-4mm', 'binding post, 4 mm', 'post', 15, [0.5, 3], [22, 10], 'ferrule on stranded wire'),
  row('banana-4', 'banana plug, 4 mm', 'post', 15, [1.5, 6], [20, 14], 'reversible: polarity is up to you'),
  row(
    'barrel-5521',
    'coaxial barrel 5.5/2.1 mm',
    'barrel-5521',
    5,
    [4, 15],
    [22, 16],
    '2.1 in 2.5 seems to fit; mind the centre polarity',
  ),
  row(
    'barrel-5525',
    'coaxial barrel 5.5/2.5 mm',
    'barrel-5525',
    5,
    [4, 15],
    [22, 16],
    '2.1 in 2.5 seems to fit; mind the centre polarity',
  ),
  row('barrel-4017', 'coaxial barrel 4.0/1.7 mm', 'barrel-4017', 3, [4, 15], [22, 16], 'mind the centre polarity'),
  row('accessory-12v', 'vehicle accessory plug, 21 mm', 'accessory-12v', 10, [8, 40], [18, 14], 'works loose', {
    source: 'SAE J563, contact figures typical of the class',
  }),
  row(
    'two-pole-bullet',
    'moulded two-pole bullet',
    'two-pole-bullet',
    10,
    [1.5, 6],
    [18, 14],
    'solar leads are often reversed in it',
  ),
  row('pack-t', 'T-shaped pack plug', 'pack-t', 50, [0.4, 1.5], [16, 12], 'socket on the battery side', {
    gendered: true,
  }),
  row(
    'pair-60',
    'polarised bullet pair, 60 A briefly',
    'pair-60',
    30,
    [0.3, 1.2],
    [14, 10],
    'solder cup; 60 A only briefly',
    { gendered: true },
  ),
  row(
    'inlet-4',
    'radio power inlet, 4-pin',
    'inlet-4',
    23,
    [1.5, 6],
    [14, 10],
    'latch; bare wire at the other end as sold',
  ),
  row(
    'inlet-6',
    'radio power inlet, 6-pin',
    'inlet-6',
    25,
    [1.5, 6],
    [14, 10],
    'latch; bare wire at the other end as sold',
  ),
  row('lead-t2', 'radio lead, 2-pin T', 'lead-t2', 15, [1.5, 6], [14, 10], 'latch; bare wire at the other end as sold'),
  row('pv-single', 'single-pole PV connector pair', 'pv-single', 30, [0.4, 1.5], [14, 10], 'never open under load', {
    gendered: true,
  }),
  // USB contacts: the cable specification's largest low-level contact resistance, over its parallel power contacts.
  row('usb-c', 'USB-C', 'usb-c', 3, [10, 12.5], [28, 20], 'a voltage is asked for, not given'),
  row('usb-a', 'USB-A', 'usb-a', 2.4, [30, 50], [28, 20], 'a voltage is asked for, not given'),
  row('bare', 'stripped end', 'bare', null, [0.5, 3], null, 'only into screw or crimp; ferrule on stranded wire'),
]

const byId = new Map(CONNECTORS.map(c => [c.id, c]))

export const CONNECTOR_IDS = CONNECTORS.map(c => c.id)

/** The row of a connector id. The plan's schema admits only ids of this table. */
export function connector(id: string): Connector {
  const found = byId.get(id)
  if (!found) throw new Error(`no connector ${id} in the catalogue`)
  return found
}

/** Pairs that go together although their ids differ: a stripped end or fork under a screw, a banana in a post. */
export const CROSS_MATES: readonly (readonly [string, string])[] = [
  ['bare', 'screw'],
  ['bare', 'post-4mm'],
  ['fork', 'screw'],
  ['fork', 'post-4mm'],
  ['banana-4', 'post-4mm'],
]

/** Pairs that seem to fit and do not. */
export const FALSE_FITS: readonly { pair: readonly [string, string]; why: string }[] = [
  {
    pair: ['barrel-5521', 'barrel-5525'],
    why: 'a 2.1 mm plug goes into a 2.5 mm socket or nearly so, and makes contact by luck',
  },
  { pair: ['stack-45', 'heavy-50'], why: 'they look alike, but the housings differ' },
]

/** Connectors fit to carry a bigger current, small to large, in one shape each can be swapped for. */
export const STRONGER_CONNECTORS = ['stack-15', 'stack-30', 'stack-45', 'heavy-50'] as const

/**
 * Temperature at which common connector housings (polycarbonate, polyamide) soften or lose their grip, °C:
 * glass transition of polycarbonate, about 145 °C.
 */
export const HOUSING_SOFTENS_C = 145

/** Rise of a new contact at its rated current, °C (the usual rating rule, IEC 60512-5-2). */
export const RISE_AT_RATED_C = 30
