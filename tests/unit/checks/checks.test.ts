import { describe, expect, it } from 'vitest'
import { CHECKS } from '../../../core/checks/index'
import type { Plan } from '../../../core/plan/schema'
import { judge } from '../../../core/verdict/verdict'
import { onBlock, supply, withLead, withRadio } from '../../data/basicPairs'
import { PAIRS } from '../../data/pairs'
import { battery, block, fuse, lead, radio, smallPlan } from '../../data/plans'

/** For every check a plan that makes it fire, and one near it that does not. */

/** Checks that no kind of today asks for: the made-up kinds of kinds/madeUp.test.ts make them fire. */
const BY_MADE_UP_KINDS = ['part-window']

describe('every check', () => {
  it('has a pair of plans here', () =>
    expect([...Object.keys(PAIRS), ...BY_MADE_UP_KINDS].sort()).toEqual(CHECKS.map(c => c.id).sort()))
  for (const [id, { fires, near, place, severity }] of Object.entries(PAIRS)) {
    it(`${id} fires`, () => {
      const found = judge(fires).verdict.findings.filter(f => f.check === id)
      expect(found.map(f => f.place)).toContain(place)
      const [first] = found
      if (severity) expect(first!.severity).toBe(severity)
      expect(CHECKS.find(c => c.id === id)!.severities).toContain(first!.severity)
      expect(first!.message).not.toMatch(/NaN|undefined|Infinity/)
    })
    it(`${id} does not fire nearby`, () => {
      const { verdict } = judge(near)
      expect(verdict.findings.filter(f => f.check === id)).toEqual([])
      expect(verdict.passed).toContain(id)
    })
  }
  it('passes on a sound station', () => expect(judge(smallPlan()).verdict.findings).toEqual([]))
})

const idsOf = (plan: Plan) => judge(plan).verdict.findings.map(f => `${f.check} ${f.place}`)

describe('what the checks know', () => {
  it('an arrival names the corner, the numbers and where the volts go', () => {
    const finding = judge(PAIRS['arrival-under']!.fires).verdict.findings[0]!
    expect(finding).toMatchObject({ condition: 'low/all', numbers: { minV: 12.72 } })
    expect(finding.message).toContain('V reaches hf with nearly empty, all active; it needs 12.72 V.')
    expect(finding.message).toContain('10 AWG, 1 m')
  })
  it('two supplies that share a load are no overload while one of them holds the voltage', () => {
    const two = (mostA: number) =>
      smallPlan({
        parts: [
          { id: 'a', kind: 'supply', setV: 13.8, continuousA: mostA, outputOhm: 0.01 },
          { id: 'b', kind: 'supply', setV: 13.7, continuousA: mostA, outputOhm: 0.01 },
          { id: 'j', kind: 'joint' },
          radio(),
        ],
        leads: [
          lead({ id: 'x', from: 'a', to: 'j.a', ends: {}, inline: [] }),
          lead({ id: 'y', from: 'b', to: 'j.b', ends: {}, inline: [] }),
          lead({ from: 'j.c' }),
        ],
      })
    expect(idsOf(two(6)).filter(id => id.startsWith('supply-overload'))).toEqual([])
    expect(idsOf(two(4)).filter(id => id.startsWith('supply-overload'))).not.toEqual([])
  })
  it('a recommended limit gives a caution only', () => {
    const plan = withRadio({
      supply: { minV: 11, nominalV: 13, maxV: 13.5 },
      figures: { 'supply.maxV': { limit: 'recommended' } },
    })
    expect(judge(plan).verdict.findings.find(f => f.check === 'arrival-over')!.severity).toBe('caution')
  })
  it('a guess that decides a verdict is named', () => {
    const plan = smallPlan({
      parts: [
        battery({ figures: { internalOhm: { from: 'guess' } } }),
        radio({ supply: { minV: 12.72, nominalV: 13.8, maxV: 15.9 } }),
      ],
    })
    expect(judge(plan).verdict.findings[0]!.message).toContain('Rests on a guess: internal resistance of bat.')
  })
  it('the sheathed school allows 1.83 m from a battery and 1.02 m from others, in a sheath only', () => {
    const vehicle = { id: 'bat', kind: 'vehicle', engineOnV: 14, engineOffV: 12.5, internalOhm: 0.01 }
    const far = (source: Record<string, unknown>, atM: number, sheathed: boolean) =>
      idsOf(
        smallPlan({
          site: { fuseDistance: 'sheathed' },
          parts: [source, radio()],
          leads: [lead({ lengthM: 3, sheathed, inline: [fuse(20, atM)] })],
        }),
      ).includes('fuse-place l1')
    expect([far(battery(), 1.82, true), far(battery(), 1.84, true)]).toEqual([false, true])
    expect([far(vehicle, 1.01, true), far(vehicle, 1.03, true)]).toEqual([false, true])
    expect(far(battery(), 0.9, false)).toBe(true)
  })
  it('the ampacity school changes the verdict, and each says what the other would', () => {
    const hot = { draw: { model: 'constant-current', idleA: 1, activeA: 33 } }
    const open = smallPlan({
      parts: [battery(), radio(hot)],
      site: { ampacity: 'open' },
      leads: [lead({ inline: [fuse(40)] })],
    })
    const enclosed = smallPlan({
      parts: [battery(), radio(hot)],
      site: { ampacity: 'enclosed' },
      leads: [lead({ inline: [fuse(40)] })],
    })
    expect(idsOf(open)).not.toContain('ampacity l1')
    const finding = judge(enclosed).verdict.findings.find(f => f.check === 'ampacity')!
    expect(finding.otherSchool).toContain('would pass it')
  })
  it('a supply that cannot overload its wire gets a word for a missing fuse; one that can is a danger', () => {
    const severity = (plan: Plan) => judge(plan).verdict.findings.find(f => f.check === 'fuse-missing')?.severity
    const unfused = (peakA: number) => smallPlan({ parts: [supply({ peakA }), radio()], leads: [lead({ inline: [] })] })
    expect(severity(unfused(50))).toBe('caution')
    expect(severity(unfused(60))).toBe('danger')
    const onFusedBlock = smallPlan({
      parts: [supply(), block([15, 15], { ratedA: 12 }), radio()],
      leads: [lead({ id: 'm', to: 'blk.feed', ends: {}, inline: [] }), lead({ from: 'blk.p1', inline: [], ends: {} })],
    })
    expect(severity(onFusedBlock)).toBe('note')
  })
  it('a short pigtail into a fused block needs no fuse of its own', () => {
    const plan = onBlock()
    const pigtail = { ...plan, leads: plan.leads.map(l => (l.id === 'm' ? { ...l, lengthM: 0.15, inline: [] } : l)) }
    expect(idsOf(pigtail).filter(id => id.startsWith('fuse'))).toEqual([])
    const long = { ...plan, leads: plan.leads.map(l => (l.id === 'm' ? { ...l, lengthM: 0.5, inline: [] } : l)) }
    expect(idsOf(long)).toContain('fuse-missing m')
  })
  it('an upstream fuse that is small enough excuses a large one downstream', () => {
    const plan = onBlock({}, { conductor: { awg: 18, insulationC: 105 }, lengthM: 0.2 })
    const portLarge = {
      ...plan,
      parts: plan.parts.map(p =>
        p.kind === 'block' ? { ...p, ports: p.ports.map(q => ({ ...q, fuse: { type: 'blade', ratedA: 30 } })) } : p,
      ),
    }
    // 18 AWG carries 19.3 A; the main fuse of 20 A does not hold it back, one of 15 A does.
    expect(idsOf(portLarge)).toContain('fuse-over-conductor blk.p1')
    const small = {
      ...portLarge,
      leads: portLarge.leads.map(l =>
        l.id === 'm' ? { ...l, inline: [{ ...l.inline![0]!, ratedA: 15 } as never] } : l,
      ),
    }
    expect(idsOf(small)).not.toContain('fuse-over-conductor blk.p1')
  })
  it('a lead drawn from the load to the battery is protected from its own end', () => {
    const reversed = lead({
      from: 'hf',
      to: 'bat',
      ends: { from: { connector: 'stack-45' }, to: { connector: 'ring-m6' } },
    })
    expect(idsOf(smallPlan({ leads: [{ ...reversed, inline: [fuse(20, 0.9)] }] }))).toEqual([])
    expect(idsOf(smallPlan({ leads: [{ ...reversed, inline: [fuse(20, 0.1)] }] }))).toEqual(['fuse-place l1'])
  })
  it('joined packs of one kind are worth a word, of two systems a danger', () => {
    const two = (more: Record<string, unknown>) =>
      smallPlan({
        parts: [battery({ internalOhm: 0.02 }), radio(), battery({ id: 'b2', internalOhm: 0.02, ...more })],
        leads: [
          lead(),
          lead({ id: 'l2', to: 'b2', ends: {}, inline: [fuse(20, 0.1), { ...fuse(20, 0.9), id: 'f2' }] }),
        ],
      })
    expect(judge(two({})).verdict.findings).toMatchObject([{ check: 'sources-joined', severity: 'note' }])
    expect(judge(two({ seriesCells: 8 })).verdict.findings.find(f => f.check === 'sources-joined')).toMatchObject({
      severity: 'danger',
      numbers: { highestV: 26.32, lowestV: 13.16 },
    })
  })
  it('a load behind an open switch is said to be so, with its remedy', () => {
    const plan = withLead({ inline: [fuse(20), { id: 's', kind: 'switch', closed: false, atM: 0.5 }] })
    expect(judge(plan).verdict.findings[0]!.message).toContain('switch')
  })
})
