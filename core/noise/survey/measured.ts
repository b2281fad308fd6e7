import { freshId } from '../logbook'
import type { Survey, SurveyRow } from './survey'
import { fixed } from '../../units/number'

/** What on against off gave of one device on one band, all else being off. */
export interface MeasuredCell {
  device: string
  column: string
  onDbm: number
  offDbm: number
  at: string
}

/** A survey with two levels measured: in the first empty cells of their states, else as readings made again. */
export function withMeasured(survey: Survey, { device, column, onDbm, offDbm, at }: MeasuredCell): Survey {
  const on = filled(survey, { [device]: { state: 'working' } }, { column, dbm: onDbm, at })
  return filled(on, {}, { column, dbm: offDbm, at })
}

function filled(
  survey: Survey,
  devices: SurveyRow['devices'],
  { column, dbm, at }: { column: string; dbm: number; at: string },
): Survey {
  const reading = `${fixed(dbm, 1)} dBm`
  const key = JSON.stringify(devices)
  const isThis = (r: SurveyRow) => JSON.stringify(r.devices) === key && r.antenna === 'antenna' && r.feed === 'shared'
  const same = survey.rows.filter(isThis)
  const empty = same.find(r => !survey.readings[r.id]?.[column])
  const row: SurveyRow = empty ?? {
    id: freshId('r', survey.rows),
    ...(same[0]?.name && { name: same[0].name }),
    devices,
    antenna: 'antenna',
    feed: 'shared',
    at,
  }
  return {
    ...survey,
    rows: empty ? survey.rows : [...survey.rows, row],
    readings: { ...survey.readings, [row.id]: { ...survey.readings[row.id], [column]: reading } },
  }
}
