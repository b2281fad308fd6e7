import { basename } from 'node:path'
import { surveyFromCsv } from '../../core/formats/surveyCsv'
import { SITE_CLASSES, type SiteClass } from '../../core/catalog/noise'
import { emptyLogbook, type Logbook, type NoiseCase } from '../../core/noise/logbook'
import { caseReport } from '../../core/noise/report'
import { isOff, rowWords, type Survey } from '../../core/noise/survey/survey'
import { deviceNoise, surveyResults, type DeviceNoise } from '../../core/noise/survey/surveyResults'
import { suspectsOf, type Suspect } from '../../core/noise/suspect'
import { out, printJson, refuse, type Call, type Command } from '../command'
import { fileOf, planNamed, readBytes } from '../inputs'
import { asJson, NO_PLAN } from './case'
import { asGiven, fixed } from '../../core/units/number'

export const survey: Command = {
  name: 'survey',
  takes: 'SURVEY.csv',
  options: { plan: { value: 'PLAN.json' }, site: { value: 'CLASS', oneOf: SITE_CLASSES.map(s => s.id) }, json: {} },
  help: `What a survey of noise levels says: what each state costs on each band and what it adds, which devices are
heard, and the floor against what is normal for the place (unsaid: rural).`,
  run(call) {
    const read = readSurvey(call)
    const site = SITE_CLASSES.find(s => s.id === call.value('site'))?.id ?? 'rural'
    const plan = call.value('plan')
    const devices = plan === undefined ? [] : suspectsOf(planNamed(call, plan))
    const { cells, floors } = surveyResults(read, site)
    const heard = deviceNoise(read, site)
    const named = heard.filter(d => d.bands.length)
    if (call.json) {
      const says = named.length ? whatItSays(call, read, site, named) : NOTHING
      printJson({ ...says, devices: heard, named: named.map(d => d.device), cells, floors })
    } else print(read, devices, { cells, floors, heard })
    return 0
  },
}

const NOTHING = { causes: [], next: [], contradictions: [], doubts: [] }

/** What a survey says of the cause, as a case on the bands where something is heard would. */
function whatItSays(call: Call, survey: Survey, site: SiteClass, named: readonly DeviceNoise[]) {
  const plan = call.value('plan')
  const bands = [...new Set(named.flatMap(d => d.bands))]
  const book: Logbook = { ...emptyLogbook(), site, surveys: [survey] }
  const one: NoiseCase = {
    id: 'survey',
    title: survey.name,
    openedAt: '',
    complaint: { bands },
    // Without a plan its devices are named by their rows.
    observations: [],
    cures: [],
    state: 'open',
  }
  return asJson(caseReport(plan === undefined ? NO_PLAN : planNamed(call, plan), one, book))
}

function readSurvey(call: Call): Survey {
  const path = fileOf(call)
  const text = readBytes(path, 'a survey as CSV').toString('utf8')
  const read = surveyFromCsv(text, 's1', basename(path))
  return read.ok ? read.survey : refuse(`${path}, line ${read.line}`, read.wrong, read.right)
}

type Results = ReturnType<typeof surveyResults> & { heard: ReturnType<typeof deviceNoise> }

function print(survey: Survey, devices: readonly Suspect[], { cells, floors, heard }: Results) {
  const VERDICT = {
    quieter: 'quieter than is normal',
    normal: 'normal',
    more: 'more than is normal',
    end: 'under the meter',
  }
  for (const f of floors) out(`${f.column}: ${fixed(f.dbm, 0)} dBm with everything off, ${VERDICT[f.verdict]} for here`)
  for (const row of survey.rows.filter(r => !isOff(r))) {
    const mine = cells.filter(c => c.row === row.id)
    const costs = mine.map(
      c => `${c.column} ${c.costDb >= 0 ? '+' : '−'}${fixed(Math.abs(c.costDb), 0)} dB${c.isSure ? '' : ' (chance)'}`,
    )
    out(`${rowWords(row, devices)}: ${costs.join(', ') || 'nothing to compare it with'}`)
  }
  for (const d of heard) {
    const name = devices.find(x => x.id === d.device)?.name ?? d.device
    const quiet = d.quietUpToA === undefined ? '' : `, quiet up to ${asGiven(d.quietUpToA)} A`
    out(`${name}: ${d.bands.length ? `heard on ${d.bands.join(', ')}` : 'not heard'}${quiet}`)
  }
}
