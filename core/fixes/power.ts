import { solveCorners, type SolvedPlan } from '../circuit/matrix'
import { asKind, kindOf, partsOf } from '../kinds/index'
import { isLoadAssumed, type Inverter } from '../kinds/inverter'
import type { Radio } from '../kinds/radio'
import { tryPatch } from '../edit/patch'
import { setField, setFields } from '../edit/set'
import { partById } from '../plan/find'
import { partName } from '../plan/names'
import type { Plan } from '../plan/schema'
import { percent } from '../units/show'
import { leastThatWorks, solvedAfter } from './conductor'
import type { Proposal } from './proposal'
import { asGiven, fixed, rounded, roundedTo } from '../units/number'
import { listed, lowered } from '../units/words'

/** A level a radio may be turned down to. */
interface Level {
  /** Of the power it is set to. */
  share: number
  activeA: number
  /** Unsaid where the radio does not say its power. */
  powerW?: number
  estimated: boolean
}

/** Shares of its power that a radio may be turned down to, where it lists no levels. */
const SHARES = [0.8, 0.5, 0.25, 0.1] as const

/** A radio's lower power levels, highest first: those listed, or estimated ones where it lists none. */
function lowerLevels(radio: Radio): Level[] {
  if (radio.draw.model !== 'constant-current') return []
  const { idleA, activeA } = radio.draw
  const { powerW: set, levels } = radio
  if (levels && set !== undefined) {
    return levels
      .filter(l => l.powerW < set)
      .sort((a, b) => b.powerW - a.powerW)
      .map(l => ({ ...l, share: l.powerW / set, estimated: false }))
  }
  // A linear output stage: its current above idle goes with the root of its power.
  return SHARES.map(share => ({
    share,
    activeA: rounded(idleA + (activeA - idleA) * Math.sqrt(share), 1),
    ...(set !== undefined && { powerW: roundedTo(set * share, 2) }),
    estimated: true,
  }))
}

export function setPower(plan: Plan, radio: Radio, { share, activeA, powerW, estimated }: Level): Proposal {
  const patch = setFields(plan, radio.id, { ...(powerW !== undefined && { powerW }), 'draw.activeA': activeA })
  const to = powerW === undefined ? `${percent(share)} of its power` : `${asGiven(powerW)} W`
  const lost = `−${fixed(-10 * Math.log10(share), 1)} dB signal`
  return {
    label: `Turn ${partName(plan, radio.id)} down to ${to}`,
    patch,
    cost: estimated ? `${lost}, current estimated at ${asGiven(activeA)} A` : lost,
  }
}

/** The highest power of a radio that passes. */
export function turnDownUntil(plan: Plan, radioId: string, passes: Passes): Proposal | null {
  const radio = asKind(partById(plan, radioId), 'radio')
  const proposals = radio ? lowerLevels(radio).map(level => setPower(plan, radio, level)) : []
  return mildest(plan, proposals, passes)
}

/** Shares of its rating that may be hung on an inverter. */
const HUNG = [0.8, 0.6, 0.5, 0.4, 0.3, 0.2, 0.1] as const

/** Less and less on an inverter of which nobody has said what hangs on it. */
export function lessHung(plan: Plan, inverter: Inverter): Proposal[] {
  return lessHungOn(plan, [inverter].filter(isLoadAssumed))
}

/** Less and less on all inverters of which nobody has said what hangs on them, the same share of each one's rating. */
export function lessHungOnAll(plan: Plan): Proposal[] {
  const inverters = partsOf(plan.parts, 'inverter').filter(isLoadAssumed)
  return inverters.length < 2 ? [] : lessHungOn(plan, inverters)
}

function lessHungOn(plan: Plan, inverters: readonly Inverter[]): Proposal[] {
  return HUNG.flatMap(share => {
    const asked = inverters
      .map(inverter => ({ inverter, watts: roundedTo(share * inverter.ratedW, 2) }))
      .filter(({ inverter, watts }) => watts < inverter.acLoads![0]!.watts)
    if (!asked.length) return []
    const words = asked.map(({ inverter, watts }) => `${asGiven(watts)} W hung on ${partName(plan, inverter.id)}`)
    return {
      label: `At most ${listed(words)}`,
      patch: asked.flatMap(({ inverter, watts }) => setField(plan, inverter.id, 'acLoads.0.watts', watts)),
    }
  })
}

type Passes = (solved: SolvedPlan) => boolean

/** The first of proposals, each of which asks for more than the one before it, that passes. */
function mildest(plan: Plan, proposals: readonly Proposal[], passes: Passes): Proposal | null {
  const steps = leastThatWorks(proposals.length, n => {
    const solved = solvedAfter(plan, proposals[n - 1]!.patch)
    return solved !== null && passes(solved)
  })
  return steps === null ? null : proposals[steps - 1]!
}

/**
 * Less on an inverter of which nobody has said what hangs on it, or on all of those; failing that the radio whose
 * turning down gives most, of all in the plan, at its highest power that passes; failing that both, the inverters at
 * their least. Null where it passes as it is: power is not what is wrong.
 */
export function turnDownAny(plan: Plan, passes: Passes): Proposal | null {
  if (passes(solveCorners(plan))) return null
  for (const inverter of partsOf(plan.parts, 'inverter')) {
    const less = mildest(plan, lessHung(plan, inverter), passes)
    if (less) return less
  }
  const onAll = lessHungOnAll(plan)
  return mildest(plan, onAll, passes) ?? anyRadioDown(plan, passes) ?? bothDown(plan, passes)
}

/** The radio whose turning down gives most at its highest power that passes. */
function anyRadioDown(plan: Plan, passes: Passes): Proposal | null {
  const radios = partsOf(plan.parts, 'radio').sort(
    (a, b) => kindOf(b).sink!(b, true).value - kindOf(a).sink!(a, true).value,
  )
  return firstDown(plan, radios, passes)
}

/** The level at which a radio takes least, where it takes less than now: the one of least power need not. */
const leastOf = (radio: Radio) =>
  lowerLevels(radio)
    .filter(({ activeA }) => activeA < kindOf(radio).sink!(radio, true).value)
    .sort((a, b) => a.activeA - b.activeA)
    .slice(0, 1)

/**
 * The first radio that is enough: where several at their least together are not, none of them is, since nothing that
 * stands is worse for less being drawn.
 */
function firstDown(plan: Plan, radios: readonly Radio[], passes: Passes): Proposal | null {
  if (radios.length < 2) return radios.length ? turnDownUntil(plan, radios[0]!.id, passes) : null
  const least = radios.flatMap(radio => leastOf(radio).flatMap(level => setPower(plan, radio, level).patch))
  const solved = solvedAfter(plan, least)
  if (!solved || !passes(solved)) return null
  const half = radios.length >> 1
  return firstDown(plan, radios.slice(0, half), passes) ?? firstDown(plan, radios.slice(half), passes)
}

/** As little as is asked for on the inverters, and a radio turned down beside it. */
function bothDown(plan: Plan, passes: Passes): Proposal | null {
  const inverters = partsOf(plan.parts, 'inverter')
  const least = lessHungOnAll(plan).at(-1) ?? inverters.flatMap(i => lessHung(plan, i).slice(-1))[0]
  const lessened = least && tryPatch(plan, least.patch)
  const down = lessened && anyRadioDown(lessened, passes)
  if (!least || !down) return null
  return { ...down, label: `${least.label}, and ${lowered(down.label)}`, patch: [...least.patch, ...down.patch] }
}

/** Output of an adjustable supply or converter, in steps of 0.1 V from where it is, that passes. */
export function setSupplyUntil(plan: Plan, supplyId: string, direction: 1 | -1, passes: Passes): Proposal | null {
  const found = partById(plan, supplyId)
  const supply = asKind(found, 'supply') ?? asKind(found, 'converter')
  if (!supply?.adjustable) return null
  const { minV, maxV } = supply.adjustable
  const field = 'setV' in supply ? 'setV' : 'outV'
  const nowV = 'setV' in supply ? supply.setV : supply.outV
  for (let v = nowV + direction * 0.1; v >= minV - 1e-9 && v <= maxV + 1e-9; v += direction * 0.1) {
    const setV = rounded(v, 1)
    const patch = setField(plan, supplyId, field, setV)
    const solved = solvedAfter(plan, patch)
    if (solved && passes(solved)) return { label: `Set ${partName(plan, supply.id)} to ${asGiven(setV)} V`, patch }
  }
  return null
}

/** What radios transmit with less of in one plan than in another, dB; differences that nobody hears are none. */
export function signalGivenUp(start: Plan, plan: Plan): { name: string; dB: number }[] {
  return partsOf(start.parts, 'radio').flatMap(was => {
    const now = asKind(partById(plan, was.id), 'radio')
    const dB = now ? 10 * Math.log10(powerRatio(was, now)) : 0
    return Math.abs(dB) < 0.05 ? [] : [{ name: partName(plan, was.id), dB }]
  })
}

/** Of the power that a radio gave; by the square of what its sender takes where it says no power. */
function powerRatio(was: Radio, now: Radio): number {
  if (was.powerW !== undefined && now.powerW !== undefined) return now.powerW / was.powerW
  const sendingA = (radio: Radio) => kindOf(radio).sink!(radio, true).value - kindOf(radio).sink!(radio, false).value
  return (sendingA(now) / sendingA(was)) ** 2
}
