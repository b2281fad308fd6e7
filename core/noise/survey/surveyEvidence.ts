import type { z } from 'zod'
import type { SiteClass } from '../../catalog/noise'
import type { Patch } from '../../edit/patch'
import { setField } from '../../edit/set'
import { kindOf, type Part } from '../../kinds/index'
import { partById } from '../../plan/find'
import type { Plan } from '../../plan/schema'
import type { Receiver } from '../level'
import type { Observation } from '../observation'
import type { Heard } from '../setup'
import { isOff, type Survey } from './survey'
import { outcomeOf, surveyResults, type DeviceNoise } from './surveyResults'
import type { Suspect } from '../suspect'

/** What a survey is good for: evidence in a case, and what is known of each device in the plan. */

/**
 * What a survey says of the cause of a complaint: one finding a row in which one device alone was on, and one of the
 * rows in which
 * nothing was: quiet there and loud elsewhere, it is the station's own; loud there already, it comes from outside.
 */
export function surveyObservations(
  survey: Survey,
  bands: readonly string[],
  devices: readonly Suspect[],
  { site, receiver = {} }: { site: SiteClass; receiver?: Receiver },
): Observation[] {
  const { cells, floors } = surveyResults(survey, site, receiver)
  const here = cells.filter(c => bands.includes(c.column))
  return survey.rows.flatMap((row): Observation[] => {
    const mine = here.filter(c => c.row === row.id)
    const on = Object.entries(row.devices).filter(([, s]) => s?.state !== 'off')
    const say = (heard: Heard | 'not-sure', heardOn: string[]): Observation[] => [
      {
        kind: 'listen',
        id: `${survey.id}-${row.id}`.slice(0, 40),
        at: row.at ?? '',
        ...(row.who && { who: row.who }),
        ...(row.allowedBy && { allowedBy: row.allowedBy }),
        bands: heardOn,
        heard,
        note: `from the survey ${survey.name}`,
        setup: {
          devices: {
            ...Object.fromEntries(
              devices.filter(d => !(d.id in row.devices)).map(d => [d.id, { state: 'off' as const }]),
            ),
            ...row.devices,
          },
          ...(row.antenna === 'dummy' && { antenna: 'dummy' as const }),
          ...(row.feed === 'own-battery' && { feed: 'own-battery' as const }),
        },
      },
    ]
    if (isOff(row)) {
      if (row.antenna === 'dummy') return []
      const lifted = [...new Set(here.filter(c => c.isSure).map(c => c.column))]
      if (lifted.length) return say('gone', lifted)
      const loud = floors.filter(f => bands.includes(f.column) && f.verdict === 'more').map(f => f.column)
      return loud.length ? say('same', loud) : []
    }
    if (!mine.length || on.length !== 1) return []
    return say(
      outcomeOf(mine),
      mine.map(c => c.column),
    )
  })
}

/**
 * What was found of a device, as a change of the plan; null where its kind keeps no such note, or it stands there
 * already.
 */
export function noiseIntoPlan(plan: Plan, found: DeviceNoise): Patch | null {
  const part = partById(plan, found.device)
  if (!part || !keepsNoise(part)) return null
  const before = 'noise' in part ? part.noise : undefined
  // An earlier test that was quiet at a higher current still holds, as long as nothing was heard below it.
  const earlierA =
    before?.quietUpToA !== undefined && before.quietUpToA < (found.heardFromA ?? Infinity)
      ? before.quietUpToA
      : undefined
  const { quietUpToA: _old, ...kept } = before ?? {}
  const quietUpToA = Math.max(found.quietUpToA ?? -1, earlierA ?? -1)
  const noise = { ...(quietUpToA >= 0 && { quietUpToA }), bands: found.bands, ...(kept.note && { note: kept.note }) }
  return JSON.stringify(noise) === JSON.stringify(before) ? null : setField(plan, part.id, 'noise', noise)
}

/** Whether the schema of its kind has a place for what is known of its noise. */
const keepsNoise = (part: Part) => 'noise' in (kindOf(part).schema as unknown as z.ZodObject).shape
