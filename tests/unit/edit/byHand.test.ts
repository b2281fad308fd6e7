import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { putBetween } from '../../../core/edit/between'
import { enterEnd, leadsAlike, moveEnd, setConductors } from '../../../core/edit/lead'
import { applyEdit, type Patch } from '../../../core/edit/patch'
import { hangsOn, takeAllOut, takeOut, takeOutOnto, takersFor } from '../../../core/edit/takeOut'
import { KINDS } from '../../../core/kinds/index'
import { leadById, partById } from '../../../core/plan/find'
import { partName, terminalName } from '../../../core/plan/names'
import type { Lead, Plan } from '../../../core/plan/schema'
import { writePlan } from '../../../core/plan/faults'
import { battery, DEMOS, demoPlan, radio, smallPlan } from '../../data/plans'
import { randomPlan } from '../../data/randomPlans'

function edited(plan: Plan, patch: Patch): Plan {
  const result = applyEdit(plan, patch)
  if (!result.ok) throw new Error(result.faults.map(f => `${f.path} ${f.wrong}`).join())
  return result.plan
}
const tern = demoPlan('tern-rock-light')
const through = [...KINDS.values()].filter(k => k.between)

describe('taking out what stands in a lead', () => {
  it.each(through.map(k => [k.kind, k] as const))('%s: put in and taken out again leaves the lead', (_kind, kind) => {
    for (const lead of tern.leads) {
      const part = kind.catalogue[0]!.part
      const put = putBetween(tern, { leadId: lead.id }, part as never, 'x')!
      const now = edited(tern, put.patch)
      const back = edited(now, takeOut(now, put.id))
      expect(leadById(back, lead.id)).toMatchObject({
        from: lead.from,
        to: lead.to,
        lengthM: lead.lengthM,
        conductor: lead.conductor,
      })
      const items = (l: Lead) => (l.inline ?? []).map(i => [i.kind, i.atM ?? 0])
      expect(items(leadById(back, lead.id)!)).toEqual(items(lead))
      expect(back.leads).toHaveLength(tern.leads.length)
      expect(back.parts).toHaveLength(tern.parts.length)
    }
  })
  it('keeps a fuse of the lead beyond it, at its own distance, and the thicker of two conductors', () => {
    const fuse = { id: 'f1', kind: 'fuse' as const, ratedA: 20, atM: 0.12 }
    const plan = {
      ...tern,
      parts: [...tern.parts, { id: 'brk', kind: 'breaker', ratedA: 30 }],
      leads: [
        { id: 'a', from: 'bat', to: 'brk.a', lengthM: 0.8, conductor: { awg: 12 }, inline: [fuse] },
        // Told from its far end: 0.1 m of it before the breaker.
        {
          id: 'b',
          from: 'blk.feed',
          to: 'brk.b',
          lengthM: 0.5,
          conductor: { awg: 8 },
          inline: [{ ...fuse, atM: 0.4 }],
        },
      ],
    } as Plan
    const [lead] = edited(plan, takeOut(plan, 'brk')).leads
    expect(lead).toMatchObject({ from: 'bat', to: 'blk.feed', lengthM: 1.3, conductor: { awg: 8 } })
    expect(lead!.inline!.map(i => i.atM)).toEqual([0.12, 0.9])
    expect(new Set(lead!.inline!.map(i => i.id)).size).toBe(2)
  })
})

describe('a block that goes', () => {
  const blockOf = (plan: Plan) => plan.parts.find(p => p.kind === 'block')!
  it('leaves what hangs on it on the ports of another, with as many more as it takes', () => {
    for (const demo of DEMOS) {
      const plan = demoPlan(demo)
      const block = plan.parts.find(p => p.kind === 'block')
      if (!block) continue
      const other = { ...structuredClone(block), id: 'other' }
      const two = edited(plan, [{ op: 'add', path: '/parts/-', value: other }])
      expect(takersFor(two, block.id)).toContain('other')
      const hangs = hangsOn(two, block.id)
      const after = edited(two, takeOutOnto(two, block.id, 'other'))
      expect(partById(after, block.id)).toBeUndefined()
      for (const id of hangs) {
        const lead = leadById(after, id)!
        expect([lead.from, lead.to].some(t => t.startsWith('other.'))).toBe(true)
      }
      expect(new Set(after.leads.flatMap(l => [l.from, l.to])).size).toBe(after.leads.length * 2 - sharedStuds(after))
    }
  })
  it('else takes its leads with it', () => {
    const block = blockOf(tern)
    const after = edited(tern, takeOut(tern, block.id))
    expect(after.leads.filter(l => l.from.startsWith(`${block.id}.`) || l.to.startsWith(`${block.id}.`))).toEqual([])
  })
  const sharedStuds = (plan: Plan) => {
    const ends = plan.leads.flatMap(l => [l.from, l.to])
    return ends.length - new Set(ends).size
  }
})

describe('a joint that branches', () => {
  const ended = { conductor: { awg: 12, insulationC: 105 }, ends: {}, lengthM: 1 } as const
  const y = (loads: readonly string[], feeds: readonly string[] = ['bat']) =>
    smallPlan({
      parts: [
        battery(),
        { ...battery(), id: 'bat2' },
        { id: 'y', kind: 'joint' },
        ...loads.map(id => radio({ id })),
        radio({ id: 'apart' }),
      ],
      leads: [...feeds.map(f => [f, 'y'] as const), ...loads.map(l => ['y', l] as const)].map(([from, to], i) => ({
        ...ended,
        id: `l${i}`,
        from: from === 'y' ? `y.${'abcdef'[i]}` : from,
        to: to === 'y' ? `y.${'abcdef'[i]}` : to,
      })),
    })
  it('has on it what nothing else feeds', () => {
    expect(hangsOn(y(['hf', 'vhf']), 'y')).toEqual(['l1', 'l2'])
    expect(hangsOn(y(['hf', 'vhf'], ['bat', 'bat2']), 'y')).toEqual(['l2', 'l3'])
    expect(hangsOn(y(['hf']), 'y')).toEqual([])
    const fedTwice = y(['hf', 'vhf'])
    const other = { ...ended, id: 'o', from: 'bat2', to: 'hf' }
    expect(hangsOn(edited(fedTwice, [{ op: 'add', path: '/leads/-', value: other }]), 'y')).toEqual(['l2'])
  })
  it('goes with its leads, however they run; one with a single way through leaves the way whole', () => {
    expect(edited(y(['hf', 'vhf']), takeOut(y(['hf', 'vhf']), 'y')).leads).toEqual([])
    expect(edited(y(['hf']), takeOut(y(['hf']), 'y')).leads).toMatchObject([{ from: 'bat', to: 'hf', lengthM: 2 }])
  })
})

describe('a controller with loads on its terminal', () => {
  const draw = { model: 'constant-current', idleA: 0, activeA: 1 }
  const lamp = { id: 'lamp', kind: 'load', supply: { minV: 10, maxV: 15 }, draw }
  const plan = edited(tern, [
    { op: 'add', path: '/parts/-', value: lamp },
    { op: 'add', path: '/leads/-', value: { ...tern.leads[1]!, id: 'z', from: 'ctl.load', to: 'lamp', inline: [] } },
  ])
  it('asks about them, and they can go onto a block that is fed without it', () => {
    expect(hangsOn(plan, 'ctl')).toEqual(['z'])
    expect(takersFor(plan, 'ctl')).toEqual(['blk'])
    const moved = edited(plan, takeOutOnto(plan, 'ctl', 'blk'))
    expect(leadById(moved, 'z')!.from).toMatch(/^blk\./)
    expect(partById(moved, 'ctl')).toBeUndefined()
  })
  it('is no way for a block behind it onto itself', () => {
    const behind = edited(tern, [
      { op: 'add', path: '/parts/-', value: { id: 'y', kind: 'joint' } },
      { op: 'replace', path: `/leads/${tern.leads.findIndex(l => l.to === 'blk.feed')}/to`, value: 'y.a' },
      { op: 'add', path: '/leads/-', value: { ...tern.leads[0]!, id: 'z', from: 'y.b', to: 'blk.feed', inline: [] } },
      { op: 'add', path: '/parts/-', value: lamp },
      { op: 'add', path: '/leads/-', value: { ...tern.leads[0]!, id: 'w', from: 'y.c', to: 'lamp', inline: [] } },
    ])
    expect(takersFor(behind, 'y')).not.toContain('blk')
  })
})

describe('any part between', () => {
  const fed = (plan: Plan, start: string[]): Set<string> => {
    const seen = new Set(start)
    for (let grew = true; grew;) {
      grew = false
      for (const { from, to } of plan.leads) {
        const [a, b] = [from.split('.')[0]!, to.split('.')[0]!]
        if (seen.has(a) === seen.has(b)) continue
        grew = Boolean(seen.add(a).add(b))
      }
    }
    return seen
  }
  it('leaves no load without a source that was not asked about, on random plans', () => {
    let asked = 0
    // Two where a controller is joined to itself, and to a block that would go with it.
    for (const seed of [...Array.from({ length: 200 }, (_, i) => i + 1), 1890, 2146]) {
      const plan = randomPlan(seed)
      if (!plan) continue
      const ids = (role: string) => plan.parts.filter(p => KINDS.get(p.kind)!.role === role).map(p => p.id)
      const before = fed(plan, ids('source'))
      for (const id of ids('between')) {
        const next = edited(plan, takeOut(plan, id))
        const after = fed(next, ids('source'))
        const lost = ids('load').filter(l => before.has(l) && !after.has(l))
        asked += lost.length
        for (const onto of hangsOn(plan, id).length ? takersFor(plan, id) : [])
          edited(plan, takeOutOnto(plan, id, onto))
        const hangs = hangsOn(plan, id).map(l => leadById(plan, l)!)
        const found = fed(
          { ...plan, leads: plan.leads.filter(l => !l.from.startsWith(`${id}.`) && !l.to.startsWith(`${id}.`)) },
          hangs.flatMap(l => [l.from, l.to]).map(t => t.split('.')[0]!),
        )
        expect(`${seed} ${id}: ${lost.filter(l => !found.has(l)).join()}`).toBe(`${seed} ${id}: `)
      }
    }
    expect(asked).toBeGreaterThan(20)
  })
})

describe('several at once', () => {
  it('goes as one edit that one undo takes back, whatever they are', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 400 }), fc.array(fc.nat(60), { maxLength: 6 }), (seed, picks) => {
        const plan = randomPlan(seed)
        if (!plan) return
        const all = [...plan.parts, ...plan.leads].map(x => x.id)
        const ids = [...new Set(picks.map(i => all[i % all.length]!))]
        const result = applyEdit(plan, takeAllOut(plan, ids))
        if (!result.ok) throw new Error(JSON.stringify(result.faults))
        for (const id of ids) expect(partById(result.plan, id) ?? leadById(result.plan, id)).toBeUndefined()
        const back = applyEdit(result.plan, result.undo)
        expect(back.ok && writePlan(back.plan)).toBe(writePlan(applied(plan)))
      }),
      { seed: 12, numRuns: 60 },
    )
  })
  const applied = (plan: Plan) => edited(plan, [])
})

describe('a lead by hand', () => {
  const blk = tern.parts.find(p => p.kind === 'block')!
  const load = tern.leads.find(l => l.from.startsWith(`${blk.id}.p`))!
  it('goes onto another port, whose fuse then fits what hangs on it', () => {
    const free = 'free'
    const part = {
      ...blk,
      ports: [
        ...(blk as never as { ports: object[] }).ports,
        { id: free, fuse: { type: 'blade', ratedA: 1 }, connector: 'stack-45' },
      ],
    }
    const plan = edited(tern, [{ op: 'replace', path: `/parts/${tern.parts.indexOf(blk)}`, value: part }])
    const next = edited(plan, moveEnd(plan, load, 'from', `${blk.id}.${free}`))
    expect(leadById(next, load.id)!.from).toBe(`${blk.id}.${free}`)
    const port = (partById(next, blk.id) as never as { ports: { id: string; fuse: { ratedA: number } }[] }).ports.at(
      -1,
    )!
    expect(port.fuse.ratedA).toBeGreaterThan(1)
  })
  it('gets the connector of the terminal it is moved to', () => {
    const plan = edited(tern, [
      {
        op: 'add',
        path: '/parts/-',
        value: { id: 'post', kind: 'supply', setV: 13.8, continuousA: 20, terminal: 'ring-m6' },
      },
    ])
    const next = edited(plan, moveEnd(plan, load, 'from', 'post'))
    expect(leadById(next, load.id)!.ends!.from!.connector).toBe('ring-m6')
  })
  it('another conductor for all like it leaves insulation, material and others alone', () => {
    const [first] = tern.leads
    const alike = leadsAlike(tern, first!)
    const next = edited(tern, setConductors(tern, [first!, ...alike], { mm2: 16 }))
    for (const lead of next.leads) {
      const before = leadById(tern, lead.id)!
      const isChanged = [first!, ...alike].some(l => l.id === lead.id)
      expect(lead.conductor.mm2 === 16).toBe(isChanged || before.conductor.mm2 === 16)
      expect(lead.conductor.insulationC).toBe(before.conductor.insulationC)
    }
    expect(leadsAlike(next, leadById(next, first!.id)!)).toHaveLength(alike.length)
  })
  it("an end's field is set and taken out again", () => {
    const one = edited(tern, enterEnd(tern, load, 'to', ['contactOhm', 0.002]))
    expect(leadById(one, load.id)!.ends!.to!.contactOhm).toBe(0.002)
    const none = edited(one, enterEnd(one, leadById(one, load.id)!, 'to', ['contactOhm', undefined]))
    expect(leadById(none, load.id)!.ends!.to).not.toHaveProperty('contactOhm')
  })
})

describe('names to choose among', () => {
  it('say the part and its port, with the id only where two are called alike', () => {
    const plan = {
      ...tern,
      parts: [
        { id: 'bat', kind: 'battery', name: 'House pack', outlets: [{ id: 'o1' }, { id: 'o2' }, { id: 'jack' }] },
        { id: 'a', kind: 'radio', name: 'Rig' },
        { id: 'b', kind: 'radio', name: 'Rig' },
        { id: 'ctl', kind: 'controller', name: 'Charge controller' },
      ],
    } as never as Plan
    expect(terminalName(plan, 'bat.o2')).toBe('House pack, outlet 2')
    expect(terminalName(plan, 'bat.jack')).toBe('House pack, outlet jack')
    expect(terminalName(plan, 'ctl.load')).toBe('Charge controller, load')
    expect(partName(plan, 'b')).toBe('Rig (b)')
  })
})
