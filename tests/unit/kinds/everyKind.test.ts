import { describe, expect, it } from 'vitest'
import { fittingEnds } from '../../../core/edit/add'
import { CHECKS } from '../../../core/checks/index'
import { KINDS, kindOf, type Part } from '../../../core/kinds/index'
import { ALONE } from '../../../core/kinds/kind'
import { cautionsOf } from '../../../core/sheets/cautions'
import { battery, fuse, radio } from '../../data/plans'
import { planOf, refuseNonsense, throughEveryEngine } from '../../data/engines'
import { throughRoomsBeside } from '../../data/roomsBeside'

/** One part of every row of every catalogue. */
const rows = [...KINDS.values()].flatMap(kind =>
  kind.catalogue.map(row => [row.id, { ...structuredClone(row.part), id: 'x' } as unknown as Part] as const),
)

const pack = battery({ capacityAh: 100, continuousA: 100, peakA: 200, maxChargeA: 50, terminal: 'ring-m8' })
const set = radio({ id: 'set', draw: { model: 'constant-current', idleA: 0.5, activeA: 4 } })
const lead = (id: string, from: string, to: string) => ({
  id,
  from,
  to,
  lengthM: 1,
  conductor: { awg: 10, insulationC: 105 },
})

/** A small station with the part where parts of its role stand: it feeds the radio, is fed, or lies in the way. */
function stationWith(part: Part) {
  const kind = kindOf(part)
  const terminals = kind.terminals(part, []).map(t => t.id)
  const entry = kind.entry?.(part) ?? terminals[0]
  const fused = (l: object) => ({ ...l, inline: [fuse(30)] })
  if (entry === undefined) return planOf([pack, set, part], [fused(lead('l1', 'bat', 'set'))])
  if (kind.role === 'source') return planOf([part, set], [fused(lead('l1', entry, 'set'))])
  if (kind.role === 'load') return planOf([pack, part], [fused(lead('l1', 'bat', entry))])
  const beyond = kind.between?.[1]
  const onward = beyond ? `x.${beyond}` : terminals.find(t => t !== entry)
  const first = fused(lead('l1', 'bat', kind.between ? `x.${kind.between[0]}` : entry))
  return onward
    ? planOf([pack, part, set], [first, lead('l2', onward, 'set')])
    : planOf([pack, part, set], [first, lead('l2', 'bat', 'set')])
}

const answered = new Map<string, ReturnType<typeof throughEveryEngine>>()
/** What every engine says of the station with a row's part. */
function answersOf(row: string, part: Part) {
  const answers = answered.get(row) ?? throughEveryEngine(stationWith(part))
  answered.set(row, answers)
  return answers
}

describe('every kind', () => {
  it.each(rows)('%s goes through every engine', (id, part) => {
    const answers = answersOf(id, part)
    expect(answers.layout.boxes.length + answers.layout.bars.length + answers.layout.rows.length).toBeGreaterThan(1)
    expect(answers.sheet.parts.map(p => p.what).join()).toContain(kindOf(part).label)
  })

  it.each(rows)('%s says in the short study what it says of itself', (id, part) => {
    const own = kindOf(part).intoShort(part)
    const { shorts } = answersOf(id, part).shorts
    for (const { at, by } of own) {
      const there = shorts.find(s => s.kind === 'terminal' && s.at === at)!
      expect(there.from.map(f => f.source)).toContain('x')
      if (by === 'itself') expect(there.prospectiveA).toBeGreaterThan(0)
    }
    expect(shorts.some(s => s.from.some(f => f.source === 'x'))).toBe(own.length > 0)
  })

  it.each([...new Map(rows.map(([id, part]) => [part.kind, [id, part] as const])).values()])(
    '%s goes through the rooms beside the verdict: hours, commissioning, practice, symptoms, noise',
    (_, part) => {
      const answers = throughRoomsBeside(stationWith(part))
      refuseNonsense(answers, '')
      expect(answers.steps.length).toBeGreaterThan(0)
    },
  )

  it('names checks that exist where a limit is judged in words of its own', () => {
    const ids = CHECKS.map(c => c.id)
    const named = rows.flatMap(([, part]) => {
      const kind = kindOf(part)
      const byTerminal = kind.terminals(part, []).map(t => t.ratedBy)
      return [...kind.windows(part), ...kind.limits(part, ALONE)].map(l => l.judgedBy).concat(byTerminal)
    })
    for (const id of named) if (id !== undefined) expect(ids).toContain(id)
  })

  it('each danger is one line on the sheets, however many parts have it', () => {
    const panels = rows.filter(([, p]) => p.kind === 'panel').map(([id, p]) => ({ ...p, id }))
    const lines = cautionsOf(planOf([pack, ...panels], []))
    expect(lines.filter(l => l.startsWith('Solar panels are live'))).toHaveLength(1)
    expect(new Set(lines).size).toBe(lines.length)
  })

  it('a new lead on it gets ends that fit', () => {
    for (const [, part] of rows) {
      const plan = planOf([pack, part], [])
      for (const t of kindOf(part).terminals(part, [])) {
        const ends = fittingEnds(plan, 'bat', t.id)
        expect(Boolean(ends.to)).toBe(t.connector !== undefined)
      }
    }
  })
})
