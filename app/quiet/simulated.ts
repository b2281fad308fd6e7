import { causesOf, type Causes } from '#core/noise/cause'
import type { NoiseCase } from '#core/noise/logbook'
import { randomFrom } from '#core/chance/random'
import { drawFault, faultOf, type Fault } from '#core/noise/simulated/fault'
import { simulatedReceiver, type SimulatedReceiver } from '#core/noise/simulated/receiver'
import type { Plan } from '#core/plan/schema'

/**
 * The made-up fault of a practice case, and a receiver that hears it; another `look` is another moment of the same
 * fault.
 */
export function simulatedFor(
  plan: Plan,
  noiseCase: Pick<NoiseCase, 'complaint' | 'practice'>,
  look = 0,
): { causes: Causes; fault: Fault; receiver: SimulatedReceiver } {
  const { seed } = noiseCase.practice!
  const causes = causesOf(plan, noiseCase.complaint)
  const fault = drawFault(causes, noiseCase.complaint.bands, randomFrom(seed))
  return {
    causes,
    fault,
    receiver: simulatedReceiver(fault, causes, { site: 'rural', random: randomFrom(seed + 7919 * (look + 1)) }),
  }
}

/**
 * A receiver in an evening on which the plan's likeliest device with a known frequency makes lines through these bands.
 */
export function eveningFor(plan: Plan, bands: readonly string[]): SimulatedReceiver {
  const causes = causesOf(plan, { bands })
  const random = randomFrom(20)
  const known = (id: string) =>
    causes.devices.some(d => d.id === id && d.switchingHz !== undefined && d.switchingHz > 3000)
  const likeliest = [...causes.priors].sort(
    (a, b) => Number(known(b.cause.device)) - Number(known(a.cause.device)) || b.odds - a.odds,
  )[0]!
  const fault = {
    ...faultOf({ ...likeliest.cause, way: 'dc-common', when: { kind: 'always' } }, causes, bands, random),
    lines: true,
    riseDb: 26,
  }
  return simulatedReceiver(fault, causes, { site: 'rural', random })
}
