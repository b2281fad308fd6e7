import { connector } from '../catalog/connectors'
import { contactRise } from '../connector/heat'
import { largestAmps, solveCorners } from '../circuit/matrix'
import type { Plan } from '../plan/schema'
import { figure } from '../units/number'
import { celsius } from '../units/show'
import type { Inference, JointState } from './joints'

/** What a joint does at the largest current that the plan sends through it. */
export interface Consequence {
  amps: number
  condition: string
  /** What it drops there, V. */
  dropV: number
  /** What it turns into heat, W; how much warmer than the air a contact gets, °C; null for others than contacts. */
  watts: number
  riseC: number | null
}

/** Of every joint, what it does as it was found. */
export function consequencesOf(plan: Plan, { joints }: Pick<Inference, 'joints'>): Consequence[] {
  const solved = solveCorners(plan)
  return joints.map(({ joint, milliohm }) => {
    const { value, condition } = largestAmps(solved, joint.branch)
    const loopOhm = (milliohm * joint.poles) / 1000
    const rated = joint.connector === undefined ? null : connector(joint.connector).ratedA
    return {
      amps: value,
      condition,
      dropV: value * loopOhm,
      watts: value * value * loopOhm,
      riseC: joint.connector === undefined ? null : contactRise(joint.connector, rated, value, milliohm / 1000),
    }
  })
}

const TOO_HOT_C = 60
const WARM_C = 30

/** "stack-30 of HF lead at HF radio: 5.1 mΩ in place of 1.5, drops 0.2 V at 21 A, 45 °C warmer than the air" */
export function jointWords(state: JointState, does: Consequence): string {
  const { joint, milliohm, errorMilliohm, tableMilliohm, orWords, restsOn } = state
  const mohm = (m: number) => figure(m, m < 10 ? 1 : 0)
  const found = `${mohm(milliohm)} ± ${mohm(Math.max(0.1, errorMilliohm))} mΩ`
  const is = `${joint.words}: ${found} in place of ${mohm(tableMilliohm)}`
  const drops = `drops ${figure(does.dropV, 2)} V at ${figure(does.amps, 1)} A`
  const heat = heatWords(does)
  const others = orWords.length ? `; or it is ${orWords.join(' or ')}` : ''
  const again = restsOn ? `; it rests on one reading: read ${restsOn.words} again first` : ''
  return `${[is, drops, heat].filter(Boolean).join(', ')}${others}${again}`
}

function heatWords({ riseC, watts }: Consequence): string {
  if (riseC === null) return `${figure(watts, 1)} W in it`
  if (riseC >= TOO_HOT_C) return `${celsius(riseC)} hotter than the air: do not key until it is mended`
  return riseC >= WARM_C ? `${celsius(riseC)} warmer than the air` : ''
}
