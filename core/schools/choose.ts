import { SCHOOLS, school, type SchoolId } from '../catalog/schools'
import { offLoadTerminal } from '../checks/loadTerminal'
import { solveCorners } from '../circuit/matrix'
import { ampacityA } from '../conductor/ampacity'
import { restedVolts, endOfUse } from '../battery/emf'
import { appendLead, appendPart, identified } from '../edit/add'
import { heal } from '../edit/between'
import { setItem } from '../edit/items'
import { inTurn, tryPatch, type Patch } from '../edit/patch'
import { setField, setSite } from '../edit/set'
import { addRegulator } from '../fixes/converter'
import { thickenTo } from '../fixes/conductor'
import { batteryLimit } from '../kinds/battery'
import { asKind, partsOf, type Part, type PartOf } from '../kinds/index'
import { freeId, nameOf, partById, partIdOf } from '../plan/find'
import { schoolOf, type Lead, type Plan } from '../plan/schema'
import { Study } from '../study/study'

/**
 * A choice of a school as a patch: the plan says it, and where the choice is a thing to build, the plan is built so.
 */
export interface Choice {
  patch: Patch
  does: string
}

const OWN_FIELDS = new Set<string>(['ampacity', 'fuseDistance'])

const say = (plan: Plan, id: SchoolId, choice: string): Patch =>
  setSite(plan, OWN_FIELDS.has(id) ? id : `schools.${id}`, choice)

/** Takes a side. What it changes beside saying so is in `does`, empty where nothing has to be built for it. */
export function chooseSchool(plan: Plan, id: SchoolId, choice: string): Choice {
  const said = tryPatch(plan, say(plan, id, choice)) ?? plan
  const built = BUILD[id]?.(said, choice) ?? []
  return { patch: [...say(plan, id, choice), ...built], does: built.length ? (WORDS[id] ?? '') : '' }
}

/** Every school with what a plan says of it. */
export function schoolsOf(plan: Plan) {
  return SCHOOLS.map(s => ({ ...school(s.id), id: s.id as SchoolId, now: schoolOf(plan, s.id) }))
}

const WORDS: Partial<Record<SchoolId, string>> = {
  fuseLegs: 'fuses at the sources are set so',
  hold: 'regulators before the radios',
  charging: 'batteries are charged so',
  end: "the batteries' stop is set so",
  packs: 'a second pack beside the first',
  loadsFrom: 'leads are moved off the load terminal',
  termination: 'crimped ends are set so',
  conductorFor: 'conductors at the battery are made thicker',
}

const BUILD: Partial<Record<SchoolId, (plan: Plan, choice: string) => Patch>> = {
  fuseLegs: (plan, choice) =>
    new Study(solveCorners(plan)).unprotected.flatMap(({ lead, device }): Patch => {
      const item = device?.place === lead.id ? device.item : null
      return item === null ? [] : setItem(plan, lead.id, item, { legs: choice === 'both' ? 'both' : 'positive' })
    }),
  hold: (plan, choice) => (choice === 'held' ? regulators(plan) : withoutRegulators(plan)),
  charging: (plan, choice) =>
    partsOf(plan.parts, 'battery').flatMap(b =>
      setField(plan, b.id, 'charged', choice === 'apart' ? 'elsewhere' : 'in-place'),
    ),
  end: (plan, choice) =>
    partsOf(plan.parts, 'battery').flatMap(b => {
      if (choice !== 'stop-voltage') return setField(plan, b.id, 'stopV', undefined)
      return b.stopV === undefined ? setField(plan, b.id, 'stopV', Number(restedVolts(b, endOfUse(b)).toFixed(2))) : []
    }),
  packs: (plan, choice) => (choice === 'parallel' ? secondPack(plan) : []),
  loadsFrom: (plan, choice) => {
    if (choice !== 'battery') return []
    const study = new Study(solveCorners(plan))
    return partsOf(plan.parts, 'controller').flatMap(c => offLoadTerminal(study, c.id)[0]?.patch ?? [])
  },
  termination: (plan, choice) =>
    plan.leads.flatMap(lead =>
      (['from', 'to'] as const).flatMap((end): Patch => {
        const method = lead.ends?.[end]?.method
        const isCrimped = method === 'crimp' || method === 'crimp+solder'
        return isCrimped && method !== choice ? setField(plan, lead.id, `ends.${end}.method`, choice) : []
      }),
    ),
  conductorFor: (plan, choice) => (choice === 'source' ? thickAtBattery(plan) : []),
}

/** A regulator before every radio that has none. */
function regulators(plan: Plan): Patch {
  return inTurn(plan, ...partsOf(plan.parts, 'radio').map(radio => (now: Plan) => regulatorFor(now, radio)))
}

function regulatorFor(plan: Plan, radio: Part): Patch {
  const lead = plan.leads.find(l => l.from === radio.id || l.to === radio.id)
  if (!lead) return []
  const end = lead.to === radio.id ? 'to' : 'from'
  const fedBy = partById(plan, partIdOf(lead[end === 'to' ? 'from' : 'to']))
  if (asKind(fedBy, 'converter')) return []
  const activeA = new Study(solveCorners(plan)).partAmps(radio).value
  return addRegulator(plan, { lead, end, load: radio, activeA, passes: () => true })?.patch ?? []
}

/** Volts that a station's regulators hold: others are converters of another use. */
const HELD_V = [13, 14.5] as const

/** Takes every regulator out: the lead that led to it leads on to what hung behind it. */
function withoutRegulators(plan: Plan): Patch {
  const holds = (c: PartOf<'converter'>) => !c.charges && c.outV >= HELD_V[0] && c.outV <= HELD_V[1]
  const gone = partsOf(plan.parts, 'converter').filter(holds)
  return inTurn(plan, ...gone.map(c => (now: Plan) => heal(now, c.id, `${c.id}.in`, `${c.id}.out`) ?? []))
}

/** A second battery like the first, on the same stud, over a lead and a fuse like its own. */
function secondPack(plan: Plan): Patch {
  const packs = partsOf(plan.parts, 'battery')
  const [battery] = packs
  const own = battery && plan.leads.find(l => partIdOf(l.from) === battery.id)
  if (packs.length !== 1 || !battery?.terminal?.startsWith('ring-m') || !own) return []
  const { members: _members, id: _id, ...like } = battery
  const second = identified(plan, { ...like, name: `${nameOf(battery)}, second` }, battery.id)
  const main = (own.inline ?? []).find(i => i.kind === 'fuse')
  const fuse = { kind: 'fuse', type: main?.type ?? 'strip', ratedA: main?.ratedA ?? 50, legs: 'positive' } as const
  const end = { connector: battery.terminal, method: 'crimp' as const }
  const lead: Lead = {
    id: freeId(plan, 'l'),
    name: 'lead between the packs',
    from: battery.id,
    to: second.id,
    lengthM: 0.4,
    conductor: own.conductor,
    ends: { from: end, to: end },
    inline: [
      { id: 'f1', ...fuse, atM: 0.12 },
      { id: 'f2', ...fuse, atM: 0.28 },
    ],
  }
  return [...appendPart(second), ...appendLead(lead)]
}

/** Leads that leave a battery carry what it can give for long. */
function thickAtBattery(plan: Plan): Patch {
  const study = new Study(solveCorners(plan))
  return study.unprotected.flatMap(({ source, lead }) => {
    const battery = asKind(source, 'battery')
    const givesA = battery ? batteryLimit(battery, 'continuousA') : undefined
    if (givesA === undefined || study.ampacity(lead) >= givesA) return []
    const carries = (c: Lead['conductor']) =>
      ampacityA(c, study.site.ampacity, study.ambient(lead).high, lead.bundledConductors) >= givesA
    return thickenTo(plan, lead, carries)?.patch ?? []
  })
}
