import { cutsOf } from '../data/cuts'

const CUTS = 50
const EDITS = 2000

/** The power cut again and again while edits are made: what is lost of those that were acknowledged. */
export async function benchDurable(print: (line: string) => void) {
  const { acknowledged, cuts, whileHeld, lost } = await cutsOf({ cuts: CUTS, edits: EDITS, seed: 1 })
  const held = `${whileHeld} of them while the engine wrote its files`
  print(`the power cut ${cuts} times, ${held}: ${lost.length} of ${acknowledged} acknowledged edits lost (aim 0)`)
  for (const words of lost) print(`  ${words}`)
}
