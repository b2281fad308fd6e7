/* Hands the sound of an audio input to the page, some thousand samples at a time. */
const BLOCK = 4096
class Tap extends AudioWorkletProcessor {
  constructor() {
    super()
    this.kept = null
    this.filled = 0
  }
  process([input]) {
    if (!input.length) return true
    if (!this.kept || this.kept.length !== input.length) this.kept = input.map(() => new Float32Array(BLOCK))
    input.forEach((channel, c) => this.kept[c].set(channel, this.filled))
    this.filled += input[0].length
    if (this.filled < BLOCK) return true
    this.port.postMessage(
      this.kept,
      this.kept.map(k => k.buffer),
    )
    this.kept = null
    this.filled = 0
    return true
  }
}
registerProcessor('tap', Tap)
