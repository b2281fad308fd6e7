import { describe, expect, it } from 'vitest'
import { conditionsOf } from '../../../core/circuit/conditions'
import { solveCorners, solveMatrix } from '../../../core/circuit/matrix'
import { compile } from '../../../core/circuit/network'
import { Solver } from '../../../core/circuit/solve'
import { applyEdit } from '../../../core/edit/patch'
import type { Plan } from '../../../core/plan/schema'
import { fixesOf } from '../../../core/verdict/fixes'
import { judge } from '../../../core/verdict/verdict'
import { ends } from '../../data/hard/hard'
import { battery, demoPlan, lead, load, smallPlan } from '../../data/plans'

/** The clean bench with computers on ports of their own, each by a thin lead of so many metres. */
function withFar(...computers: { idleW: number; lengthM: number }[]): Plan {
  const bench = demoPlan('clean-bench')
  const ports = computers.map((_, i) => ({ id: `q${i}`, fuse: { type: 'blade', ratedA: 5 }, connector: 'stack-15' }))
  const parts = bench.parts.map(p => (p.kind === 'block' ? { ...p, ports: [...p.ports, ...ports] } : p))
  const far = computers.map(({ idleW }, i) => ({
    ...load({ id: `c${i}`, draw: { model: 'constant-power', idleW, activeW: idleW } }),
  }))
  const leads = computers.map(({ lengthM }, i) =>
    lead({
      id: `far${i}`,
      from: `blk.q${i}`,
      to: `c${i}`,
      lengthM,
      conductor: { awg: 20, insulationC: 105 },
      inline: undefined,
      ends: ends('stack-15', 'barrel-5525'),
    }),
  )
  return { ...bench, parts: [...parts, ...far], leads: [...bench.leads, ...leads] } as Plan
}
const offIn = (plan: Plan) => [...(solveCorners(plan).points[0]!.condition.off ?? [])].sort()
const arrivals = (plan: Plan) => judge(plan).verdict.arrivals

describe('a load that cannot be carried even idle', () => {
  // 60 m of 20 AWG there and back are 4.2 Ω: at 13.8 V no more than 13.8² / (4 · 4.2) = 11 W come through.
  const far = withFar({ idleW: 60, lengthM: 60 })

  it('drops out, and the others are judged as if it were not there', () => {
    const bench = arrivals(demoPlan('clean-bench'))
    const beside = arrivals(far)
    expect(beside.c0).toBeNull()
    for (const id of ['hf', 'vhf'])
      for (const end of ['low', 'high'] as const) expect(beside[id]![end].value).toBeCloseTo(bench[id]![end].value, 6)
  })
  it('is of those that take a power, though one that takes a current takes more', () => {
    // 2 A out of 13 V behind 2 Ω leave 9 V, of which no more than 9² / 8 = 10 W come: but 15 W are 1.1 A of 13 V.
    const steady = load({ id: 'steady', draw: { model: 'constant-current', idleA: 2, activeA: 2 } })
    const computer = load({ draw: { model: 'constant-power', idleW: 15, activeW: 15 } })
    const plan = smallPlan({
      parts: [battery({ internalOhm: 2 }), computer, steady],
      leads: [lead({ to: 'pc', inline: [], ends: {} }), lead({ id: 'l2', to: 'steady', inline: [], ends: {} })],
    })
    expect(offIn(plan)).toEqual(['pc'])
  })
  it('leaves behind how much of it all could be carried', () => {
    for (const { points } of [solveMatrix(far), solveCorners(far)]) {
      const { most, condition } = points.find(p => p.condition.loadState === 'all')!
      expect(condition.off).toEqual(new Set(['c0']))
      expect(most!.share).toBeCloseTo(11 / 60, 2)
    }
  })
  it('is what the finding is about, with what could be carried', () => {
    const { findings } = judge(far).verdict
    const found = findings.find(f => f.check === 'collapse')!
    expect(found).toMatchObject({ severity: 'fail', place: 'c0', title: 'c0 cannot be carried, even idle' })
    expect(found.numbers.mostW).toBeCloseTo(11, 0)
    expect(found.message).toContain('the others are judged without')
  })
  it('is told with what it would take while all is active', () => {
    const parts = far.parts.map(p =>
      p.id === 'c0' ? { ...p, draw: { model: 'constant-power', idleW: 60, activeW: 90 } } : p,
    )
    const found = judge({ ...far, parts } as Plan).verdict.findings.find(f => f.check === 'collapse')!
    expect(found.numbers.wantedW).toBe(90)
    expect(found.message).toContain('W of the 90 W that c0 wants')
  })
  it('is told by the fixes of others no longer than it was: each still has its own', () => {
    const starving = { ...far, leads: far.leads.map(l => (l.to === 'hf' ? { ...l, lengthM: 13 } : l)) }
    const { verdict, study } = judge(starving)
    const hf = verdict.findings.find(f => f.check === 'arrival-under' && f.place === 'hf')!
    const [fix] = fixesOf(hf, study, verdict)
    const edit = applyEdit(starving, fix!.patch)
    expect(edit.ok && judge(edit.plan).verdict.findings.map(f => f.check)).not.toContain('arrival-under')
  })
  it('is none where the path carries it', () => expect(offIn(withFar({ idleW: 8, lengthM: 60 }))).toEqual([]))

  it('stays as it was where nothing else would be left', () => {
    const alone = { ...far, parts: far.parts.filter(p => !['hf', 'vhf'].includes(p.id)) }
    const plan = { ...alone, leads: alone.leads.filter(l => !['hf', 'vhf'].includes(l.to)) } as Plan
    expect(solveMatrix(plan).points.map(p => [p.status, p.condition.off])).toEqual(
      solveMatrix(plan).points.map(() => ['collapses', undefined]),
    )
  })

  it('is one of the fewest: every choice of loads tried', () => {
    const sizes = [4, 30, 60]
    for (let code = 0; code < 27; code++) {
      const watts = [code % 3, Math.floor(code / 3) % 3, Math.floor(code / 9)].map(i => [3, 9, 20][i]!)
      const plan = withFar(...watts.map((idleW, i) => ({ idleW, lengthM: sizes[i]! })))
      const idle = conditionsOf(plan).find(c => c.loadState === 'idle')!
      const solver = new Solver(compile(plan))
      const stands = (off: string[]) => solver.solve({ ...idle, off: new Set(off) }, { below: 0 }).status === 'ok'
      const choices = Array.from({ length: 8 }, (_, bits) => ['c0', 'c1', 'c2'].filter((_, i) => bits & (1 << i)))
      const fewest = Math.min(...choices.filter(stands).map(c => c.length))
      expect(offIn(plan), watts.join(' ')).toHaveLength(fewest)
      expect(stands(offIn(plan))).toBe(true)
    }
  })
})
