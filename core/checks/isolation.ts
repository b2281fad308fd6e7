import { setItem } from '../edit/items'
import { setField as editField } from '../edit/set'
import { leadById, leadName, partById } from '../plan/find'
import { capital, someOf } from '../units/words'
import type { Check, Found } from './check'
import type { Study } from '../study/study'
import { asGiven } from '../units/number'

/** What is still live when something is opened, and what keeps voltages apart. */

function deadWords(dead: readonly string[]): string {
  if (!dead.length) return 'every terminal is still live'
  return `only ${someOf(dead)} ${dead.length > 1 ? 'are' : 'is'} dead`
}

const LIVE_LABEL = 'live on both sides when off'

export const stillLive: Check = {
  id: 'still-live',
  severities: ['note'],
  looksAt: 'every breaker, open',
  title: 'Live on both sides when it is off',
  why:
    'With a source on each side, opening a breaker takes the voltage from neither: work behind it is work on a ' +
    'live lead. A label says so to whoever comes next.',
  source: "the plan's topology",
  find: study =>
    study.shorts.isolation
      .filter(i => i.kind === 'breaker' && i.bothSidesLive && !noteOf(study, i).includes(LIVE_LABEL))
      .map((i): Found => ({
        severity: 'note',
        place: i.place,
        ...(i.item !== null && { also: [i.item] }),
        condition: null,
        title: `${i.words[0]!.toUpperCase()}${i.words.slice(1)} off leaves both sides live`,
        message: `With the ${i.words} open, ${deadWords(i.dead)}: there is a source on each side of it.`,
        numbers: { live: i.live.length, dead: i.dead.length },
      })),
  fixes: (found, study) => [
    {
      label: `Label it: ${LIVE_LABEL}`,
      patch: found.also
        ? setItem(study.plan, found.place, found.also[0]!, { note: LIVE_LABEL })
        : editField(study.plan, found.place, 'note', LIVE_LABEL),
    },
  ],
}

function noteOf(study: Study, { place, item }: { place: string; item: string | null }): string {
  return (
    (item === null
      ? partById(study.plan, place)?.note
      : leadById(study.plan, place)?.inline?.find(i => i.id === item)?.note) ?? ''
  )
}

export const zoneInsulation: Check = {
  id: 'insulation-heat',
  severities: ['caution'],
  looksAt: 'the hottest ambient where each lead lies',
  title: 'Insulation too cool for where the lead lies',
  why:
    'In an engine space or under a roof the air alone nearly reaches what cheap insulation stands; little is left ' +
    'for the current, and heat ages it.',
  source: 'ABYC E-11: 105 °C insulation in engine spaces',
  find: study =>
    study.plan.leads.flatMap((lead): Found[] => {
      const { insulationC } = lead.conductor
      const hotC = study.ambient(lead).high
      if (insulationC === undefined || insulationC - hotC >= 15) return []
      return [
        {
          severity: 'caution',
          place: lead.id,
          condition: null,
          title: `${asGiven(insulationC)} °C insulation at ${asGiven(hotC)} °C`,
          message:
            `${capital(leadName(lead))} has ${asGiven(insulationC)} °C insulation ` +
            `and lies where it gets ${asGiven(hotC)} °C.`,
          numbers: { insulationC, hotC },
        },
      ]
    }),
  fixes: (found, study) => [
    {
      label: 'A conductor with 105 °C insulation',
      patch: editField(study.plan, found.place, 'conductor.insulationC', 105),
    },
  ],
}
