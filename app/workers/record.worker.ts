import { writeWav } from '#core/formats/wav'
import type { NoiseCase } from '#core/noise/logbook'
import type { Setup } from '#core/noise/setup'
import type { Plan } from '#core/plan/schema'
import { simulatedFor } from '../quiet/simulated'

/** Makes a recording of the simulated receiver off the page: a WAV of I and Q. */
self.onmessage = (event: MessageEvent<{ plan: Plan, noiseCase: NoiseCase, setup: Setup, centreHz: number, seconds: number, sampleRateHz: number }>) => {
  const { plan, noiseCase, setup, centreHz, seconds, sampleRateHz } = event.data
  const bytes = writeWav(simulatedFor(plan, noiseCase).receiver.recording(setup, centreHz, seconds, sampleRateHz))
  self.postMessage(bytes, { transfer: [bytes.buffer] })
}
