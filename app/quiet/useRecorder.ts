import { ref } from 'vue'
import { writeWav } from '#core/formats/wav'
import { download } from '../shell/download'

/** A recording for keeps is so long at most, s: then it ends by itself. */
const MOST_S = 120

/** Keeps samples as they come, and hands them out as a WAV file. */
export function useRecorder() {
  const isRecording = ref(false)
  let pieces: Float32Array[][] = []
  let rateHz = 48000

  function keep(channels: readonly Float32Array[], sampleRateHz: number) {
    if (!isRecording.value) return
    rateHz = sampleRateHz
    pieces.push(channels.map(c => c.slice()))
    if (pieces.length * channels[0]!.length > MOST_S * sampleRateHz) toggle()
  }

  /** Begins; called again, ends and hands out what was kept. */
  function toggle() {
    isRecording.value = !isRecording.value
    if (isRecording.value || !pieces.length) return
    const channels = pieces[0]!.map((_, c) => joined(pieces.map(p => p[c]!)))
    download('evening.wav', writeWav({ sampleRateHz: rateHz, channels }), 'audio/wav')
    pieces = []
  }

  function drop() {
    isRecording.value = false
    pieces = []
  }

  return { isRecording, keep, toggle, drop }
}

function joined(pieces: readonly Float32Array[]): Float32Array {
  const all = new Float32Array(pieces.reduce((s, p) => s + p.length, 0))
  let at = 0
  for (const piece of pieces) {
    all.set(piece, at)
    at += piece.length
  }
  return all
}
