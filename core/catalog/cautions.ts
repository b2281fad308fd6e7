import { CHEMISTRIES } from './chemistries'

/**
 * One danger, as one line. Sheets show each once, in the order of CAUTIONS, some before the short-circuit currents and
 * some after.
 */
export interface Caution {
  id: string
  line: string
  beforeShorts: boolean
}

export const MAINS_CAUTION: Caution = {
  id: 'mains',
  beforeShorts: true,
  line: "Mains: leave the mains side to the supply's own case and cord; unplug it before touching a terminal.",
}
export const INVERTER_CAUTION: Caution = {
  id: 'inverter',
  beforeShorts: false,
  line:
    'Inverter: its output is mains voltage and kills. Leave its AC side to its own sockets; ' +
    'more than that is for a licensed electrician.',
}
export const GENERATOR_CAUTION: Caution = {
  id: 'generator',
  beforeShorts: false,
  line:
    'Generator: its exhaust kills indoors and near a tent; keep it outside, downwind. Never feed it into a house: ' +
    'back-feed kills those who work on the line.',
}
export const PANEL_CAUTION: Caution = {
  id: 'panel',
  beforeShorts: false,
  line:
    'Solar panels are live whenever there is light: cover them, battery first and panel second, ' +
    'and never open a panel connector under load.',
}

const OF_CHEMISTRIES: readonly Caution[] = CHEMISTRIES.filter(c => c.caution).map(c => ({
  id: `chemistry ${c.id}`,
  line: c.caution,
  beforeShorts: true,
}))

export const CAUTIONS: readonly Caution[] = [
  MAINS_CAUTION,
  ...OF_CHEMISTRIES,
  INVERTER_CAUTION,
  GENERATOR_CAUTION,
  PANEL_CAUTION,
]

/** The caution of a battery's chemistry. */
export const chemistryCaution = (chemistryId: string): Caution[] =>
  OF_CHEMISTRIES.filter(c => c.id === `chemistry ${chemistryId}`)
