import type { CauseClass } from './symptom'

/** A test of power, its outcomes, and how each class of causes shows in it. */
export interface PowerTest {
  id: string
  label: string
  minutes: number
  euro: number
  outcomes: readonly { id: string; label: string }[]
  /** Likelihoods of the outcomes where a cause says nothing of its own. */
  usual: readonly number[]
  shows: Partial<Record<CauseClass, readonly number[]>>
  /** Outcomes in which no cause shows. */
  quiet: readonly number[]
  /** It takes a cause away for the while: of two, both must be gone for the symptom to be. */
  removes?: true
  /** The usual caution; the test is not made without it. */
  caution?: string
}

export const rowOf = ({ usual, shows }: PowerTest, of: CauseClass): readonly number[] => shows[of] ?? usual

/** Likelihoods of the outcomes where two causes are there at once: what either shows is seen. */
export function rowOfBoth(test: PowerTest, one: CauseClass, other: CauseClass): readonly number[] {
  const { quiet, removes, usual } = test
  const [a, b] = [rowOf(test, one), rowOf(test, other)]
  const shareOf = (row: readonly number[]) => quiet.reduce((sum, at) => sum + row[at]!, 0)
  const [quietA, quietB] = [shareOf(a), shareOf(b)]
  // What shows by chance does so once, not twice.
  const both = removes ? quietA * quietB : Math.min(quietA, quietB, (quietA * quietB) / shareOf(usual))
  const mixed = a.map((x, at) => x + b[at]!)
  const [quietMixed, loudMixed] = [quietA + quietB, 2 - quietA - quietB]
  return mixed.map((x, at) => (quiet.includes(at) ? (x * both) / quietMixed : (x * (1 - both)) / loudMixed))
}
