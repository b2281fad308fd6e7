import type { HoursEvent } from '../../core/hours/event'
import { EventCourse } from '../../core/hours/course'
import { fillingsOf, restingOf, startersOf } from '../../core/hours/refill'
import { clockWords } from '../../core/hours/schedule'
import { setsFor, type Least } from '../../core/hours/sets'
import { hourCostsG, packsInTurn } from '../../core/hours/turns'
import { fillingWords, restingWords, setWords, starterWords } from '../../core/hours/tellLasting'
import { answersTo, heldWords, whatIfs } from '../../core/hours/whatIf'
import { packFigures, worthOf } from '../../core/hours/worth'
import { nameOf } from '../../core/plan/find'
import type { Plan } from '../../core/plan/schema'
import { percent } from '../../core/units/show'
import { out, printJson, refuse, type Call } from '../command'
import { readFigure } from '../inputs'
import { fixed } from '../../core/units/number'

/** What `./run hours` says beside the course: sets of packs, what fills them, what one would try, what they cost. */

const LEAST: Record<string, Least> = { weight: 'massG', cost: 'cost', volume: 'litres' }
const SIZE_RUNS = 200

function wishOf(call: Call) {
  const asked = call.value('size')!
  const least = LEAST[asked] ?? refuse('--size', `it is ${asked}`, 'weight, cost or volume')
  const odds = readFigure(call, 'odds', { otherwise: 90 }) / 100
  if (!(odds > 0 && odds <= 1)) refuse('--odds', `it is ${call.value('odds')}`, 'a percentage up to 100')
  const most = (option: string) =>
    call.value(option) === undefined ? undefined : readFigure(call, option, { above: 0 })
  const box = call.value('box')?.split(/[x×]/i).map(Number)
  if (box && !(box.length === 3 && box.every(side => side > 0)))
    refuse('--box', `it is ${call.value('box')}`, 'three sides in mm, as 300x200x150')
  return {
    least,
    odds,
    runs: readFigure(call, 'runs', { otherwise: SIZE_RUNS }),
    seed: readFigure(call, 'seed', { otherwise: 1 }),
    ...(most('most-wh') !== undefined && { mostWhAPack: most('most-wh')! }),
    ...(most('budget') !== undefined && { mostCost: most('budget')! }),
    ...(most('refill') !== undefined && { refillH: most('refill')! }),
    ...(box && { boxMm: box as [number, number, number] }),
  }
}

function turnsWords({ packs, atH }: { packs: number; atH: number[] }, event: HoursEvent): string {
  if (packs === 1) return 'the pack of the plan lasts by itself'
  return `packs like the plan's, in turn: ${packs}; changed ${atH.map(h => clockWords(event, h)).join(', ')}`
}

const kilograms = (g: number) => `${fixed(g / 1000, 1)} kg`

export function printSets(call: Call, plan: Plan, event: HoursEvent): number {
  const sets = setsFor(plan, event, wishOf(call))
  if (!sets)
    return refuse(
      '--size',
      'nothing in the plan runs out and comes in other sizes',
      'a plan with a battery, bank or power station',
    )
  const turns = packsInTurn(plan, event)
  const hourG = hourCostsG(plan, event)
  if (call.json) printJson({ ...sets, packsInTurn: turns, hourCostsG: hourG })
  else {
    for (const s of sets.sets)
      out(
        `${setWords(s)}: ${kilograms(s.massG)}, about ${Math.round(s.cost)}, ${fixed(s.litres, 1)} l; ` +
          `nothing fails in ${percent(s.onAir)} of ${call.value('runs') ?? SIZE_RUNS} weathers`,
      )
    if (sets.none) out(`None: ${sets.none}.`)
    out(`as planned: ${kilograms(sets.asPlanned.massG)}, about ${Math.round(sets.asPlanned.cost)}`)
    if (turns) out(turnsWords(turns, event))
    if (hourG !== null) out(`one more hour at the end: ${Math.round(hourG)} g of pack`)
    for (const a of sets.assumed) out(`assumed: ${a}, as is typical of its class`)
    out('How many may travel in a cabin, and of which size (usually 100 Wh each), the airline decides.')
  }
  return sets.sets.length ? 0 : 1
}

const MONTHS = [1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12]

export function printCharging(call: Call, plan: Plan, event: HoursEvent): number {
  const fillings = fillingsOf(plan, event, event.place ? MONTHS : [])
  const [resting, starters] = [restingOf(plan, event), startersOf(plan)]
  if (call.json) {
    printJson({ fillings, resting, starters })
    return 0
  }
  for (const f of fillings) out(`${f.month ? `sun, month ${f.month}` : f.name}: ${fillingWords(f)}`)
  for (const r of resting) out(restingWords(plan, r))
  for (const s of starters) out(starterWords(plan, s))
  return 0
}

export function printWhatIf(call: Call, plan: Plan, event: HoursEvent): number {
  const answers = answersTo(plan, event, whatIfs(plan, event))
  const held = heldWords(plan, answers)
  if (call.json)
    printJson({ answers: answers.map(({ plan: _plan, event: _event, ...a }) => a), ...(held !== null && { held }) })
  else {
    for (const a of answers) {
      const more = a.moreG ? ` (${a.moreG > 0 ? '+' : '−'}${fixed(Math.abs(a.moreG / 1000), 1)} kg)` : ''
      out(`${a.label}${more}: ${a.words}`)
    }
    if (held) out(held)
  }
  return 0
}

export function printWorth(call: Call, plan: Plan, event: HoursEvent): number {
  const perYear = readFigure(call, 'worth', { above: 0 })
  const rows = new EventCourse(plan, event).stores.map(store => {
    const figures = packFigures(store)
    return { part: store.part.id, name: nameOf(store.part), ...figures, ...worthOf(figures, perYear) }
  })
  if (call.json) printJson({ cyclesAYear: perYear, packs: rows })
  else
    for (const r of rows) {
      out(
        `${r.name}: ${Math.round(r.usableWh)} Wh usable of ${Math.round(r.wh)}; ` +
          `${fixed(r.perUsableWh, 2)} a usable Wh, ${Math.round(r.usableWhPerKg)} usable Wh a kg, ` +
          `${fixed(r.perYear, 0)} a year over ${fixed(r.lifeYears, 1)} years (worn by ${r.wornBy}), ` +
          `${fixed(r.perKWhOfLife, 2)} a kWh`,
      )
      if (r.assumed.length) out(`  assumed, as is typical of its class: ${r.assumed.join(', ')}`)
    }
  return 0
}
