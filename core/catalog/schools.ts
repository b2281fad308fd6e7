import { cellFamily } from './chemistries'

/* eslint-disable max-lines -- a table of words: each school is a row of it. */
/** Choices on which operators are of two minds. Each side in one line, as its own people would say it. */
export interface School {
  /** Field of the plan's site. */
  id: string
  question: string
  /** Taken where the plan says nothing. */
  unsaid: string
  choices: readonly SchoolChoice[]
}

export interface SchoolChoice {
  id: string
  label: string
  /** Its argument; where it hangs on the chemistry, one for each. */
  says: string | { lithium: string; leadAcid: string }
}

/** A side's argument for the batteries at hand; for lithium where there is none. */
export function saysFor({ says }: SchoolChoice, chemistries: readonly string[]): string {
  if (typeof says === 'string') return says
  return chemistries.length && !chemistries.some(c => cellFamily(c) === 'lithium') ? says.leadAcid : says.lithium
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
        says: {
          lithium: 'Full power to the end of the battery, and no radio ever sees the 14.6 V it is filled with.',
          leadAcid:
            'A lead-acid bank falls a whole volt from full to half; held, the last hour is as loud as the first.',
        },
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
        says: {
          lithium:
            "Lithium's curve is flat: from 80 % to 20 % it moves by a third of a volt, which no voltmeter tells.",
          leadAcid: 'Counted amp-hours do not lie when the voltage sags under load.',
        },
      },
      {
        id: 'stop-voltage',
        label: "at the owner's stop voltage",
        says: {
          lithium: 'A counter drifts; at the end of its curve even lithium falls fast enough to be seen.',
          leadAcid: 'A voltmeter is always there and a counter drifts; lead-acid shows its charge by its voltage.',
        },
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
        says: {
          lithium: 'Lithium ages at full charge, and a charger that fails does it at night.',
          leadAcid: 'A full lead-acid block keeps for weeks by itself, and a charger that fails boils it dry at night.',
        },
      },
      {
        id: 'on-charger',
        label: 'leave it on float',
        says: {
          lithium: 'Held a little under full, at 13.5 V or less, it is ready on the day it is needed.',
          leadAcid: 'Lead-acid sulphates when it is left alone; it must be full on the day it is needed.',
        },
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
        says: {
          lithium: 'Each gives half the current, which two small management systems carry; join them at equal charge.',
          leadAcid: 'Each gives half the current, and a lead-acid block drained slowly gives more amp-hours.',
        },
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
  {
    id: 'chemistry',
    question: 'Lithium or lead-acid',
    unsaid: 'lithium',
    choices: [
      {
        id: 'lithium',
        label: 'lithium (LiFePO4)',
        says: 'A third of the weight for the same hours, and a voltage that hardly falls until it is empty.',
      },
      {
        id: 'lead-acid',
        label: 'lead-acid',
        says: 'Cheap, charged by anything, works in frost, and no electronics inside that switch the station off.',
      },
    ],
  },
  {
    id: 'bank',
    question: '12 V in parallel or 24 V with a step-down',
    unsaid: '12-parallel',
    choices: [
      {
        id: '12-parallel',
        label: '12 V, packs in parallel',
        says: 'Radios run straight off it: no converter to hiss, to lose 8 % or to fail.',
      },
      {
        id: '24-step-down',
        label: '24 V, with a step-down',
        says: 'Half the current for the same power: thinner wire over a long way, and a held voltage at its end.',
      },
    ],
  },
  {
    id: 'portable',
    question: 'A USB bank or a pack',
    unsaid: 'pack',
    choices: [
      {
        id: 'pack',
        label: 'a pack',
        says: 'It gives amps, needs no trigger that makes noise, and never goes to sleep under a small radio.',
      },
      {
        id: 'usb-bank',
        label: 'a USB bank',
        says: 'It is in the bag already, charges from any socket, and flies in the cabin.',
      },
    ],
  },
  {
    id: 'leads',
    question: 'One lead a radio or a shared block',
    unsaid: 'block',
    choices: [
      {
        id: 'block',
        label: 'a shared block',
        says: 'One thick lead, one place for fuses, a free port for the next thing.',
      },
      {
        id: 'own',
        label: 'a lead for each',
        says: "One radio's current pulls down no other's voltage, and one bad contact takes one radio off.",
      },
    ],
  },
] as const satisfies readonly School[]

export type SchoolId = (typeof SCHOOLS)[number]['id']

export function school(id: SchoolId): School {
  return SCHOOLS.find(s => s.id === id)!
}
