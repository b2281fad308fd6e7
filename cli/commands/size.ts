import type { ShelfItem } from '../../core/shelf/item'
import { sizePlan, type Aim, type Relaxed, type SizeResult, type Stock } from '../../core/size/size'
import { percent } from '../../core/units/show'
import { complain, out, printJson, refuse, type Command } from '../command'
import { readPlan, readShelf } from '../inputs'
import { fixed } from '../../core/units/number'

export const size: Command = {
  name: 'size',
  takes: 'PLAN.json',
  options: {
    for: { value: 'AIM', oneOf: ['weight', 'cost', 'drop'] },
    row: { value: 'LOAD' },
    shelf: { value: 'SHELF.csv' },
    relax: { value: 'LIMIT', oneOf: ['share', 'contacts'] },
    json: {},
  },
  help: `Conductors, fuses and port places that pass every limit with the least of it (weight, unless another is named):
the patched plan and the difference. --row: only what lies on the way to one load. --shelf: only conductors of a
shelf's CSV. --relax: without the plan's share of drop, or with contacts that do not take their wire now.
Exit 1: nothing fits.`,
  run(call) {
    const plan = readPlan(call)
    const shelf = readShelf(call)
    const row = call.value('row')
    if (row !== undefined && !plan.parts.some(p => p.id === row))
      refuse('--row', `there is no load ${row} in this plan`, plan.parts.map(p => p.id).join(', '))
    const result = sizePlan(plan, {
      for: (call.value('for') ?? 'weight') as Aim,
      ...(row !== undefined && { row }),
      ...(call.has('relax') && { relax: [call.value('relax') as Relaxed] }),
      ...(call.has('shelf') && { owned: shelf.flatMap(stockOf) }),
    })
    if (call.json) printJson(result)
    else if (result.plan) printResult(result)
    else {
      result.obstacles.forEach(complain)
      if (result.yields) complain(`${result.yields.words} (--relax ${result.yields.relax})`)
    }
    return result.plan ? 0 : 1
  },
}

function stockOf(item: ShelfItem): Stock[] {
  if (item.what !== 'conductor') return []
  const { awg, mm2, insulationC, metres, cost } = item
  const conductor = {
    ...(awg !== undefined && { awg }),
    ...(mm2 !== undefined && { mm2 }),
    ...(insulationC !== undefined && { insulationC }),
  }
  return [{ conductor, metres, ...(cost !== undefined && { costPerM: cost }) }]
}

function printResult({ changes, before, after, exact }: SizeResult) {
  for (const c of changes) out(c.words)
  if (!changes.length) out('nothing to change')
  const difference = [
    `conductors ${fixed(before.grams, 0)} g → ${fixed(after!.grams, 0)} g`,
    `about ${fixed(before.cost, 0)} → ${fixed(after!.cost, 0)}`,
    `worst drop ${percent(before.worstDropShare, 1)} → ${percent(after!.worstDropShare, 1)}`,
  ].join(', ')
  const doubt =
    ' (not proven least: no tree of one source, a stock ran short, a short asked for more, or other fuses might help)'
  out(`${difference}${exact ? '' : doubt}`)
}
