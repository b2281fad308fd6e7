import { describe, expect, it } from 'vitest'
import { CHECKS } from '../../../core/checks/index'
import type { Plan } from '../../../core/plan/schema'
import { judge } from '../../../core/verdict/verdict'
import { MORE_PAIRS, type Pair } from '../../data/pairs'
import { battery, fuse, lead, load, radio, smallPlan } from '../../data/plans'

/** For every check a plan that makes it fire, and one near it that does not. */

const supply = (more: Record<string, unknown> = {}) => ({ id: 'bat', kind: 'supply', setV: 13.8, continuousA: 12, peakA: 14, outputOhm: 0.01, terminal: 'ring-m6', ...more })
const block = (more: Record<string, unknown> = {}) => ({
  id: 'blk', kind: 'block', feed: 'ring-m6', ratedA: 12, ports: [{ id: 'p1', fuse: { type: 'blade', ratedA: 15 }, connector: 'stack-45' }, { id: 'p2', fuse: { type: 'blade', ratedA: 15 }, connector: 'stack-45' }], ...more,
})
const onBlock = (blockMore: Record<string, unknown> = {}, legMore: Record<string, unknown> = {}) => smallPlan({
  parts: [battery(), block(blockMore), radio()],
  leads: [lead({ id: 'm', to: 'blk.feed', ends: { from: { connector: 'ring-m6' }, to: { connector: 'ring-m6' } } }), lead({ id: 'l1', from: 'blk.p1', ends: { from: { connector: 'stack-45' }, to: { connector: 'stack-45' } }, inline: [], ...legMore })],
})
const withRadio = (more: Record<string, unknown>, leadMore: Record<string, unknown> = {}) => smallPlan({ parts: [battery(), radio(more)], leads: [lead(leadMore)] })
const withLead = (more: Record<string, unknown>) => smallPlan({ leads: [lead(more)] })
const withBattery = (more: Record<string, unknown>, leadMore: Record<string, unknown> = {}) => smallPlan({ parts: [battery(more), radio()], leads: [lead(leadMore)] })
const dropper = (more: Record<string, unknown> = {}) => ({ id: 'd', kind: 'dropper', count: 1, ratedA: 20, stripe: 'to', atM: 0.8, ...more })

const PAIRS: Record<string, Pair> = {
  'fuse-missing': { fires: withLead({ inline: [] }), near: withLead({ inline: [fuse(15)] }), place: 'l1', severity: 'danger' },
  'fuse-place': { fires: withLead({ inline: [fuse(20, 0.19)] }), near: withLead({ inline: [fuse(20, 0.18)] }), place: 'l1', severity: 'danger' },
  // 10 AWG in open air carries 60 A at 30 °C, 57.97 A at 35 °C.
  'fuse-over-conductor': { fires: withLead({ inline: [fuse(60, 0.1, { type: 'strip' })] }), near: withLead({ inline: [fuse(50, 0.1, { type: 'strip' })] }), place: 'l1', severity: 'danger' },
  'fuse-nuisance': { fires: withRadio({ draw: { model: 'constant-current', idleA: 1, activeA: 16.5 } }), near: withRadio({ draw: { model: 'constant-current', idleA: 1, activeA: 16 } }), place: 'l1', severity: 'caution' },
  // 18 AWG carries 20 A at 30 °C, 19.32 A at 35 °C.
  'ampacity': {
    fires: withRadio({ draw: { model: 'constant-current', idleA: 1, activeA: 19.5 } }, { conductor: { awg: 18, insulationC: 105 }, lengthM: 0.3, inline: [fuse(15)] }),
    near: withRadio({ draw: { model: 'constant-current', idleA: 1, activeA: 19 } }, { conductor: { awg: 18, insulationC: 105 }, lengthM: 0.3, inline: [fuse(15)] }), place: 'l1', severity: 'danger',
  },
  'copper-clad': { fires: withLead({ conductor: { awg: 10, insulationC: 105, material: 'cca' } }), near: withLead({ conductor: { awg: 10, insulationC: 105, material: 'copper' } }), place: 'l1' },
  // 12.92 V − 10 A × (10 + 6.56·(1.0082) + 1.5 + 3.75 mΩ) = 12.70 V.
  'arrival-under': { fires: withRadio({ supply: { minV: 12.72, nominalV: 13.8, maxV: 15.9 } }), near: withRadio({ supply: { minV: 12.68, nominalV: 13.8, maxV: 15.9 } }), place: 'hf', severity: 'fail' },
  'arrival-over': { fires: withRadio({ supply: { minV: 11, nominalV: 13.8, maxV: 14.38 } }), near: withRadio({ supply: { minV: 11, nominalV: 13.8, maxV: 14.4 } }), place: 'hf', severity: 'fail' },
  'collapse': {
    fires: smallPlan({ parts: [battery({ internalOhm: 0.5 }), load({ draw: { model: 'constant-power', idleW: 1, activeW: 95 } })], leads: [lead({ to: 'pc', ends: {} })] }),
    near: smallPlan({ parts: [battery({ internalOhm: 0.5 }), load({ draw: { model: 'constant-power', idleW: 1, activeW: 75 } })], leads: [lead({ to: 'pc', ends: {} })] }), place: 'pc', severity: 'fail',
  },
  // 5 % of 13.8 V is 0.69 V: 10.4 m of 10 AWG at 10 A.
  'drop': { fires: withLead({ lengthM: 10.6 }), near: withLead({ lengthM: 10.3 }), place: 'hf', severity: 'caution' },
  'power-sag': { fires: withRadio({ fullPowerAboveV: 12.8, powerW: 100 }), near: withRadio({ fullPowerAboveV: 12.6, powerW: 100 }), place: 'hf', severity: 'note' },
  'battery-peak': { fires: withBattery({ continuousA: 5, peakA: 9 }), near: withBattery({ continuousA: 11, peakA: 11 }), place: 'bat', severity: 'fail' },
  'battery-continuous': { fires: withBattery({ continuousA: 9.9, peakA: 20 }), near: withBattery({ continuousA: 10, peakA: 20 }), place: 'bat', severity: 'fail' },
  'lead-acid-depth': { fires: withBattery({ chemistry: 'agm', seriesCells: 6, usableFraction: 0.6 }), near: withBattery({ chemistry: 'agm', seriesCells: 6, usableFraction: 0.5 }), place: 'bat' },
  'supply-overload': { fires: smallPlan({ parts: [supply({ continuousA: 9 }), radio()] }), near: smallPlan({ parts: [supply({ continuousA: 10 }), radio()] }), place: 'bat', severity: 'fail' },
  'sources-joined': {
    fires: smallPlan({ parts: [battery(), radio(), supply({ id: 'psu' })], leads: [lead(), lead({ id: 'l2', from: 'psu', to: 'bat', ends: { from: { connector: 'ring-m6' }, to: { connector: 'ring-m6' } }, inline: [fuse(20, 0.9)] })] }),
    near: smallPlan({ parts: [battery(), radio(), supply({ id: 'psu' })], leads: [lead(), lead({ id: 'l2', from: 'psu', to: 'bat', ends: { from: { connector: 'ring-m6' }, to: { connector: 'ring-m6' } }, inline: [fuse(20, 0.9), { id: 's', kind: 'switch', closed: false, atM: 0.5 }] })] }), place: 'psu', severity: 'caution',
  },
  'island': { fires: smallPlan({ parts: [battery(), radio(), load()] }), near: smallPlan(), place: 'pc', severity: 'fail' },
  'block-rating': { fires: onBlock({ ratedA: 9.9 }), near: onBlock({ ratedA: 10 }), place: 'blk', severity: 'fail' },
  'port-rating': { fires: onBlock({ ports: [{ id: 'p1', ratedA: 9, fuse: { type: 'blade', ratedA: 15 }, connector: 'stack-45' }] }), near: onBlock({ ports: [{ id: 'p1', ratedA: 10, fuse: { type: 'blade', ratedA: 15 }, connector: 'stack-45' }] }), place: 'blk.p1', severity: 'fail' },
  'connector-mating': { fires: withRadio({ terminal: 'heavy-50' }), near: withRadio({ terminal: 'stack-30' }), place: 'hf', severity: 'fail' },
  'connector-rating': {
    fires: withRadio({ terminal: 'stack-30', draw: { model: 'constant-current', idleA: 1, activeA: 31 } }, { conductor: { awg: 8, insulationC: 105 }, inline: [fuse(40)] }),
    near: withRadio({ terminal: 'stack-45', draw: { model: 'constant-current', idleA: 1, activeA: 31 } }, { conductor: { awg: 8, insulationC: 105 }, inline: [fuse(40)] }), place: 'hf', severity: 'fail',
  },
  // 35 °C + 150 (I/45)² reaches 145 °C at 38.5 A.
  'connector-heat': {
    fires: withRadio({ draw: { model: 'constant-current', idleA: 1, activeA: 39 } }, { conductor: { awg: 8, insulationC: 105 }, inline: [fuse(50, 0.1, { type: 'strip' })] }),
    near: withRadio({ draw: { model: 'constant-current', idleA: 1, activeA: 38 } }, { conductor: { awg: 8, insulationC: 105 }, inline: [fuse(50, 0.1, { type: 'strip' })] }), place: 'hf', severity: 'caution',
  },
  'connector-conductor': { fires: withLead({ conductor: { awg: 8, insulationC: 105 } }), near: withLead({ conductor: { awg: 14, insulationC: 105 } }), place: 'hf', severity: 'caution' },
  'connector-crowded': {
    fires: smallPlan({ parts: [battery(), radio(), load()], leads: [lead(), lead({ id: 'l2', to: 'pc', from: 'hf', ends: {}, inline: [fuse(5)] })] }),
    near: smallPlan({ parts: [battery(), radio(), load()], leads: [lead(), lead({ id: 'l2', to: 'pc', ends: {}, inline: [fuse(5)] })] }), place: 'hf', severity: 'fail',
  },
  'dropper-idle': { fires: withRadio({ supply: { minV: 10, nominalV: 12, maxV: 13.5 } }, { inline: [fuse(20), dropper()] }), near: withRadio({ supply: { minV: 10, nominalV: 12, maxV: 13.8 } }, { inline: [fuse(20), dropper()] }), place: 'l1', severity: 'fail' },
  'dropper-rating': { fires: withLead({ inline: [fuse(20), dropper({ ratedA: 9 })] }), near: withLead({ inline: [fuse(20), dropper({ ratedA: 10 })] }), place: 'l1', severity: 'danger' },
  'dropper-direction': {
    fires: smallPlan({ parts: [battery(), radio({ kind: 'load', draw: { model: 'resistive', idleW: 1, activeW: 20 } })], leads: [lead({ inline: [fuse(20), dropper({ stripe: 'from' })] })] }),
    near: smallPlan({ parts: [battery(), radio({ kind: 'load', draw: { model: 'resistive', idleW: 1, activeW: 20 } })], leads: [lead({ inline: [fuse(20), dropper({ stripe: 'to' })] })] }), place: 'l1', severity: 'fail',
  },
}

describe('every check', () => {
  it('has a pair of plans here', () => expect(Object.keys({ ...PAIRS, ...MORE_PAIRS }).sort()).toEqual(CHECKS.map(c => c.id).sort()))
  for (const [id, { fires, near, place, severity }] of Object.entries({ ...PAIRS, ...MORE_PAIRS })) {
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
  it('a recommended limit gives a caution only', () => {
    const plan = withRadio({ supply: { minV: 11, nominalV: 13.8, maxV: 14.2 }, figures: { 'supply.maxV': { limit: 'recommended' } } })
    expect(judge(plan).verdict.findings.find(f => f.check === 'arrival-over')!.severity).toBe('caution')
  })
  it('a guess that decides a verdict is named', () => {
    const plan = smallPlan({ parts: [battery({ figures: { internalOhm: { from: 'guess' } } }), radio({ supply: { minV: 12.72, nominalV: 13.8, maxV: 15.9 } })] })
    expect(judge(plan).verdict.findings[0]!.message).toContain('internalOhm of bat')
  })
  it('the sheathed school allows 1 m, in a sheath only', () => {
    const far = { inline: [fuse(20, 0.9)] }
    const sheathed = { fuseDistance: 'sheathed' }
    expect(idsOf(smallPlan({ site: sheathed, leads: [lead(far)] }))).toContain('fuse-place l1')
    expect(idsOf(smallPlan({ site: sheathed, leads: [lead({ ...far, sheathed: true })] }))).not.toContain('fuse-place l1')
  })
  it('the ampacity school changes the verdict, and each says what the other would', () => {
    const hot = { draw: { model: 'constant-current', idleA: 1, activeA: 33 } }
    const open = smallPlan({ parts: [battery(), radio(hot)], site: { ampacity: 'open' }, leads: [lead({ inline: [fuse(40)] })] })
    const enclosed = smallPlan({ parts: [battery(), radio(hot)], site: { ampacity: 'enclosed' }, leads: [lead({ inline: [fuse(40)] })] })
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
      parts: [supply(), block(), radio()],
      leads: [lead({ id: 'm', to: 'blk.feed', ends: {}, inline: [] }), lead({ from: 'blk.p1', inline: [], ends: {} })],
    })
    expect(severity(onFusedBlock)).toBe('note')
  })
  it('a short pigtail into a fused block needs no fuse of its own', () => {
    const plan = onBlock()
    const pigtail = { ...plan, leads: plan.leads.map(l => l.id === 'm' ? { ...l, lengthM: 0.15, inline: [] } : l) }
    expect(idsOf(pigtail).filter(id => id.startsWith('fuse'))).toEqual([])
    const long = { ...plan, leads: plan.leads.map(l => l.id === 'm' ? { ...l, lengthM: 0.5, inline: [] } : l) }
    expect(idsOf(long)).toContain('fuse-missing m')
  })
  it('an upstream fuse that is small enough excuses a large one downstream', () => {
    const plan = onBlock({}, { conductor: { awg: 18, insulationC: 105 }, lengthM: 0.2 })
    const portLarge = { ...plan, parts: plan.parts.map(p => p.kind === 'block' ? { ...p, ports: p.ports.map(q => ({ ...q, fuse: { type: 'blade', ratedA: 30 } })) } : p) }
    // 18 AWG carries 19.3 A; the main fuse of 20 A does not hold it back, one of 15 A does.
    expect(idsOf(portLarge)).toContain('fuse-over-conductor blk.p1')
    const small = { ...portLarge, leads: portLarge.leads.map(l => l.id === 'm' ? { ...l, inline: [{ ...l.inline![0]!, ratedA: 15 } as never] } : l) }
    expect(idsOf(small)).not.toContain('fuse-over-conductor blk.p1')
  })
  it('a lead drawn from the load to the battery is protected from its own end', () => {
    const reversed = lead({ from: 'hf', to: 'bat', ends: { from: { connector: 'stack-45' }, to: { connector: 'ring-m6' } } })
    expect(idsOf(smallPlan({ leads: [{ ...reversed, inline: [fuse(20, 0.9)] }] }))).toEqual([])
    expect(idsOf(smallPlan({ leads: [{ ...reversed, inline: [fuse(20, 0.1)] }] }))).toEqual(['fuse-place l1'])
  })
  it('joined packs of one kind are worth a word, of two systems a danger', () => {
    const two = (more: Record<string, unknown>) => smallPlan({ parts: [battery({ internalOhm: 0.02 }), radio(), battery({ id: 'b2', internalOhm: 0.02, ...more })], leads: [lead(), lead({ id: 'l2', to: 'b2', ends: {}, inline: [fuse(20, 0.1), { ...fuse(20, 0.9), id: 'f2' }] })] })
    expect(judge(two({})).verdict.findings).toMatchObject([{ check: 'sources-joined', severity: 'note' }])
    expect(judge(two({ seriesCells: 8 })).verdict.findings.find(f => f.check === 'sources-joined')).toMatchObject({ severity: 'danger', numbers: { highestV: 26.32, lowestV: 13.16 } })
  })
  it('a load behind an open switch is said to be so, with its remedy', () => {
    const plan = withLead({ inline: [fuse(20), { id: 's', kind: 'switch', closed: false, atM: 0.5 }] })
    expect(judge(plan).verdict.findings[0]!.message).toContain('switch')
  })
})
