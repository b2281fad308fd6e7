import { fuseEachConnection } from '../checks/fuseLegs'
import { ampacityA } from '../conductor/ampacity'
import { setItem } from '../edit/items'
import { tryPatch, type Patch } from '../edit/patch'
import { thickenTo } from '../fixes/conductor'
import { batteryLimit } from '../kinds/batteryLimits'
import { asKind } from '../kinds/index'
import type { Lead, Plan } from '../plan/schema'
import { studyOf } from '../study/study'
import type { SchoolRule } from './rule'

/** The first fuses after the sources, each in its lead. */
const atSources = (plan: Plan) =>
  studyOf(plan).unprotected.flatMap(({ lead, device }) => {
    const item = device?.place === lead.id ? lead.inline?.find(i => i.id === device.item) : undefined
    return item?.kind === 'fuse' ? [{ lead, item }] : []
  })

export const fuseLegs: SchoolRule = {
  shown: plan => {
    const fuses = atSources(plan)
    if (!fuses.length) return ['positive', 'both']
    return fuses.some(f => f.item.legs === 'both') ? ['both'] : ['positive']
  },
  build: (plan, choice) => {
    const legs = choice === 'both' ? 'both' : 'positive'
    return tryPatch(
      plan,
      atSources(plan).flatMap(({ lead, item }): Patch => setItem(plan, lead.id, item.id, { legs })),
    )
  },
  does: 'the fuses at the sources are set so',
}

export const fusePlacing: SchoolRule = {
  // Where no wire is thinner than the fuse before it allows, both sides are built.
  shown: plan => {
    const said = { ...plan.site?.schools, fusePlacing: 'each-connection' }
    const strict = { ...plan, site: { ...plan.site, schools: said } } as Plan
    return fuseEachConnection.find(studyOf(strict)).length ? ['one'] : ['one', 'each-connection']
  },
}

export const conductorFor: SchoolRule = {
  shown: plan => {
    const thin = thinAtBattery(plan)
    if (thin === null) return ['load', 'source']
    return thin.length ? ['load'] : ['source', 'load']
  },
  build: (plan, choice) => {
    if (choice !== 'source') return plan
    return thinAtBattery(plan)?.length ? tryPatch(plan, thickened(plan)) : plan
  },
  does: 'conductors at the battery are made thicker',
}

/** Leads that leave a battery and carry less than it can give for long; null where no battery says what that is. */
function thinAtBattery(plan: Plan): { lead: Lead; givesA: number }[] | null {
  const study = studyOf(plan)
  const known = study.unprotected.flatMap(({ source, lead }) => {
    const battery = asKind(source, 'battery')
    const givesA = battery ? batteryLimit(battery, 'continuousA') : undefined
    return givesA === undefined ? [] : [{ lead, givesA }]
  })
  return known.length ? known.filter(k => study.ampacity(k.lead) < k.givesA) : null
}

function thickened(plan: Plan): Patch {
  const study = studyOf(plan)
  return (thinAtBattery(plan) ?? []).flatMap(({ lead, givesA }) => {
    const carries = (c: Lead['conductor']) =>
      ampacityA(c, study.site.ampacity, study.ambient(lead).high, lead.bundledConductors) >= givesA
    return thickenTo(plan, lead, carries)?.patch ?? []
  })
}
