import type { Test } from '../../core/noise/test'
import type { Observation } from '../../core/noise/observation'
import type { Random } from '../../core/chance/random'
import type { Setup } from '../../core/noise/setup'

/**
 * A station with hidden noise, made from physics alone: fields, common and differential currents, loops and their
 * impedances, thresholds, floors. It knows nothing of the reasoning's likelihoods, and imports none of them.
 */

/** A thing that can make noise: how it is wired, what it works with. */
export interface Noisy {
  id: string
  hasMains: boolean
  /** Largest current, A; none: it knows no currents. */
  mostA?: number
  switchingHz?: number
  charges: boolean
}

const PATHS = ['antenna', 'dc-common', 'dc-differential', 'audio', 'mains', 'data', 'inside'] as const
export type Path = (typeof PATHS)[number]

/** One culprit. */
export interface Culprit {
  device: Noisy | null
  where: 'device' | 'other' | 'outside' | 'receiver'
  main: Path
  /** Level at the receiver by each path, dB over its floor, all as usual. */
  levelDb: Record<Path, number>
  /** Current at which it sets in, A; 0: always. */
  onsetA: number
  /** Only in the first minutes of a charge. */
  startOnly: boolean
  /** What it still makes idle, dB less. */
  idleDb: number
  showsLines: boolean
  spacingHz: number
}

/** Things of this one station, drawn once: what each change does here. */
interface Wiring {
  /** Common-mode loop of the radio's lead, and of the device's, Ω (real, imaginary). */
  radioLoop: readonly [number, number]
  deviceLoop: readonly [number, number]
  /** Core units (turns squared times cores) that somebody winds, and resistance of one at this frequency, Ω. */
  units: number
  unitOhm: readonly [number, number]
  /** What a radio on its own battery still gets by stray capacitance, dB less. */
  floatDb: number
  /** What is left of its common mode without the feed line as its way on, dB less. */
  withoutCoaxDb: number
  dummyDb: number
  supplyRejectionDb: number
  filterDb: number
  mainsFilterDb: number
  /** How near the device's leads are to the antenna, m, and how far they are moved. */
  nearM: number
  movedM: number
  bondDb: number
  /** How much of what the device radiates leaves by its own leads. */
  leadsShare: number
  straightDb: number
  usbDb: number
  insideGainDb: number
}

export interface Hidden {
  culprits: Culprit[]
  /** Comes and goes by itself: so likely it is silent at any moment. */
  silentShare: number
  wiring: Wiring
}

const between = (r: Random, low: number, high: number) => low + (high - low) * r.uniform()
const choose = <T>(r: Random, weighed: readonly (readonly [T, number])[]): T => {
  let left = r.uniform() * weighed.reduce((s, [, w]) => s + w, 0)
  return (weighed.find(([, w]) => (left -= w) < 0) ?? weighed.at(-1)!)[0]
}

/** Share of stations with two culprits, of those outside and inside the receiver, and of intermittent ones. */
const TWO = 0.18
const BESIDE = [
  ['outside', 0.12],
  ['other', 0.06],
  ['receiver', 0.05],
  ['device', 0.77],
] as const
const INTERMITTENT = 0.06
/** Share of culprits with a second path that is heard. */
const SECOND_PATH = 0.5

/** Hides noise in a station. */
export function hide(devices: readonly Noisy[], hasData: boolean, r: Random): Hidden {
  const riseDb = between(r, 14, 34)
  const first = culprit(devices, { hasData, riseDb, where: choose(r, BESIDE) }, r)
  const culprits = [first]
  if (first.where === 'device' && r.uniform() < TWO) {
    const others = devices.filter(d => d.id !== first.device!.id)
    if (others.length)
      culprits.push(culprit(others, { hasData, riseDb: riseDb - between(r, 0, 8), where: 'device' }, r))
  }
  return { culprits, silentShare: r.uniform() < INTERMITTENT ? 0.3 : 0, wiring: wiringOf(r) }
}

function culprit(
  devices: readonly Noisy[],
  { hasData, riseDb, where }: { hasData: boolean; riseDb: number; where: Culprit['where'] },
  r: Random,
): Culprit {
  const device = where === 'device' ? devices[Math.floor(r.uniform() * devices.length)]! : null
  const paths = pathsOf(device, where, hasData)
  const main = choose(r, paths)
  const levelDb = Object.fromEntries(PATHS.map(p => [p, -40])) as Record<Path, number>
  levelDb[main] = riseDb
  const others = paths.filter(([p]) => p !== main && p !== 'audio' && main !== 'audio')
  if (others.length && r.uniform() < SECOND_PATH) levelDb[choose(r, others)] = riseDb - between(r, 3, 20)
  const mostA = device?.mostA
  const kind = r.uniform()
  const hasOnset = mostA !== undefined && kind < 0.3
  return {
    device,
    where,
    main,
    levelDb,
    onsetA: hasOnset ? mostA * between(r, 0.1, 0.85) : 0,
    startOnly: !hasOnset && Boolean(device?.charges) && kind > 0.93,
    idleDb: between(r, 0, 12),
    showsLines: main !== 'audio' && r.uniform() < 0.6,
    spacingHz: (device?.switchingHz ?? between(r, 25e3, 200e3)) * between(r, 0.96, 1.04),
  }
}

function pathsOf(device: Noisy | null, where: Culprit['where'], hasData: boolean): (readonly [Path, number])[] {
  if (where === 'outside') return [['antenna', 1]]
  if (where === 'receiver') return [['inside', 1]]
  if (where === 'other' || !device)
    return [
      ['antenna', 4],
      ['mains', 1],
    ]
  return [
    ['antenna', 4],
    ['dc-common', 3],
    ['dc-differential', 1],
    ['audio', 0.5],
    ...(device.hasMains ? [['mains', 1] as const] : []),
    ...(hasData ? [['data', 0.4] as const] : []),
  ]
}

const wiringOf = (r: Random): Wiring => ({
  radioLoop: [between(r, 40, 300), between(r, -250, 250)],
  deviceLoop: [between(r, 40, 400), between(r, -300, 300)],
  units: choose(r, [
    [64, 5],
    [36, 2],
    [16, 1],
  ]),
  unitOhm: [between(r, 15, 50), between(r, 0, 40)],
  floatDb: between(r, 14, 45),
  withoutCoaxDb: between(r, 0, 14),
  dummyDb: between(r, 28, 60),
  supplyRejectionDb: between(r, 28, 60),
  filterDb: between(r, 14, 45),
  mainsFilterDb: between(r, 8, 40),
  nearM: between(r, 0.7, 2.5),
  movedM: between(r, 4, 8),
  bondDb: between(r, -2, 18),
  leadsShare: between(r, 0.3, 1),
  straightDb: between(r, 5, 25),
  usbDb: between(r, 30, 60),
  insideGainDb: choose(r, [
    [0, 1],
    [60, 1],
  ]),
})

/** Insertion loss of a choke in a loop, dB: 20·log10(|Zl + Zc| / |Zl|). */
function chokeDb(loop: readonly [number, number], { units, unitOhm }: Wiring): number {
  const size = (re: number, im: number) => Math.hypot(re, im)
  return 20 * Math.log10(size(loop[0] + units * unitOhm[0], loop[1] + units * unitOhm[1]) / size(...loop))
}

/** What a setup takes off a path of a culprit, dB. */
function taken(c: Culprit, path: Path, setup: Setup, w: Wiring): number {
  let db = 0
  const is = (...paths: Path[]) => paths.includes(path)
  if (setup.antenna === 'dummy') {
    if (is('antenna')) db += w.dummyDb
    if (is('dc-common', 'mains', 'data')) db += w.withoutCoaxDb
  }
  if (setup.feed === 'own-battery') {
    if (is('dc-common')) db += w.floatDb
    if (is('dc-differential', 'audio')) db += w.supplyRejectionDb
    if (is('mains')) db += 0.25 * w.floatDb
  }
  if (setup.feed === 'from-battery' && is('dc-differential', 'audio')) db += w.straightDb
  if (setup.data === 'unplugged' && is('data')) db += w.usbDb
  if (setup.rfGain === 'down') {
    if (is('inside')) db += w.insideGainDb
    else if (!is('audio')) db += 65
  }
  for (const { what, at } of setup.added ?? []) db += addedDb(c, path, what, at, w)
  return db
}

function addedDb(
  c: Culprit,
  path: Path,
  what: NonNullable<Setup['added']>[number]['what'],
  at: string,
  w: Wiring,
): number {
  if (what === 'bond') return path === 'dc-common' ? w.bondDb : 0
  if (what === 'lc-filter') {
    if (path === 'dc-differential') return w.filterDb
    return path === 'audio' ? 0.4 * w.filterDb : 0
  }
  if (at === 'radio') return what === 'choke' && path === 'dc-common' ? chokeDb(w.radioLoop, w) : 0
  if (at !== c.device?.id) return 0
  if (what === 'swap') return 60
  if (what === 'mains-filter') return path === 'mains' ? w.mainsFilterDb : 0
  // Near field falls with the square of the distance, roughly.
  if (what === 'distance') return path === 'antenna' ? 40 * Math.log10(w.movedM / w.nearM) * 0.6 : 0
  const choked = chokeDb(w.deviceLoop, w)
  if (path === 'dc-common') return choked
  // Only what its leads radiate is choked.
  return path === 'antenna' ? -10 * Math.log10(1 - w.leadsShare + w.leadsShare * 10 ** (-choked / 10)) : 0
}

/** What a culprit makes in its state, dB less; Infinity: nothing. */
function silencedDb(c: Culprit, setup: Setup, devices: readonly Noisy[]): number {
  if (c.where === 'outside' || c.where === 'receiver') return 0
  if (setup.everything === 'off') return Infinity
  if (c.where === 'other') return devices.every(d => setup.devices?.[d.id]?.state === 'off') ? 0 : 0
  const put = setup.devices?.[c.device!.id]
  if (!put) return 0
  if (put.state === 'off') return Infinity
  if (put.state === 'idle') return c.onsetA || c.startOnly ? Infinity : c.idleDb
  if (c.startOnly) return (put.minutesOn ?? 0) <= 5 ? 0 : Infinity
  if (c.onsetA && put.currentA !== undefined && put.currentA < c.onsetA) return Infinity
  return 0
}

/** Power of all that is hidden at the receiver, over the floor (1). */
function power(hidden: Hidden, setup: Setup, devices: readonly Noisy[], isAudio: boolean): number {
  return hidden.culprits.reduce((sum, c) => {
    const less = silencedDb(c, setup, devices)
    if (less === Infinity) return sum
    return PATHS.reduce((s, path) => {
      if ((path === 'audio') !== isAudio) return s
      return s + 10 ** ((c.levelDb[path] - less - taken(c, path, setup, hidden.wiring)) / 10)
    }, sum)
  }, 0)
}

/** How an ear errs in comparing two levels, dB, and how often it is a step off altogether. */
const EAR_DB = 1.5

/** An operator at this station, with an ear that is wrong so often. */
export class Operator {
  constructor(
    private readonly hidden: Hidden,
    private readonly devices: readonly Noisy[],
    private readonly random: Random,
    private readonly wrongEar = 0.1,
  ) {}

  perform(test: Pick<Test, 'what' | 'setup'>, id: string): Observation {
    const common = { id, at: '2026-01-01T00:00:00Z' }
    if (test.what === 'sniff') return { kind: 'sniff', ...common, loudest: this.loudest() }
    if (test.what === 'comb') return { kind: 'comb', ...common, spacingHz: this.spacing() }
    return { kind: 'listen', ...common, setup: test.setup!, heard: this.heard(test.setup!) }
  }

  private heard(setup: Setup): 'same' | 'weaker' | 'gone' {
    const r = this.random
    const right = this.judged(setup)
    if (r.uniform() >= this.wrongEar) return right
    if (right !== 'weaker') return 'weaker'
    return r.uniform() < 0.5 ? 'same' : 'gone'
  }

  private judged(setup: Setup): 'same' | 'weaker' | 'gone' {
    const r = this.random
    const level = (s: Setup, isAudio: boolean) => power(this.hidden, s, this.devices, isAudio)
    // Audio ripple and what comes in by radio are heard together; the radio's floor is 1.
    const before = level({}, false) + level({}, true)
    const now = level(setup, false) + level(setup, true)
    const after = r.uniform() < this.hidden.silentShare ? 0 : now
    const leftDb = 10 * Math.log10(after + 1e-9)
    const fall = 10 * Math.log10(before) - leftDb + EAR_DB * r.normal()
    if (leftDb < 0.5 + r.normal() || fall >= 15) return 'gone'
    return fall < 4 ? 'same' : 'weaker'
  }

  /** A pocket set a hand's breadth away hears the field of whatever is nearest. */
  private loudest(): string {
    const r = this.random
    const heard = this.devices.map(d => {
      const own = this.hidden.culprits.find(c => c.device?.id === d.id)
      const near = own ? 15 + (own.main === 'audio' || own.main === 'dc-differential' ? -6 : 0) : 0
      return { id: d.id, db: near + 6 * r.normal() }
    })
    const [first] = heard.sort((a, b) => b.db - a.db)
    return first && first.db > 5 ? first.id : 'none'
  }

  private spacing(): number | null {
    const seen = this.hidden.culprits.filter(c => c.showsLines)
    return seen[0] ? Math.round(seen[0].spacingHz) : null
  }
}
