/** ./run fuzz --minutes N (--seed S): broken files read, and broken requests sent, for as long as one likes. */
import { freePort, TestServer } from '../e2e/browser'
import { askServer } from './askServer'
import { fuzz } from './fuzz'

const [minutes, said] = ['--minutes', '--seed'].map(name => {
  const at = process.argv.indexOf(name)
  return at < 0 ? undefined : Number(process.argv[at + 1])
})
if ([minutes, said].some(n => n !== undefined && !(n >= 0))) {
  console.error('./run fuzz --minutes N --seed S, both numbers')
  process.exit(2)
}
const seed = said ?? Date.now() % 1e9
const halfMs = ((minutes ?? 1) * 60_000) / 2
const soon = () => {
  const until = performance.now() + halfMs
  return () => performance.now() < until
}

const { inputs, taken, wrong } = fuzz(seed, soon())
for (const [name, { read, taken: well }] of Object.entries(taken)) console.log(`${name}: ${read} read, ${well} taken`)

const server = new TestServer(await freePort())
await server.start()
const asked = await askServer(server, seed, soon())
await server.stop()

const all = [...wrong, ...asked.wrong]
for (const words of all) console.error(words)
console.log(`${inputs} inputs and ${asked.requests} requests of seed ${seed}, ${all.length} answers wrong`)
process.exit(all.length ? 1 : 0)
