/** Choices on which operators are of two minds. Each side in one line, as its own people would say it. */
export interface School {
  /** Field of the plan's site. */
  id: string
  question: string
  /** Taken where the plan says nothing. */
  unsaid: string
  choices: readonly { id: string; label: string; says: string }[]
}

export const SCHOOLS = [
  {
    id: 'ampacity',
    question: 'What a conductor may carry',
    unsaid: 'open',
    choices: [
      {
        id: 'open',
        label: 'open air, 105 °C',
        says: "A lead in free air with 105 °C insulation sheds its heat; the boat-builders' table is made for it.",
      },
      {
        id: 'enclosed',
        label: 'enclosed, 75 °C',
        says: 'A lead behind a panel or in a loom cannot cool; the building-wire table leaves the margin.',
      },
    ],
  },
  {
    id: 'fuseDistance',
    question: 'How far from the post the first fuse may be',
    unsaid: 'strict',
    choices: [
      {
        id: 'strict',
        label: 'strict, 0.18 m',
        says: 'What lies before the fuse has none: keep it as short as a hand.',
      },
      {
        id: 'sheathed',
        label: 'in a sheath, 1.0 m',
        says: 'A sheathed lead does not chafe through; up to a metre is accepted.',
      },
    ],
  },
  {
    id: 'fuseLegs',
    question: 'Which legs are fused',
    unsaid: 'positive',
    choices: [
      {
        id: 'positive',
        label: 'positive only',
        says: 'One fuse opens the loop; a fuse in the negative can leave a radio grounding itself by its antenna lead.',
      },
      {
        id: 'both',
        label: 'both legs',
        says:
          "In a vehicle the radio is bonded to the chassis: if the battery's ground strap fails, the starter " +
          "current comes by the radio's negative.",
      },
    ],
  },
  {
    id: 'fusePlacing',
    question: 'One fuse or one at each connection',
    unsaid: 'one',
    choices: [
      { id: 'one', label: 'one that fits the thinnest wire', says: 'Fewer contacts, less drop, one place to look.' },
      {
        id: 'each-connection',
        label: 'one at every change of wire',
        says: 'Each wire has the fuse that fits it, and a fault takes out one load, not the station.',
      },
    ],
  },
  {
    id: 'loadsFrom',
    question: 'Where loads are taken from',
    unsaid: 'battery',
    choices: [
      {
        id: 'battery',
        label: 'the battery',
        says: 'The load terminal has its own limit and its own noise; the battery has neither.',
      },
      {
        id: 'load-terminal',
        label: "the controller's load terminal",
        says: 'It cuts off before the battery is ruined, which nobody at the key will do.',
      },
    ],
  },
  {
    id: 'hold',
    question: 'Hold the voltage or run direct',
    unsaid: 'direct',
    choices: [
      {
        id: 'direct',
        label: 'run direct, accept the sag',
        says: 'No converter, no noise from it, no 5–10 % lost; a good radio works down to 11.7 V.',
      },
      {
        id: 'held',
        label: 'hold 13.8 V with a converter',
        says: 'Full power to the end of the battery, and no radio ever sees 14.6 V.',
      },
    ],
  },
  {
    id: 'end',
    question: 'When a battery is empty',
    unsaid: 'usable-fraction',
    choices: [
      {
        id: 'usable-fraction',
        label: 'at its usable fraction',
        says: 'Counted amp-hours do not lie when the voltage sags under load.',
      },
      {
        id: 'stop-voltage',
        label: "at the owner's stop voltage",
        says: 'A voltmeter is always there; a counter drifts.',
      },
    ],
  },
  {
    id: 'feed',
    question: 'Through a gate or always on the battery',
    unsaid: 'battery',
    choices: [
      {
        id: 'battery',
        label: 'always on the battery',
        says: 'One path, nothing to fail; the charger fills what the radios take.',
      },
      {
        id: 'gate',
        label: 'through a gate',
        says: 'The supply carries the station and the battery only waits, full, for the mains to fail.',
      },
    ],
  },
  {
    id: 'standby',
    question: 'Leave the battery on its charger',
    unsaid: 'off-charger',
    choices: [
      {
        id: 'off-charger',
        label: 'take it off when full',
        says: 'Lithium ages at full charge, and a charger that fails does it at night.',
      },
      {
        id: 'on-charger',
        label: 'leave it on float',
        says: 'Lead-acid sulphates when it is left alone; it must be full on the day it is needed.',
      },
    ],
  },
  {
    id: 'packs',
    question: 'One pack, two in parallel, or two swapped',
    unsaid: 'one',
    choices: [
      { id: 'one', label: 'one pack', says: 'Nothing to balance, one fuse, one set of limits.' },
      {
        id: 'parallel',
        label: 'two in parallel',
        says: 'Each gives half the current and sags half as much; join them only at equal charge.',
      },
      {
        id: 'swapped',
        label: 'two, swapped',
        says: 'One on the air, one on the charger; a fault in one leaves the other.',
      },
    ],
  },
  {
    id: 'charging',
    question: 'Charge while operating',
    unsaid: 'while-operating',
    choices: [
      { id: 'while-operating', label: 'while operating', says: 'The sun does not wait for the end of the contest.' },
      { id: 'apart', label: 'apart', says: 'No charging voltage on a narrow radio, and no controller to be heard.' },
    ],
  },
  {
    id: 'vehicleCharge',
    question: 'Charging from a vehicle',
    unsaid: 'dc-dc',
    choices: [
      {
        id: 'dc-dc',
        label: 'through a DC-DC charger',
        says: "One conversion, made for the battery's chemistry, starts with the engine.",
      },
      {
        id: 'inverter',
        label: 'an inverter and a mains charger',
        says: 'The charger that is at hand anyway; the inverter is wanted for other things too.',
      },
    ],
  },
  {
    id: 'controllers',
    question: 'One large controller or several small quiet ones',
    unsaid: 'one-large',
    choices: [
      { id: 'one-large', label: 'one large', says: 'Tracks best, one setting to get right, one set of leads.' },
      {
        id: 'several-small',
        label: 'several small quiet ones',
        says: 'Small ones switch little current, and the noisy one can be left off.',
      },
    ],
  },
  {
    id: 'termination',
    question: 'Crimp or crimp and solder',
    unsaid: 'crimp',
    choices: [
      {
        id: 'crimp',
        label: 'crimp',
        says: 'A good crimp is a cold weld; solder wicks up the strands, and they break where it ends.',
      },
      {
        id: 'crimp+solder',
        label: 'crimp and solder',
        says: 'A hand crimp is not a factory crimp; solder keeps out what corrodes it.',
      },
    ],
  },
  {
    id: 'connectors',
    question: 'Which connectors the station stands on',
    unsaid: 'pull-apart',
    choices: [
      { id: 'pull-apart', label: 'pull-apart', says: 'A trodden lead lets go before the radio leaves the table.' },
      {
        id: 'latched',
        label: 'latched',
        says: 'A lead that works loose in the middle of a contact is worse than one that holds.',
      },
      { id: 'moulded', label: 'moulded', says: 'Nothing to assemble wrongly, polarity fixed at the factory.' },
    ],
  },
  {
    id: 'conductorFor',
    question: 'What a conductor is sized for',
    unsaid: 'load',
    choices: [
      {
        id: 'load',
        label: 'the real load',
        says: 'The fuse holds the current to what the wire carries; more copper is weight.',
      },
      {
        id: 'source',
        label: 'what the battery can give',
        says: 'Loads grow and fuses are swapped for larger ones; the wire stays in the wall.',
      },
    ],
  },
] as const satisfies readonly School[]

export type SchoolId = (typeof SCHOOLS)[number]['id']

export function school(id: SchoolId): School {
  return SCHOOLS.find(s => s.id === id)!
}
