import { randomFrom, type Random } from '../chance/random'
import { CHEMISTRIES, chemistry } from '../catalog/chemistries'
import { CONNECTORS, connector } from '../catalog/connectors'
import { conductorName, conductorOhmPerM } from '../conductor/resistance'
import { mate } from '../connector/mate'
import { asGiven, fixed } from '../units/number'

/** Short sums and questions of the trade, made up anew with every seed, each with how it is worked out. */

export interface Drill {
  id: DrillKind
  asks: string
  /** A figure, taken within so much of it; or one of some words. */
  answer: { value: number; unit: string; within: number } | { choice: string; of: readonly string[] }
  why: string
}

export const DRILLS = {
  window: 'a window from a tolerance',
  rate: 'amps from a C-rate',
  usable: 'hours from usable amp-hours',
  drop: 'the drop in a lead',
  cold: 'a panel on a cold morning',
  mates: 'what mates with what',
  live: 'what is still live',
} as const
export type DrillKind = keyof typeof DRILLS

/** A sum done in the head is right to so much of it. */
const WITHIN = 0.03

const among = <T>(random: Random, of: readonly T[]): T =>
  of[Math.min(of.length - 1, Math.floor(random.uniform() * of.length))]!
const milliohm = (ohm: number) => fixed(1000 * ohm, 1)
const within = (value: number, unit: string) => ({ value, unit, within: WITHIN * value })

const MAKERS: Record<DrillKind, (random: Random) => Omit<Drill, 'id'>> = {
  window(random) {
    const nominalV = among(random, [12, 12.5, 13.5, 13.8, 24, 28])
    const percent = among(random, [5, 10, 15, 20])
    const isLow = random.uniform() < 0.5
    const value = nominalV * (1 + ((isLow ? -1 : 1) * percent) / 100)
    return {
      asks: `A manual says ${nominalV} V ± ${percent} %. What is the ${isLow ? 'least' : 'most'} the radio takes?`,
      answer: { value, unit: 'V', within: 0.011 },
      why: `${percent} % of ${nominalV} V are ${fixed((nominalV * percent) / 100, 2)} V: ${fixed(value, 2)} V.`,
    }
  },
  rate(random) {
    const ah = among(random, [3, 6, 12, 20, 50, 100])
    const c = among(random, [0.2, 0.3, 0.5, 1, 2])
    return {
      asks: `A pack of ${ah} Ah gives ${c} C and no more. How many amps are that?`,
      answer: within(ah * c, 'A'),
      why: `1 C is all its ${ah} Ah in an hour, so ${c} C is ${fixed(ah * c, 1)} A, however full it is.`,
    }
  },
  usable(random) {
    const { id, label } = among(
      random,
      CHEMISTRIES.filter(x => x.usableFraction > 0 && x.usableFraction < 1),
    )
    const usable = chemistry(id).usableFraction
    const ah = among(random, [12, 20, 40, 60, 100])
    const amps = among(random, [1.5, 2, 3, 4, 5])
    return {
      asks: `${ah} Ah of ${label}, used to the usual ${100 * usable} %. How many hours at ${amps} A on average?`,
      answer: within((ah * usable) / amps, 'h'),
      why: `${fixed(ah * usable, 1)} Ah are usable: ${fixed((ah * usable) / amps, 1)} h. Less in the cold.`,
    }
  },
  drop(random) {
    const awg = among(random, [8, 10, 12, 14, 16] as const)
    const lengthM = among(random, [1.5, 2, 3, 4, 6])
    const amps = among(random, [5, 10, 15, 20])
    const ohmPerM = conductorOhmPerM({ awg })
    const value = 2 * lengthM * ohmPerM * amps
    return {
      asks:
        `A lead ${lengthM} m long, both conductors ${conductorName({ awg })}, ${milliohm(ohmPerM)} mΩ a metre. ` +
        `What does it drop at ${amps} A?`,
      answer: within(value, 'V'),
      why:
        `There and back ${2 * lengthM} m, ${milliohm(2 * lengthM * ohmPerM)} mΩ; at ${amps} A ${fixed(value, 2)} V. ` +
        'Contacts come on top.',
    }
  },
  cold(random) {
    const openV = among(random, [21.6, 22.5, 36, 45, 90])
    const below = among(random, [0, -5, -10, -20])
    const perC = 0.3
    const value = openV * (1 + (perC / 100) * (25 - below))
    return {
      asks:
        `A panel of ${openV} V open at 25 °C, −${perC} % a degree. ` +
        `What does it stand at, open, at ${asGiven(below)} °C?`,
      answer: within(value, 'V'),
      why:
        `${25 - below} degrees colder: ${fixed(perC * (25 - below), 1)} % more, ${fixed(value, 1)} V. ` +
        'The controller has to stand that.',
    }
  },
  mates(random) {
    const ids = CONNECTORS.filter(c => c.id !== 'bare').map(c => c.id)
    const a = among(random, ids)
    // As often as not the one that fits.
    const fits = ids.filter(id => mate({ connector: a }, { connector: id }).mates)
    const b = random.uniform() < 0.5 && fits.length ? among(random, fits) : among(random, ids)
    const mating = mate({ connector: a }, { connector: b })
    return {
      asks: `Do they mate: ${connector(a).label} and ${connector(b).label}?`,
      answer: { choice: mating.mates ? 'yes' : 'no', of: ['yes', 'no'] },
      why: mating.mates ? 'They do.' : `${mating.why}`,
    }
  },
  live(random) {
    const leg = among(random, ['positive', 'positive', 'negative'] as const)
    const device = among(random, ['switch', 'breaker'] as const)
    const second = among(random, SECOND)
    const side = among(random, ['battery', 'block'] as const)
    const at = among(random, PROBED)
    const fed = second !== null && side === 'block'
    const isLive = leg === 'negative' || at.side === 'battery' || fed
    const joined = second ? `, and ${second} is joined at the ${side}` : ''
    return {
      asks:
        `Battery, lead with a ${device} in its ${leg} leg, block, radio${joined}. The ${device} is off. ` +
        `Is the red ${at.words} still live against the battery’s own minus?`,
      answer: { choice: isLive ? 'yes' : 'no', of: ['yes', 'no'] },
      why: liveWhy({ leg, isBefore: at.side === 'battery', fedBy: fed ? second : null }),
    }
  },
}

/** What else may feed a station: it goes on when the battery is cut off. */
const SECOND = [null, 'a controller with its panel in the sun', 'a charger on the mains', 'a second battery'] as const
const PROBED = [
  { side: 'battery', words: 'post of the battery' },
  { side: 'battery', words: 'wire before it' },
  { side: 'block', words: 'wire after it' },
  { side: 'block', words: 'stud of the block' },
  { side: 'block', words: 'wire at the radio' },
] as const

function liveWhy({ leg, isBefore, fedBy }: { leg: string; isBefore: boolean; fedBy: string | null }): string {
  if (leg === 'negative') return 'It is: only the negative leg is open, and red still stands on the battery.'
  if (isBefore) return 'It is: the battery itself is never off, and all before the open place hangs on it.'
  return fedBy ? `It is: ${fedBy} feeds it from the other side.` : 'It is not: nothing feeds it from the other side.'
}

/** One drill of a kind. @param seed the same gives the same */
export function drill(id: DrillKind, seed: number): Drill {
  const random = randomFrom(seed * 7919 + Object.keys(DRILLS).indexOf(id))
  random.uniform()
  return { id, ...MAKERS[id](random) }
}

/** Whether an answer is right. */
export const isRight = ({ answer }: Drill, given: number | string): boolean =>
  'choice' in answer
    ? given === answer.choice
    : typeof given === 'number' && Math.abs(given - answer.value) <= answer.within + 1e-9
