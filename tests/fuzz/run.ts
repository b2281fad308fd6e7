/** ./run fuzz --minutes N (--seed S): broken files read for as long as one likes. */
import { fuzz } from './fuzz'

const [minutes, seed] = ['--minutes', '--seed'].map(name => {
  const at = process.argv.indexOf(name)
  return at < 0 ? undefined : Number(process.argv[at + 1])
})
if ([minutes, seed].some(n => n !== undefined && !(n >= 0))) {
  console.error('./run fuzz --minutes N --seed S, both numbers')
  process.exit(2)
}
const until = performance.now() + (minutes ?? 1) * 60_000
const { inputs, taken, wrong } = fuzz(seed ?? Date.now() % 1e9, () => performance.now() < until)
for (const [name, { read, taken: well }] of Object.entries(taken)) console.log(`${name}: ${read} read, ${well} taken`)
for (const words of wrong) console.error(words)
console.log(`${inputs} inputs, ${wrong.length} answers wrong`)
process.exit(wrong.length ? 1 : 0)
