import { describe, expect, it } from 'vitest'
import { addFuse, type FuseTask } from '../../../core/fixes/fuse'
import type { Part } from '../../../core/kinds/index'
import { battery, smallPlan } from '../../data/plans'

/** Which fuse is put in, by hand from the tables: the handiest class whose rating fits and breaks what drives it. */

const plan = smallPlan()
const label = (task: FuseTask) => addFuse(plan, plan.leads[0]!, 'from', task)?.label ?? null
const pack = (internalOhm: number) => battery({ internalOhm }) as unknown as Part
const supply = (setV: number) => ({ id: 'psu', kind: 'supply', setV, continuousA: 30, outputOhm: 0.01 }) as Part
const ten = { continuousA: 10, conductorAmps: 40 }

describe('a fuse beside a source', () => {
  it.each([
    // 1.25 × 10 A is 12.5: the next blade has 15 A.
    ['of no source that is known', { ...ten }, '15 A blade fuse, 0.12 m from bat'],
    // 13.6 V through 9 mΩ and the fuse's own 5 mΩ are 970 A, of a class that breaks 1 kA.
    ['of 9 mΩ', { ...ten, source: pack(0.009) }, '15 A blade fuse, 0.12 m from bat'],
    // Through 4 mΩ and 5 they are 1.5 kA: the least strip has 30 A and 2.5 mΩ, 2.1 kA of 2, and 40 A no less.
    ['of 4 mΩ', { ...ten, source: pack(0.004) }, '35 A high-current strip fuse, 0.12 m from bat'],
    ['of 5 mΩ', { ...ten, source: pack(0.005) }, '30 A bolt-down strip fuse, 0.12 m from bat'],
    ['that holds 30 V', { ...ten, source: supply(30) }, '15 A blade fuse, 0.12 m from bat'],
    // A blade stands 32 V, a strip 58, and no high-current one more.
    ['that holds 48 V', { ...ten, source: supply(48) }, '30 A bolt-down strip fuse, 0.12 m from bat'],
    ['that holds 100 V', { ...ten, source: supply(100) }, '15 A fast cartridge fuse, 0.12 m from bat'],
    ['for a wire that carries less than its least', { continuousA: 10, conductorAmps: 12 }, null],
    ['of the very rating that both allow', { continuousA: 16, conductorAmps: 20 }, '20 A blade fuse, 0.12 m from bat'],
  ] as [string, FuseTask, string | null][])('%s', (_, task, wanted) => expect(label(task)).toBe(wanted))
})
