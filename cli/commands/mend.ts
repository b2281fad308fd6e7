import { mend as mendPlan, type MendWay } from '../../core/mend/mend'
import { AIMS, type MendAim } from '../../core/mend/tally'
import { fixed } from '../../core/units/number'
import { volts } from '../../core/units/show'
import { complain, out, printJson, type Command } from '../command'
import { readPlan, readShelf } from '../inputs'

export const mend: Command = {
  name: 'mend',
  takes: 'PLAN.json',
  options: {
    for: { value: 'AIM', oneOf: [...AIMS] },
    shelf: { value: 'SHELF.csv' },
    json: {},
  },
  help: `Sets of changes that leave no danger and no failure, and no caution where that is possible, with the least of
it (change, unless another is named): up to three ways side by side, each with what arrives, weighs, costs and
remains. --shelf: only with what a shelf's CSV has. Exit 1: something dangerous or failing is left in every way.`,
  run(call) {
    const plan = readPlan(call)
    const result = mendPlan(plan, {
      for: (call.value('for') ?? 'change') as MendAim,
      shelf: readShelf(call),
      ownedOnly: call.has('shelf'),
    })
    if (call.json) printJson(result)
    else if (result.isClean) out('nothing to mend')
    else {
      result.ways.forEach((way, i) => printWay(way, i + 1))
      result.reasons.forEach(complain)
    }
    return result.reasons.length ? 1 : 0
  },
}

const signed = (value: number, digits = 0) => `${value < 0 ? '−' : '+'}${fixed(Math.abs(value), digits)}`

function printWay(way: MendWay, n: number) {
  out(`${n}. ${way.title}`)
  for (const step of way.steps) out(`   ${step.label}${step.cost ? ` (${step.cost})` : ''}`)
  for (const arrival of Object.values(way.arrivals))
    if (arrival) out(`   ${arrival.name}: ${volts(arrival.lowV)} to ${volts(arrival.highV)}`)
  for (const { name, dB } of way.signal) out(`   ${name}: ${signed(dB, 1)} dB`)
  out(`   ${signed(way.gramsMore)} g, about ${signed(way.costMore)} in money`)
  for (const row of way.buy.filter(r => r.buy > 0)) out(`   to get: ${fixed(row.buy, 1)} ${row.unit} ${row.what}`)
  out(
    way.remains.length
      ? `   remains: ${way.remains.map(r => `${r.severity} ${r.title}`).join('; ')}`
      : '   nothing remains',
  )
}
