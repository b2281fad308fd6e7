import { setFields } from '../edit/set'
import { propose } from '../fixes/proposal'
import { partsOf, type PartOf } from '../kinds/index'
import { figure, rounded } from '../units/number'
import { amps, volts } from '../units/show'
import type { Check, Found } from './check'

type Panel = PartOf<'panel'>
type Member = NonNullable<Panel['members']>[number]
const FIGURES = ['openCircuitV', 'shortCircuitA', 'maxPowerV', 'maxPowerA'] as const
type Figures = Record<(typeof FIGURES)[number], number>

/** Panels may differ by this share and still work as one: the spread of their own labels. */
const ALIKE = 0.05

const saysAll = (member: Member): member is Member & Figures => FIGURES.every(f => member[f] !== undefined)

/** The whole of several panels: in series volts add and the weakest current passes; in parallel the other way round. */
const together = (panels: readonly Figures[], joined: 'series' | 'parallel'): Figures => {
  const sum = (f: keyof Figures) => panels.reduce((s, p) => s + p[f], 0)
  const least = (f: keyof Figures) => Math.min(...panels.map(p => p[f]))
  const [volts, amps] = joined === 'series' ? [sum, least] : [least, sum]
  return {
    openCircuitV: volts('openCircuitV'),
    shortCircuitA: amps('shortCircuitA'),
    maxPowerV: volts('maxPowerV'),
    maxPowerA: amps('maxPowerA'),
  }
}

/** Strings of a panel whose members all say their figures; null where one does not. */
function stringsOf({ members }: Panel): (Member & Figures)[][] | null {
  if (!members?.every(saysAll)) return null
  const ids = [...new Set(members.map(m => m.string ?? 1))]
  return ids.map(id => (members as (Member & Figures)[]).filter(m => (m.string ?? 1) === id))
}

const memberNames = (panel: Panel, of: readonly Member[]) =>
  of.map(m => m.name ?? m.id ?? `panel ${panel.members!.indexOf(m) + 1}`).join(', ')

export const panelMembers: Check = {
  id: 'panel-members',
  severities: ['caution'],
  looksAt: 'the figures of panels joined to one, against those of the whole and of each other',
  title: 'Panels that do not go together',
  why:
    'In series the weakest panel holds the current of all, in parallel the lowest one their voltage. The plan is ' +
    'solved with the figures of the whole.',
  source: 'series: volts add; parallel: amps add',
  find: study =>
    partsOf(study.plan.parts, 'panel').flatMap((panel): Found[] => {
      const strings = stringsOf(panel)
      if (!strings) return []
      const at = { severity: 'caution' as const, place: panel.id, condition: null }
      for (const string of strings) {
        const currents = string.map(m => m.maxPowerA)
        const [least, most] = [Math.min(...currents), Math.max(...currents)]
        if (most > least * (1 + ALIKE))
          return [
            {
              ...at,
              title: `Unlike panels in series in ${study.name(panel)}`,
              message:
                `${memberNames(panel, string)} stand in series and give ${amps(least)} to ${amps(most)}: all of them ` +
                `give ${amps(least)}.`,
              numbers: { leastA: least, mostA: most },
            },
          ]
      }
      const wholes = strings.map(s => together(s, 'series'))
      const heights = wholes.map(w => w.maxPowerV)
      const [lowest, highest] = [Math.min(...heights), Math.max(...heights)]
      if (highest > lowest * (1 + ALIKE))
        return [
          {
            ...at,
            title: `Unlike strings in parallel in ${study.name(panel)}`,
            message:
              `The strings of ${study.name(panel)} work best at ${volts(lowest)} and at ${volts(highest)}: ` +
              'side by side neither does.',
            numbers: { lowestV: lowest, highestV: highest },
          },
        ]
      const whole = together(wholes, 'parallel')
      const off = FIGURES.find(f => Math.abs(whole[f] - panel[f]) > ALIKE * panel[f])
      if (!off) return []
      return [
        {
          ...at,
          title: `The panels of ${study.name(panel)} make ${volts(whole.openCircuitV)}, ${amps(whole.shortCircuitA)}`,
          message:
            `${memberNames(panel, panel.members!)} add up to ${volts(whole.openCircuitV)} open and ` +
            `${amps(whole.shortCircuitA)} shorted, ${figure(whole.maxPowerV * whole.maxPowerA, 0)} W; the plan says ` +
            `${volts(panel.openCircuitV)}, ${amps(panel.shortCircuitA)}, and is solved with that.`,
          numbers: { ...whole },
        },
      ]
    }),
  fixes: (found, study) => {
    if (found.numbers.openCircuitV === undefined) return []
    const sums = Object.fromEntries(FIGURES.map(f => [f, rounded(found.numbers[f]!, 2)]))
    return [propose('Take the sum of the panels', setFields(study.plan, found.place, sums))]
  },
}
