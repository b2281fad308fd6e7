import { inVariant } from '../edit/variants'
import { regulators } from '../fixes/regulators'
import { tryPatch } from '../edit/patch'
import { isLoad, kindOf, type Part } from '../kinds/index'
import { nameOf } from '../plan/find'
import type { Plan } from '../plan/schema'
import { asGiven, figure } from '../units/number'
import { EventCourse } from './course'
import type { HoursEvent } from './event'
import { sagOf, SELDOM_NOTICED_DB, type Sag } from './sag'
import { sizableStore, withPart } from './sets'
import { courseWords } from './tell'
import { packFigures } from './worth'

/** One thing changed, and how the event goes then. */
export interface WhatIf {
  id: string
  label: string
  /** What it changes: the plan, or the event; neither is the station as it is planned. */
  plan?: Plan
  event?: HoursEvent
  /** It is another way of the station: it is looked at, not put in. */
  way?: string
}

/** How the event goes with it. */
export interface WhatIfAnswer extends WhatIf {
  words: string
  /** Hours on the air; the event's own where nothing fails. */
  lastsH: number
  holds: boolean
  lossWh: number
  /** What packs and panels weigh more, g; null where a way of the station is other in more than those. */
  moreG: number | null
  sag: Sag[]
}

const PACK_FACTORS = [0.5, 1.5, 2]

/** What one would try: a pack of another size, more sun, less power, held volts, the station's other ways. */
export function whatIfs(plan: Plan, event: HoursEvent, whole: Plan = plan): WhatIf[] {
  const course = new EventCourse(plan, event)
  return [
    { id: 'as planned', label: 'As planned' },
    ...otherPacks(plan, course),
    ...morePanels(plan, course),
    ...lessPower(plan, event),
    ...heldVolts(plan),
    ...(whole.variants ?? []).flatMap((v): WhatIf[] => {
      const way = inVariant(whole, v.id)
      return JSON.stringify(way.parts) === JSON.stringify(plan.parts) && way.leads === plan.leads
        ? []
        : [{ id: `way ${v.id}`, label: `The way “${v.name}”`, plan: way, way: v.id }]
    }),
  ]
}

function otherPacks(plan: Plan, { stores }: EventCourse): WhatIf[] {
  const store = sizableStore(stores)
  if (!store) return []
  return PACK_FACTORS.map(factor => ({
    id: `pack ${factor}`,
    label: `${nameOf(store.part)} of ${figure(store.capacity * factor)} ${store.unit}`,
    plan: withPart(plan, kindOf(store.part).sized!(store.part, factor)),
  }))
}

function morePanels(plan: Plan, { sunInputs, event }: EventCourse): WhatIf[] {
  const ids = new Set(sunInputs.flatMap(i => i.panels.map(p => p.panel.id)))
  if (!ids.size || !event.place) return []
  const panels = plan.parts.filter(p => ids.has(p.id))
  const double = (p: Part) => (ids.has(p.id) ? kindOf(p).sized!(p, 2) : p)
  const label = panels.length > 1 ? 'All panels twice as large' : `${nameOf(panels[0]!)} twice as large`
  return [{ id: 'panels 2', label, plan: { ...plan, parts: plan.parts.map(double) as Plan['parts'] } }]
}

/** Every radio at its next lower level. */
function lessPower(plan: Plan, event: HoursEvent): WhatIf[] {
  return plan.parts.filter(isLoad).flatMap((part): WhatIf[] => {
    const used = (event.activities ?? []).filter(a => a.part === part.id)
    const own = (part as { powerW?: number }).powerW
    const mostW = Math.max(0, ...used.map(a => a.powerW ?? own ?? 0))
    const lower = (kindOf(part).levels?.(part) ?? []).map(l => l.powerW).filter(w => w < mostW)
    if (!lower.length) return []
    const powerW = Math.max(...lower)
    const activities = event.activities!.map(a =>
      a.part === part.id && (a.powerW ?? own ?? 0) > powerW ? { ...a, powerW } : a,
    )
    const label = `${nameOf(part)} at ${asGiven(powerW)} W`
    return [{ id: `power ${part.id}`, label, event: { ...event, activities } }]
  })
}

function heldVolts(plan: Plan): WhatIf[] {
  const held = tryPatch(plan, regulators(plan))
  if (!held || held.parts.length === plan.parts.length) return []
  return [{ id: 'held', label: 'Radios held at 13.8 V by converters', plan: held }]
}

/** How it goes with each. @param tell the share done */
export function answersTo(
  plan: Plan,
  event: HoursEvent,
  tries: readonly WhatIf[],
  tell: (share: number) => void = () => {},
): WhatIfAnswer[] {
  const weight = weightOf(plan, event)
  return tries.map((asked, i) => {
    tell(i / tries.length)
    const [itsPlan, itsEvent] = [asked.plan ?? plan, asked.event ?? event]
    const course = new EventCourse(itsPlan, itsEvent)
    const result = course.run()
    return {
      ...asked,
      words: courseWords(itsPlan, itsEvent, result, null),
      lastsH: result.ends?.atH ?? itsEvent.hours,
      holds: result.ends === null,
      lossWh: result.energy.lossWh,
      moreG: asked.way === undefined ? weightOf(itsPlan, itsEvent) - weight : null,
      sag: sagOf(itsPlan, result),
    }
  })
}

/** Packs, panels and what stands between, g: what says its mass, and packs by their class. */
function weightOf(plan: Plan, event: HoursEvent): number {
  const { stores } = new EventCourse(plan, event)
  const packs = stores.reduce((sum, s) => sum + packFigures(s).massG, 0)
  const others = plan.parts.filter(p => !stores.some(s => s.part.id === p.id))
  return packs + others.reduce((sum, p) => sum + (p.massG ?? 0), 0)
}

/** What holding the volts gives, and takes: in plain words. Null where it was not tried. */
export function heldWords(plan: Plan, answers: readonly WhatIfAnswer[]): string | null {
  const [direct, held] = ['as planned', 'held'].map(id => answers.find(a => a.id === id))
  if (!direct || !held) return null
  const gains = direct.sag.map(s => ({
    name: nameOf(plan.parts.find(p => p.id === s.part)!),
    db: -s.db + (held.sag.find(h => h.part === s.part)?.db ?? 0),
  }))
  const most = gains.reduce((a, b) => (b.db > a.db ? b : a), { name: '', db: 0 })
  const more = held.lossWh - direct.lossWh
  const hours = direct.lastsH - held.lastsH
  const costs = [
    more > 0.5 ? `${Math.round(more)} Wh more are lost` : '',
    hours > 0.05 ? `it is on the air ${figure(hours, 1)} h less` : '',
    held.moreG! > 0 ? `it weighs ${Math.round(held.moreG!)} g more` : '',
  ].filter(Boolean)
  const price = costs.length ? `: ${costs.join(', ')}, and it is one more source of noise` : ''
  const gain =
    most.db < 0.05
      ? 'Holding 13.8 V gives no transmit power'
      : `Holding 13.8 V gives ${most.name} up to ${figure(most.db, 1)} dB more`
  return `${gain}${price}. ${most.db < SELDOM_NOTICED_DB ? 'Seldom worth it.' : 'It is heard.'}`
}
