/** An audio input that is being listened to. */
export interface AudioTap {
  sampleRateHz: number
  close: () => void
}

/**
 * Opens the browser's audio input and hands its samples on, one array a channel, some thousand at a time.
 * @param isIq a stereo input is I and Q; else its first channel is audio
 * @throws Error with what is wrong and what to do, in words
 */
export async function openTap(isIq: boolean, onSamples: (channels: Float32Array[]) => void): Promise<AudioTap> {
  const channelCount = isIq ? 2 : 1
  try {
    const stream = await navigator.mediaDevices.getUserMedia({
      // What makes a voice clear would make noise vanish.
      audio: { channelCount, echoCancellation: false, noiseSuppression: false, autoGainControl: false },
    })
    const context = new AudioContext({ sampleRate: stream.getAudioTracks()[0]!.getSettings().sampleRate })
    await context.audioWorklet.addModule('/tap.worklet.js')
    const tap = new AudioWorkletNode(context, 'tap', { channelCount, channelCountMode: 'explicit' })
    tap.port.onmessage = ({ data }: MessageEvent<Float32Array[]>) => onSamples(data)
    context.createMediaStreamSource(stream).connect(tap)
    return {
      sampleRateHz: context.sampleRate,
      close() {
        stream.getTracks().forEach(t => t.stop())
        void context.close().catch(() => {})
      },
    }
  } catch (error) {
    throw new Error(refusalOf(error), { cause: error })
  }
}

function refusalOf(error: unknown): string {
  const name = error instanceof DOMException ? error.name : ''
  if (name === 'NotAllowedError') return 'The browser was not allowed to listen: allow the audio input for this page.'
  if (name === 'NotFoundError') return 'There is no audio input: plug the radio or the sound card in, and try again.'
  if (name === 'NotReadableError') return 'The audio input is in use by another program: close it there first.'
  return `The audio input cannot be opened: ${error instanceof Error ? error.message : String(error)}`
}
