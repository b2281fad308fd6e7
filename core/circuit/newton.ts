import { carryingDiode, diodeBranch, kneeBranch } from './branch'
import { alignConverters, keepOnLine, stampConverters } from './converters'
import { LAW, type Laden } from './laden'
import { factor } from './ldl'
import { flowOf, type Flow } from './lines'
import type { DiodeString } from './network'

/** What part of their draw is taken: constant-power loads, the others, and the inputs of converters. */
export interface Scales {
  powerScale: number
  otherScale: number
  inputScale: number
}

/**
 * Convergence: largest change of a node voltage, V, and of a branch current, A, in one round. Newton's last step
 * squares them, so that what is left is about 1e-9 of either.
 */
const TOLERANCE_V = 2e-5
const TOLERANCE_A = 1e-4
const MOST_ROUNDS = 80
/**
 * So many rounds whose steps are as large as those two before, within this part: it goes to and fro, as behind a diode
 * that blocks what is asked.
 */
const TO_AND_FRO = 6
const ALIKE = 0.03
/** With sources that hold their voltage and have limits, V: a millionth of a volt there is ten amps. */
const STIFF_TOLERANCE_V = 1e-9
/** A diode's slope changes with every step: its last one is no measure of the next, V. */
const DIODE_TOLERANCE_V = 1e-7
/** A current that goes backward through a diode by less than this is none, A. */
const LEAST_DIODE_A = 1e-12
/** A diode goes no farther forward in one round, beyond where it begins to conduct, V. */
const DIODE_STEP_V = 1
/** A constant-power load at less than this has no current, V. */
const LEAST_LOAD_V = 1e-3

/** Newton iteration on the nodal equations of a laden network, warming of conductors included. */
export class Newton {
  private readonly siemens: Float64Array
  private readonly diagonal: Float64Array
  private readonly entries: Float64Array
  /** What flows into each node too little, A; once solved, by how much its voltage moves, V. */
  private readonly step: Float64Array
  private readonly diodes: readonly DiodeString[]
  private readonly hasDiodes: boolean
  private readonly diodeOut = { amps: 0, siemens: 0 }
  private readonly flow: Flow = { amps: 0, siemens: 0 }

  constructor(private readonly laden: Laden) {
    const { nodeCount: n, branchCount, pattern } = laden.reduced
    this.siemens = new Float64Array(branchCount)
    this.diagonal = new Float64Array(n)
    this.entries = new Float64Array(pattern.rowOf.length)
    this.step = new Float64Array(n)
    this.diodes = laden.network.diodes
    this.hasDiodes = this.diodes.length > 0
  }

  /**
   * Goes on from where the network's voltages are, each source on its piece. Beyond the point of collapse the matrix
   * stops being positive definite, and a pivot shows it.
   * @returns whether it arrived at a point where every load has a positive voltage
   */
  arrive(scales: Scales): boolean {
    const { laden, step } = this
    const toleranceV = this.toleranceV()
    alignConverters(laden)
    let before = 0
    let twoBefore = 0
    let alike = 0
    for (let round = 0; round < MOST_ROUNDS; round++) {
      const currentChange = this.findStep(scales)
      if (currentChange === null) return false
      const largest = largestOf(step)
      alike = Math.abs(largest - twoBefore) < ALIKE * largest ? alike + 1 : 0
      if (alike === TO_AND_FRO) return false
      twoBefore = before
      before = largest
      const atKnee = this.hasDiodes && laden.fresh
      const off = this.take(largest, atKnee)
      const isAtRest = !atKnee && Math.max(largest, off) < toleranceV && currentChange < TOLERANCE_A
      if (!isAtRest) continue
      this.finishAmps()
      return this.loadsArePositive()
    }
    return false
  }

  private toleranceV(): number {
    if (this.laden.lines.some(l => l !== null)) return STIFF_TOLERANCE_V
    return this.hasDiodes ? DIODE_TOLERANCE_V : TOLERANCE_V
  }

  /**
   * The step from here, into `step`.
   * @returns the largest change of a branch current since the last round, A; null where there is no step
   */
  private findStep(scales: Scales): number | null {
    const { laden, diagonal, entries, step } = this
    diagonal.fill(0)
    entries.fill(0)
    step.fill(0)
    const currentChange = this.stampBranches()
    stampConverters(laden, scales.inputScale)
    this.stampSources()
    if (!this.stampSinks(scales)) return null
    for (const v of laden.heldNodes) {
      diagonal[v] = 1
      step[v] = 0
    }
    if (!factor(laden.reduced.pattern, diagonal, entries)) return null
    return laden.coupling.solve(diagonal, entries, step) ? currentChange : null
  }

  /** Takes the step. @returns how far converters then were from their lines, V */
  private take(largest: number, atKnee: boolean): number {
    const { laden, step } = this
    const { volts } = laden
    const share = this.hasDiodes && !atKnee ? this.allowedShare() : 1
    laden.fresh = atKnee && largest > DIODE_STEP_V
    for (let v = 0; v < volts.length; v++) volts[v]! += step[v]! *= share
    const off = keepOnLine(laden, step)
    this.carryAmps()
    return off
  }

  /**
   * How much of the step is taken. A diode without current has hardly a slope: the step from there would go to millions
   * of volts. One that blocks may come as far as to where it would conduct; what goes backward goes freely.
   */
  private allowedShare(): number {
    const { step, diodes } = this
    const { volts, reduced } = this.laden
    const { from, to, diode, branchCount } = reduced
    let share = 1
    for (let b = 0; b < branchCount; b++) {
      if (diode[b]! < 0) continue
      const i = from[b]!
      const j = to[b]!
      const { forward } = diodes[diode[b]!]!
      const ahead = forward * (step[i]! - step[j]!)
      const allowed = DIODE_STEP_V + Math.max(0, -forward * (volts[i]! - volts[j]!))
      if (ahead > allowed) share = Math.min(share, allowed / ahead)
    }
    return share
  }

  /**
   * `step` gathers what flows into each node too little: the right-hand side of the Newton step.
   * @returns the largest change of a branch current since the last round, A
   */
  private stampBranches(): number {
    let largestChange = 0
    const { volts, amps, held, reduced } = this.laden
    const { from, to, entry, ohm, ohmPerAmp2, diode, branchCount } = reduced
    const { diodes, siemens, diagonal, entries, step, diodeOut } = this
    for (let b = 0; b < branchCount; b++) {
      const slot = entry[b]!
      const i = from[b]!
      const j = to[b]!
      const v = volts[i]! - volts[j]!
      const d = diode[b]!
      let g: number
      let current: number
      if (d >= 0) {
        this.diodeLine(b, v, diodes[d]!)
        g = diodeOut.siemens
        current = diodeOut.amps
      } else {
        // One step of the branch's own equation a round; node voltages and branch currents converge together.
        const before = amps[b]!
        const warming = ohmPerAmp2[b]! * before * before
        g = 1 / (ohm[b]! + 3 * warming)
        current = before + (v - before * (ohm[b]! + warming)) * g
      }
      const change = Math.abs(current - amps[b]!)
      if (change > largestChange) largestChange = change
      amps[b] = current
      siemens[b] = g
      if (!held[i]) {
        diagonal[i]! += g
        step[i]! -= current
        if (!held[j]) entries[slot]! -= g
      }
      if (!held[j]) {
        diagonal[j]! += g
        step[j]! += current
      }
    }
    return largestChange
  }

  /**
   * A diode as the line that its branch is taken as: through its knee from far away; where it touches the current that
   * the last round gave it, while it conducts; else where it touches its voltage. Into `diodeOut`.
   */
  private diodeLine(b: number, v: number, diode: DiodeString) {
    const { fresh, amps, reduced } = this.laden
    const { ohm, ohmPerAmp2 } = reduced
    const conducts = v * diode.forward > 0 && amps[b]! * diode.forward > -LEAST_DIODE_A
    if (fresh) kneeBranch(v, ohm[b]!, diode, this.diodeOut)
    else if (conducts) carryingDiode(v, amps[b]!, ohm[b]!, ohmPerAmp2[b]!, diode, this.diodeOut)
    else diodeBranch(v, ohm[b]!, ohmPerAmp2[b]!, diode, this.diodeOut)
  }

  /** Moves the branch currents along with the node voltages, so that the next round starts on the tangent of both. */
  private carryAmps() {
    const { siemens, step } = this
    const { amps, reduced } = this.laden
    const { from, to, branchCount } = reduced
    for (let b = 0; b < branchCount; b++) amps[b]! += siemens[b]! * (step[from[b]!]! - step[to[b]!]!)
  }

  private stampSources() {
    const { laden, diagonal, step, flow } = this
    const { sources, held, lines, pieces, volts } = laden
    for (let k = 0; k < sources.length; k++) {
      const s = sources[k]!
      if (held[s.node]) continue
      const its = lines[k]
      if (its) {
        flowOf(its, pieces[k]!, laden.aboveEmf(k), flow)
        diagonal[s.node]! += flow.siemens
        step[s.node]! += flow.amps
        continue
      }
      diagonal[s.node]! += 1 / s.ohm
      step[s.node]! += (s.emfV - volts[s.node]!) / s.ohm
    }
  }

  private stampSinks({ powerScale, otherScale, inputScale }: Scales): boolean {
    const { diagonal, step } = this
    const { sinkNode, sinkLaw, sinkValue, volts, working } = this.laden
    const firstInput = sinkNode.length - working.length
    for (let k = 0; k < sinkNode.length; k++) {
      const node = sinkNode[k]!
      const value = sinkValue[k]!
      const v = volts[node]!
      if (sinkLaw[k] === LAW.current) {
        step[node]! -= value * otherScale
      } else if (sinkLaw[k] === LAW.power) {
        const isInput = k >= firstInput
        const scale = isInput ? inputScale : powerScale
        if (value === 0 || scale === 0) continue
        if (!(v > LEAST_LOAD_V)) return false
        const current = (value * scale) / v
        const perVolt = isInput ? working[k - firstInput]!.perInV * scale : 0
        diagonal[node]! += (perVolt - current) / v
        step[node]! -= current
      } else if (value !== Infinity) {
        diagonal[node]! += otherScale / value
        step[node]! -= (v * otherScale) / value
      }
    }
    return true
  }

  /** Branch currents of the final voltages. */
  private finishAmps() {
    const { diodes, diodeOut } = this
    const { volts, amps, reduced } = this.laden
    const { from, to, ohm, ohmPerAmp2, diode, branchCount } = reduced
    for (let b = 0; b < branchCount; b++) {
      const v = volts[from[b]!]! - volts[to[b]!]!
      if (diode[b]! >= 0) {
        diodeBranch(v, ohm[b]!, ohmPerAmp2[b]!, diodes[diode[b]!]!, diodeOut)
        amps[b] = diodeOut.amps
        continue
      }
      const i = amps[b]!
      const warming = ohmPerAmp2[b]! * i * i
      amps[b] = i + (v - i * (ohm[b]! + warming)) / (ohm[b]! + 3 * warming)
    }
  }

  private loadsArePositive(): boolean {
    const { sinkNode, sinkValue, volts } = this.laden
    for (let k = 0; k < sinkNode.length; k++) {
      if (sinkValue[k]! > 0 && !(volts[sinkNode[k]!]! > 0)) return false
    }
    return true
  }
}

function largestOf(values: Float64Array): number {
  let largest = 0
  for (let v = 0; v < values.length; v++) {
    const size = Math.abs(values[v]!)
    if (size > largest) largest = size
  }
  return largest
}
