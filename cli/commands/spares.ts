import { singleFailures, sparesOf } from '../../core/commission/spares'
import { nameOf, partById } from '../../core/plan/find'
import { listed } from '../../core/units/words'
import { percent } from '../../core/units/show'
import { out, printJson, type Command } from '../command'
import { readPlan } from '../inputs'
import { asGiven } from '../../core/units/number'

export const spares: Command = {
  name: 'spares',
  takes: 'PLAN.json',
  options: { json: {} },
  help: `What single failure takes which load off, and the spares that cover most of what takes a transmitter off the
air, most for their weight first. How often things fail is judgement. Exit 2: it cannot be read.`,
  run(call) {
    const plan = readPlan(call)
    const [failures, kit] = [singleFailures(plan), sparesOf(plan)]
    if (call.json) {
      printJson({ failures, kit })
      return 0
    }
    const name = (id: string) => nameOf(partById(plan, id)!)
    for (const f of failures) out(`${f.what}: takes ${listed(f.takes.map(name))}`)
    for (const s of kit) {
      const weight = s.massG === null ? 'weight not said' : `${asGiven(s.massG)} g`
      out(`${s.count} × ${s.what} (${weight}): ${percent(s.share)}, with those before ${percent(s.together)}`)
    }
    return 0
  },
}
