import type { Laden } from './laden'
import { beyond, siemensOf, steepest } from './lines'
import { Newton, type Scales } from './newton'

/** How far beyond a piece of its curve a source may lie, V and A. */
export const PIECE_TOLERANCE = 1e-6
/** Of a gate that passes a current back, and the source that gets it, the gate is at fault: both lie as far beyond. */
const GOES_FIRST = 1 + 1e-6
/** Sources change their piece, one at a time, at most so often, and so often more for each piece that there is. */
const LEAST_TURNS = 60
const TURNS_A_PIECE = 4

/** Brings a laden network to rest: its nodes with what converters carry between them, each source on its piece. */
export class Settler {
  private readonly newton: Newton

  constructor(private readonly laden: Laden) {
    this.newton = new Newton(laden)
  }

  /**
   * Goes on from where the network's voltages and its sources' pieces are.
   * @returns whether it came to rest
   */
  settle(scales: Scales): boolean {
    let seen: Set<string> | null = null
    let inOrder = false
    const pieceCount = this.laden.lines.reduce((sum, its) => sum + (its?.amps.length ?? 0), 0)
    const mostTurns = LEAST_TURNS + TURNS_A_PIECE * pieceCount
    for (let turn = 0; turn < mostTurns; turn++) {
      const stands = this.newton.arrive(scales)
      if (!stands && !this.release()) return false
      if (stands && !this.changePiece(inOrder)) return true
      const pieces = this.laden.pieces.join()
      seen ??= new Set()
      if (!seen.has(pieces)) {
        seen.add(pieces)
        continue
      }
      if (inOrder) return false
      inOrder = true
      seen.clear()
    }
    return false
  }

  /**
   * Puts the source that lies farthest beyond its piece on the next one, or the first that lies beyond it: taken in
   * order they cannot go round in a ring where the answer is the only one (Murty's least index).
   * @returns whether there was one
   */
  private changePiece(inOrder: boolean): boolean {
    const { lines, pieces, sources } = this.laden
    let farthest = 0
    let which = -1
    for (const [k, its] of lines.entries()) {
      if (!its) continue
      const off = beyond(its, pieces[k]!, this.laden.aboveEmf(k)) * (sources[k]!.transfer ? GOES_FIRST : 1)
      if (Math.abs(off) <= Math.max(PIECE_TOLERANCE, Math.abs(farthest))) continue
      farthest = off
      which = k
      if (inOrder) break
    }
    if (which < 0) return false
    pieces[which]! += Math.sign(farthest)
    return true
  }

  /**
   * No solution with every source on its piece: on a wire where none holds a voltage, the next one that would is let.
   * Where less is given than taken the voltage falls, until the highest that was kept from giving gives; where more is
   * given it rises, until the highest of those that give all they can holds it.
   * @returns whether there was one
   */
  private release(): boolean {
    const { laden } = this
    const { sources, lines, pieces } = laden
    laden.restart()
    const wires = new Set(sources.map(s => s.wire))
    for (const wire of wires) {
      const here = sources.flatMap((s, k) => (s.wire === wire ? [k] : []))
      if (here.some(k => this.holdsVoltage(k))) continue
      const isShort = here.reduce((sum, k) => sum + laden.sourceAmps(k), 0) < this.takenOn(wire)
      const beside = (k: number) => pieces[k]! - steepest(lines[k]!)
      const might = here.filter(k => (isShort ? beside(k) > 0 : beside(k) < 0))
      if (!might.length) continue
      const [highest] = might.sort((a, b) => sources[b]!.emfV - sources[a]!.emfV)
      pieces[highest!]! += isShort ? -1 : 1
      return true
    }
    return false
  }

  /** A source of a power bends its current with the voltage, and holds none but at its end. */
  private holdsVoltage(k: number): boolean {
    const lines = this.laden.lines[k]
    const piece = this.laden.pieces[k]!
    if (!lines) return true
    return this.laden.sources[k]!.curve ? piece === steepest(lines) : siemensOf(lines, piece) > 0
  }

  /** What the sinks on a wire take, at the voltage they have now, A. */
  private takenOn(wire: number): number {
    const { sinkNode, wireOf } = this.laden
    let taken = 0
    for (let k = 0; k < sinkNode.length; k++) if (wireOf[sinkNode[k]!] === wire) taken += this.laden.sinkAmps(k)
    return taken
  }
}
