import { writeWav } from '#core/formats/wav'
import type { NoiseCase } from '#core/noise/logbook'
import type { Setup } from '#core/noise/setup'
import type { Plan } from '#core/plan/schema'
import { eveningFor, simulatedFor } from '../quiet/simulated'

/**
 * What is to be recorded: the fault of a practice case, or an evening with the plan's likeliest device on these bands.
 */
interface Job {
  plan: Plan
  noiseCase?: NoiseCase
  evening?: string[]
  setup: Setup
  centreHz: number
  seconds: number
  sampleRateHz: number
}

/** Makes a recording of the simulated receiver off the page: a WAV of I and Q. */
self.onmessage = (event: MessageEvent<Job>) => {
  const { plan, noiseCase, evening, setup, centreHz, seconds, sampleRateHz } = event.data
  const receiver = noiseCase ? simulatedFor(plan, noiseCase).receiver : eveningFor(plan, evening ?? [])
  const bytes = writeWav(receiver.recording(setup, centreHz, seconds, sampleRateHz))
  self.postMessage(bytes, { transfer: [bytes.buffer] })
}
