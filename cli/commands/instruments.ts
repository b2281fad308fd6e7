import { conditionsOf } from '../../core/circuit/conditions'
import { SimulatedInstruments } from '../../core/instruments/simulated'
import { out, refuse, type Command } from '../command'
import { readPlan, readFigure } from '../inputs'

const USUAL_SECONDS = 5
const MOST_SECONDS = 3600

export const instruments: Command = {
  name: 'instruments',
  takes: 'PLAN.json',
  options: { hide: { value: 'SEED' }, states: { value: 'STATE,…' }, seconds: { value: 'N' } },
  help: `What simulated instruments on a station say, in the lines of docs/instruments.md: a recording, as the command
readings and the page take it. --states full/idle,full/only:hf: what is on, one after the other, --seconds in each
(${USUAL_SECONDS}). --hide SEED hides a fault in the station. Exit 2: it cannot be read.`,
  run(call) {
    const plan = readPlan(call)
    const figure = (name: string, usual: number) => (call.value(name) === undefined ? usual : readFigure(call, name))
    const hide = call.value('hide') === undefined ? null : readFigure(call, 'hide')
    const simulated = new SimulatedInstruments(plan, { hide })
    const states = call.value('states')?.split(',') ?? [conditionsOf(plan)[0]?.id ?? '']
    const seconds = Math.min(MOST_SECONDS, figure('seconds', USUAL_SECONDS))
    const began = Date.now()
    const lines = simulated.greeting()
    for (const [n, state] of states.entries()) {
      const answer = simulated.command(`state ${state}`)
      if (answer[0]!.startsWith('error')) return refuse('--states', answer[0]!.slice(6), 'a state of the plan')
      lines.push(...answer)
      for (let s = 0; s < seconds; s++) {
        const time = new Date(began + 1000 * (n * seconds + s)).toISOString().replace(/\.\d+Z$/, 'Z')
        lines.push(...simulated.tick(time))
      }
    }
    out(lines.join('\n'))
    return 0
  },
}
