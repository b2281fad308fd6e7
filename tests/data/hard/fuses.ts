import { battery, fuse, lead, load, radio, smallPlan } from '../plans'
import { wire, amps, busbar, fuseAt, vehicle, type HardPlan } from './hard'

/** A small load at the end of 30 m of 18 AWG. */
const longAndThin = (insulationC: number, ratedA: number) =>
  smallPlan({
    parts: [
      battery({ chemistry: 'agm', seriesCells: 6, internalOhm: 0.02 }),
      load({ supply: { minV: 9, maxV: 15 }, draw: amps(2, 0.1) }),
    ],
    leads: [
      wire('l1', ['bat', 'pc'], ['ring-m6', 'stack-30'], {
        lengthM: 30,
        conductor: { awg: 18, insulationC },
        inline: fuseAt(ratedA),
      }),
    ],
  })

export const FUSES_PLANS: readonly HardPlan[] = [
  {
    name: 'fuse only in negative, vehicle',
    why: 'danger fuse missing in positive',
    plan: () =>
      smallPlan({
        parts: [vehicle({ engineOffV: 12.5, internalOhm: 0.01, alternatorSpareA: undefined }), radio()],
        leads: [wire('l1', ['car', 'hf'], ['ring-m8', 'stack-45'], { inline: [fuse(20, 0.1, { legs: 'negative' })] })],
      }),
    bad: ['danger fuse-missing l1'],
    told: ['note both-legs-asked hf'],
  },
  {
    name: '10 A switch in 21 A lead',
    why: 'danger item rating',
    plan: () =>
      smallPlan({
        parts: [battery(), radio({ draw: amps(21) })],
        leads: [lead({ inline: [fuse(30), { id: 'k', kind: 'switch', ratedA: 10, atM: 0.3 }] })],
      }),
    bad: ['danger fuse-interrupting l1', 'danger item-rating l1'],
    told: [],
  },
  {
    name: 'long thin lead with computer hides starving radio',
    why: 'collapse AND hf starves',
    plan: () =>
      smallPlan({
        parts: [
          battery(),
          { id: 'j', kind: 'joint', connector: 'ring-m6' },
          radio({ supply: { minV: 12.6, maxV: 15 } }),
          load({ draw: { model: 'constant-power', idleW: 10, activeW: 150 } }),
        ],
        leads: [
          wire('m', ['bat', 'j.a'], ['ring-m6', 'ring-m6'], { lengthM: 1 }),
          wire('r', ['j.b', 'hf'], ['ring-m6', 'stack-45'], { inline: [], lengthM: 3 }),
          wire('p', ['j.c', 'pc'], ['ring-m6', 'stack-30'], {
            inline: [fuse(20, 0.05)],
            lengthM: 30,
            conductor: { awg: 18, insulationC: 105 },
          }),
        ],
      }),
    bad: ['danger fuse-over-conductor m', 'danger fuse-over-conductor p', 'fail arrival-under hf', 'fail collapse pc'],
    told: ['caution connector-conductor pc'],
  },
  {
    name: '30 A fuse, 12 AWG enclosed',
    why: 'small conductor: 20 A max → danger',
    plan: () =>
      smallPlan({
        site: { ampacity: 'enclosed' },
        leads: [lead({ conductor: { awg: 12, insulationC: 90 }, inline: [fuse(25)] })],
      }),
    bad: ['danger fuse-over-conductor l1'],
    told: [],
  },
  {
    name: 'awg 16 unsaid insulation 20 A fuse open',
    why: '16 AWG PVC at 35: 25*sqrt(35/75)=17.1 → danger',
    plan: () => smallPlan({ leads: [lead({ conductor: { awg: 16 }, inline: [fuse(20)] })] }),
    bad: ['danger fuse-over-conductor l1'],
    told: ['caution connector-conductor hf'],
  },
  {
    name: 'dry pack thin unfused',
    why: 'no danger for missing fuse',
    plan: () =>
      smallPlan({
        parts: [
          battery({
            chemistry: 'alkaline',
            seriesCells: 8,
            capacityAh: 2,
            internalOhm: 2,
            terminal: 'barrel-5525',
            continuousA: 1,
            peakA: 2,
          }),
          radio({ supply: { minV: 7, maxV: 14 }, draw: amps(0.5, 0.05), terminal: 'barrel-5525' }),
        ],
        leads: [
          wire('l1', ['bat', 'hf'], ['barrel-5525', 'barrel-5525'], {
            conductor: { awg: 20, insulationC: 70 },
            inline: [],
          }),
        ],
      }),
    bad: ['fail arrival-under hf'],
    told: ['caution fuse-missing l1'],
  },
  {
    name: 'fuse at radio end only',
    why: '1.9 m unprotected; danger',
    plan: () => smallPlan({ leads: [lead({ lengthM: 2, inline: fuseAt(20, 1.9) })] }),
    bad: ['danger fuse-place l1'],
    told: [],
  },
  {
    name: 'sheathed 1.2 m',
    why: 'passes: 1.2 < 1.83',
    plan: () =>
      smallPlan({
        site: { fuseDistance: 'sheathed' },
        leads: [lead({ lengthM: 3, sheathed: true, inline: fuseAt(20, 1.2) })],
      }),
    bad: [],
    told: [],
  },
  {
    name: 'sheathed school, not in sheath',
    why: 'not sheathed: 0.18',
    plan: () =>
      smallPlan({ site: { fuseDistance: 'sheathed' }, leads: [lead({ lengthM: 3, inline: fuseAt(20, 1.2) })] }),
    bad: ['danger fuse-place l1'],
    told: [],
  },
  {
    name: 'BMS 20 A, 30 A breaker',
    why: 'caution breaker over bms',
    plan: () =>
      smallPlan({
        parts: [battery({ bms: { continuousA: 20, peakA: 25 } }), radio()],
        leads: [lead({ inline: [{ id: 'f1', kind: 'breaker', ratedA: 30, atM: 0.1, ratedV: 32, breakingA: 5e3 }] })],
      }),
    bad: [],
    told: ['caution breaker-over-bms l1'],
  },
  {
    name: 'chassis return, negative fuse',
    why: 'danger',
    plan: () =>
      smallPlan({
        parts: [vehicle(), radio()],
        leads: [
          wire('l1', ['car', 'hf'], ['ring-m8', 'stack-45'], {
            return: 'chassis',
            inline: fuseAt(20, 0.1, { legs: 'negative' }),
          }),
        ],
      }),
    bad: ['danger fuse-missing l1'],
    told: [],
  },
  {
    name: 'engine bay PVC',
    why: 'ambient over insulation',
    plan: () =>
      smallPlan({
        site: { zones: [{ id: 'bay', ambientC: { low: 0, typical: 60, high: 90 } }] },
        parts: [vehicle({ zone: 'bay' }), radio()],
        leads: [wire('l1', ['car', 'hf'], ['ring-m8', 'stack-45'], { conductor: { awg: 10, insulationC: 70 } })],
      }),
    bad: ['danger fuse-over-conductor l1', 'danger ampacity l1'],
    told: ['caution insulation-heat l1', 'note both-legs-asked hf'],
  },
  {
    name: '48 V on blades',
    why: '53 V > 32',
    plan: () =>
      smallPlan({ parts: [battery({ seriesCells: 16, internalOhm: 0.1 }), radio({ supply: { minV: 40, maxV: 60 } })] }),
    bad: ['danger fuse-interrupting l1', 'danger fuse-voltage l1'],
    told: [],
  },
  {
    name: 'long thin, 15 A fuse, short 9 A never opens: carried for good',
    why: 'R=2*30*.0214=1.28; I=9.5A<15; 18AWG 20*.966=19 carries. no danger',
    plan: () => longAndThin(105, 15),
    bad: [],
    told: ['caution connector-conductor pc'],
  },
  {
    name: 'long thin 70C PVC 12 A? short 9.5 A on 18 AWG PVC',
    why: '18 AWG PVC 20*sqrt(35/75)=13.7 >10: ok',
    plan: () => longAndThin(70, 10),
    bad: [],
    told: ['caution connector-conductor pc'],
  },
  {
    name: 'ring feed both fuses 15 for 21 A radio',
    why: 'each 10.5 A',
    plan: () =>
      smallPlan({
        parts: [battery(), busbar('x'), busbar('y'), radio({ draw: amps(21) })],
        leads: [
          wire('m', ['bat', 'x.a'], ['ring-m6', 'ring-m6'], { inline: fuseAt(30) }),
          wire('p', ['x.b', 'y.a'], ['ring-m6', 'ring-m6'], { inline: [fuse(15, 0.05), fuse(15, 0.95, { id: 'f2' })] }),
          wire('q', ['x.c', 'y.b'], ['ring-m6', 'ring-m6'], { inline: [fuse(15, 0.05), fuse(15, 0.95, { id: 'f2' })] }),
          wire('r', ['y.c', 'hf'], ['ring-m6', 'stack-45'], { inline: [] }),
        ],
      }),
    bad: ['danger fuse-interrupting m'],
    told: ['caution fuse-selectivity p', 'caution fuse-selectivity q', 'caution fuse-selectivity r'],
  },
]
