import { causesOf, type Causes } from '#core/noise/cause'
import type { NoiseCase } from '#core/noise/logbook'
import { randomFrom } from '#core/noise/random'
import { drawFault, simulatedReceiver, type Fault, type SimulatedReceiver } from '#core/noise/simulated'
import type { Plan } from '#core/plan/schema'

/** The made-up fault of a practice case, and a receiver that hears it; another `look` is another moment of the same fault. */
export function simulatedFor(plan: Plan, noiseCase: Pick<NoiseCase, 'complaint' | 'practice'>, look = 0): { causes: Causes, fault: Fault, receiver: SimulatedReceiver } {
  const { seed } = noiseCase.practice!
  const causes = causesOf(plan, noiseCase.complaint)
  const fault = drawFault(causes, noiseCase.complaint.bands, randomFrom(seed))
  return { causes, fault, receiver: simulatedReceiver(fault, causes, 'rural', randomFrom(seed + 7919 * (look + 1))) }
}
