import { connector } from '../catalog/connectors'
import { addBusbar } from '../fixes/joints'
import { moveToFreePort } from '../fixes/parts'
import type { Proposal } from '../fixes/proposal'
import { leadById } from '../plan/find'
import type { Study } from '../study/study'
import type { Check, Found } from './check'
import { terminalName } from '../plan/names'
import { someOf } from '../units/words'

export const matedTwice: Check = {
  id: 'connector-crowded',
  severities: ['fail'],
  looksAt: 'all',
  title: 'More on a connector than it takes',
  why:
    'Every connector takes one mate; a stud takes up to four lugs, the largest lowest. Two conductors in one ' +
    'contact hold neither, and loads that share a contact add up in it.',
  source: 'connector families of the catalogue',
  find: study =>
    [...study.solved.network.terminals.values()].flatMap((terminal): Found[] => {
      const leads = study.leadsAt(terminal.id)
      if (!terminal.connector || leads.length <= connector(terminal.connector).mates) return []
      const { mates, label } = connector(terminal.connector)
      const name = terminalName(study.plan, terminal.id)
      const times = leads.length === 2 ? 'twice' : `${leads.length} times`
      return [
        {
          severity: 'fail',
          place: terminal.id,
          also: leads.map(l => l.id),
          condition: null,
          title: `${name} is mated ${times}`,
          message:
            `${leads.length} leads (${someOf(leads.map(study.name))}) land on ${name}, a ${label} that ` +
            `takes ${mates === 1 ? 'one' : mates}.`,
          numbers: { leads: leads.length, takes: mates },
        },
      ]
    }),
  fixes: (found, study) => {
    const lead = leadById(study.plan, found.also![found.also!.length - 1]!)!
    const moved = moveToFreePort(study.plan, lead, lead.from === found.place ? 'from' : 'to')
    return [moved, ontoBusbar(found, study)].filter(p => p !== null)
  },
}

/** The leads that carry least, moved onto a busbar so that the terminal keeps what it takes. */
function ontoBusbar(found: Found, study: Study): Proposal | null {
  const { takes } = found.numbers
  const leads = study.leadsAt(found.place).map(lead => ({ lead, amps: study.leadAmps(lead).value }))
  const moved = leads.sort((a, b) => a.amps - b.amps).slice(0, leads.length - takes! + 1)
  return addBusbar(study.plan, {
    terminal: found.place,
    terminalConnector: study.solved.network.terminals.get(found.place)!.connector!,
    moved,
    largestFuseA: conductor => study.largestFuse({ ...moved[0]!.lead, conductor }),
  })
}
