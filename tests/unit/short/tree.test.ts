import { describe, expect, it } from 'vitest'
import { solveCorners } from '../../../core/circuit/matrix'
import { workingTemperatures } from '../../../core/circuit/working'
import { shortNetwork } from '../../../core/short/network'
import { ShortSolver } from '../../../core/short/solver'
import { TreeFlow } from '../../../core/short/tree'
import { randomPlan } from '../../data/randomPlans'

/** Currents of milliamps are the leak that keeps the solver's equations sound, A. */
const LEAK_A = 0.02

describe('a short with one way to it', () => {
  it('draws by adding up what it draws by solving, through the same branches, on random plans', () => {
    let places = 0
    for (let seed = 1; seed <= 400; seed++) {
      const plan = randomPlan(seed)
      if (!plan) continue
      const network = shortNetwork(plan, workingTemperatures(solveCorners(plan)))
      if (!network.isForest) continue
      const [tree, solver] = [new TreeFlow(network), new ShortSolver(network)]
      for (const { node, at } of network.places) {
        if (!TreeFlow.suits(network, node)) continue
        places++
        const [added, solved] = [tree.short(node), solver.short(node)]
        const where = `seed ${seed} at ${at}`
        expect(Math.abs(added - solved), where).toBeLessThan(LEAK_A + 1e-4 * solved)
        network.branches.forEach((branch, i) => {
          // What flows elsewhere, between sources of another network, is no part of the short.
          if (network.feedsOf[branch.a] !== network.feedsOf[node]) return
          const apart = Math.abs(tree.branchAmps(i) - solver.branchAmps(i))
          expect(apart, `${where}, branch ${i}`).toBeLessThan(LEAK_A + 1e-4 * solved)
        })
      }
    }
    expect(places).toBeGreaterThan(300)
  })
})
