/** What the tests import as vitest here: it collects them, to be run one by one, as often as wanted. */
import { JestAsymmetricMatchers, JestChaiExpect, JestExtend } from '@vitest/expect'
import * as chai from 'chai'

type Body = (...args: never[]) => unknown
export interface Collected {
  name: string
  run: () => unknown
}
interface Scope {
  names: string[]
  before: Body[]
  after: Body[]
}

const collected = ((globalThis as { collectedTests?: Collected[] }).collectedTests ??= [])
let scope: Scope = { names: [], before: [], after: [] }

chai.use(JestExtend)
chai.use(JestChaiExpect)
chai.use(JestAsymmetricMatchers)
export const expect = chai.expect

const rowsOf = (table: readonly unknown[]) => table.map(row => (Array.isArray(row) ? row : [row]) as never[])

function suite(name: string, body: Body) {
  const outer = scope
  scope = { names: [...outer.names, name], before: [...outer.before], after: [...outer.after] }
  body()
  scope = outer
}
function test(name: string, body: Body) {
  const { names, before, after } = scope
  const run = async () => {
    for (const step of before) await step()
    try {
      await body()
    } finally {
      for (const step of after) await step()
    }
  }
  collected.push({ name: [...names, name].join(' > '), run })
}

const each = (one: (name: string, body: Body) => void) => (table: readonly unknown[]) => (name: string, body: Body) =>
  rowsOf(table).forEach((row, i) => one(`${name} ${i}`, () => body(...row)))

export const describe = Object.assign(suite, { each: each(suite) })
export const it = Object.assign(test, { each: each(test) })
export { it as test }
export const beforeEach = (step: Body) => void scope.before.push(step)
export const afterEach = (step: Body) => void scope.after.unshift(step)
export const beforeAll = (step: Body) => {
  let done: unknown
  scope.before.push(() => (done ??= Promise.resolve(step())))
}
export const afterAll = () => {}
