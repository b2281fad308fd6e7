import { SCHOOLS, school, type SchoolId } from '../catalog/schools'
import { offLoadTerminal } from '../checks/charging'
import { Study } from '../checks/study'
import { solveCorners } from '../circuit/matrix'
import { ampacityA } from '../conductor/ampacity'
import { restedVolts, endOfUse } from '../battery/emf'
import { addRegulator } from '../fixes/converter'
import { thickenTo } from '../fixes/conductor'
import { batteryLimit } from '../kinds/battery'
import { tryPatch, type Patch } from '../plan/edit'
import { freeId, partIdOf, pathOf } from '../plan/find'
import { schoolOf, type Lead, type Plan } from '../plan/schema'

/** A choice of a school as a patch: the plan says it, and where the choice is a thing to build, the plan is built so. */
export interface Choice {
  patch: Patch
  does: string
}

const OWN_FIELDS = new Set<string>(['ampacity', 'fuseDistance'])

function say(plan: Plan, id: SchoolId, choice: string): Patch {
  const site: Patch = plan.site ? [] : [{ op: 'add', path: '/site', value: {} }]
  if (OWN_FIELDS.has(id)) return [...site, { op: 'add', path: `/site/${id}`, value: choice }]
  const schools: Patch = plan.site?.schools ? [] : [{ op: 'add', path: '/site/schools', value: {} }]
  return [...site, ...schools, { op: 'add', path: `/site/schools/${id}`, value: choice }]
}

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
    new Study(solveCorners(plan)).unprotected.flatMap((run): Patch => {
      const index = run.lead.inline?.findIndex(i => i.id === run.device?.itemId) ?? -1
      return index < 0
        ? []
        : [
            {
              op: 'add',
              path: `${pathOf(plan, run.lead.id)}/inline/${index}/legs`,
              value: choice === 'both' ? 'both' : 'positive',
            },
          ]
    }),
  hold: (plan, choice) => (choice === 'held' ? regulators(plan) : withoutRegulators(plan)),
  charging: (plan, choice) =>
    plan.parts.flatMap((p, i): Patch =>
      p.kind === 'battery'
        ? [{ op: 'add', path: `/parts/${i}/charged`, value: choice === 'apart' ? 'elsewhere' : 'in-place' }]
        : [],
    ),
  end: (plan, choice) =>
    plan.parts.flatMap((p, i): Patch =>
      p.kind !== 'battery'
        ? []
        : choice === 'stop-voltage'
          ? p.stopV === undefined
            ? [{ op: 'add', path: `/parts/${i}/stopV`, value: Number(restedVolts(p, endOfUse(p)).toFixed(2)) }]
            : []
          : p.stopV === undefined
            ? []
            : [{ op: 'remove', path: `/parts/${i}/stopV` }],
    ),
  packs: (plan, choice) => (choice === 'parallel' ? secondPack(plan) : []),
  loadsFrom: (plan, choice) => {
    if (choice !== 'battery') return []
    const study = new Study(solveCorners(plan))
    return plan.parts.flatMap(p => (p.kind === 'controller' ? (offLoadTerminal(study, p.id)[0]?.patch ?? []) : []))
  },
  termination: (plan, choice) =>
    plan.leads.flatMap((lead, i) =>
      (['from', 'to'] as const).flatMap((end): Patch => {
        const method = lead.ends?.[end]?.method
        return (method === 'crimp' || method === 'crimp+solder') && method !== choice
          ? [{ op: 'replace', path: `/leads/${i}/ends/${end}/method`, value: choice }]
          : []
      }),
    ),
  conductorFor: (plan, choice) => (choice === 'source' ? thickAtBattery(plan) : []),
}

/** A regulator before every radio that has none. */
function regulators(plan: Plan): Patch {
  const patch: Patch = []
  let now = plan
  for (const radio of plan.parts) {
    if (radio.kind !== 'radio') continue
    const lead = now.leads.find(l => l.from === radio.id || l.to === radio.id)
    const far = lead && now.parts.find(p => p.id === partIdOf(lead.from === radio.id ? lead.to : lead.from))
    const study = new Study(solveCorners(now))
    const proposal =
      lead && far?.kind !== 'converter'
        ? addRegulator(now, lead, lead.to === radio.id ? 'to' : 'from', radio, study.partAmps(radio).value, () => true)
        : null
    const next = proposal && tryPatch(now, proposal.patch)
    if (!proposal || !next) continue
    patch.push(...proposal.patch)
    now = next
  }
  return patch
}

/** Takes every regulator out: the lead that led to it leads on to what hung behind it. */
function withoutRegulators(plan: Plan): Patch {
  const patch: Patch = []
  const goneLeads: number[] = []
  const goneParts: number[] = []
  plan.parts.forEach((part, i) => {
    if (part.kind !== 'converter' || part.charges || part.outV < 13 || part.outV > 14.5) return
    const before = plan.leads.find(l => l.to === `${part.id}.in` || l.from === `${part.id}.in`)
    const after = plan.leads.filter(l => l.from === `${part.id}.out` || l.to === `${part.id}.out`)
    if (!before || after.length !== 1) return
    const end = before.to === `${part.id}.in` ? 'to' : 'from'
    const farEnd = after[0]!.from === `${part.id}.out` ? 'to' : 'from'
    const path = pathOf(plan, before.id)
    patch.push({ op: 'replace', path: `${path}/${end}`, value: after[0]![farEnd] })
    const fitted = after[0]!.ends?.[farEnd]
    if (fitted && before.ends) patch.push({ op: 'add', path: `${path}/ends/${end}`, value: fitted })
    goneLeads.push(plan.leads.indexOf(after[0]!))
    goneParts.push(i)
  })
  return [
    ...patch,
    ...goneLeads.sort((a, b) => b - a).map(i => ({ op: 'remove' as const, path: `/leads/${i}` })),
    ...goneParts.sort((a, b) => b - a).map(i => ({ op: 'remove' as const, path: `/parts/${i}` })),
  ]
}

/** A second battery like the first, on the same stud, over a lead and a fuse like its own. */
function secondPack(plan: Plan): Patch {
  const packs = plan.parts.filter(p => p.kind === 'battery')
  const [battery] = packs
  if (packs.length !== 1 || battery?.kind !== 'battery' || !battery.terminal?.startsWith('ring-m')) return []
  const own = plan.leads.find(l => partIdOf(l.from) === battery.id)
  if (!own) return []
  const id = freeId(plan, battery.id)
  const main = own.inline?.find(i => i.kind === 'fuse')
  const fuse = {
    id: 'f1',
    kind: 'fuse',
    type: main?.kind === 'fuse' ? (main.type ?? 'blade') : 'strip',
    ratedA: main?.kind === 'fuse' ? main.ratedA : 50,
    legs: 'positive',
  }
  const ends = { connector: battery.terminal, method: 'crimp' as const }
  const lead: Lead = {
    id: freeId(plan, 'l'),
    name: 'lead between the packs',
    from: battery.id,
    to: id,
    lengthM: 0.4,
    conductor: own.conductor,
    ends: { from: ends, to: ends },
    inline: [{ ...fuse, atM: 0.12 } as never, { ...fuse, id: 'f2', atM: 0.28 } as never],
  }
  const { members: _members, ...like } = battery
  return [
    { op: 'add', path: '/parts/-', value: { ...like, id, name: `${battery.name ?? battery.id}, second` } },
    { op: 'add', path: '/leads/-', value: lead },
  ]
}

/** Leads that leave a battery carry what it can give for long. */
function thickAtBattery(plan: Plan): Patch {
  const study = new Study(solveCorners(plan))
  return study.unprotected.flatMap(run => {
    const gives = run.source.kind === 'battery' ? batteryLimit(run.source, 'continuousA') : undefined
    if (gives === undefined || study.ampacity(run.lead) >= gives) return []
    return (
      thickenTo(
        plan,
        run.lead,
        c => ampacityA(c, study.site.ampacity, study.ambient(run.lead).high, run.lead.bundledConductors) >= gives,
      )?.patch ?? []
    )
  })
}
