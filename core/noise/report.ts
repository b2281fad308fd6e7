import type { Plan } from '../plan/schema'
import { allTests, whenKnown, worthMaking, type Advice } from './advice'
import { BELIEVED, weightOf, type Belief, type Pair, type Weight } from './belief'
import { wayLabel, WAYS, whenWords, type Way } from './cause'
import { cureLabel, effect, gains, suggestions, type Cure, type Suggestion } from './cure'
import { onsetOf, onsetWords, type Onset } from './onset'
import { isPart, OUTSIDE, RECEIVER, unweighedWords, type Suspect } from './suspect'
import { reason, receiverOf, type Logbook, type NoiseCase, type Reasoned } from './logbook'
import type { Observation } from './observation'
import { nameIn as name, observationWords } from './observationWords'
import { capital } from '../units/words'
import { verdictsOf } from './verdict'
import { list, NEVER, UNPLUGGED } from './words'
import { asGiven } from '../units/number'
import { decibels } from '../units/show'

function percent(p: number): string {
  if (p > 0.995) return 'over 99 %'
  return p < 0.005 ? 'under 1 %' : `${Math.round(100 * p)} %`
}

/** One line of evidence: how much it moved the odds of the best pair, and what of it. */
export interface Evidence {
  index: number
  words: string
  weight: Weight
  about: string
  at: string
  who?: string
  note?: string
}

export interface CaseReport {
  /** What to believe, in one sentence. */
  headline: string
  state: 'nothing known' | 'open' | 'believed' | 'torn'
  ranked: { pair: Pair; label: string; percent: string; when: string }[]
  forIt: Evidence[]
  against: Evidence[]
  /** What tells next to nothing, all the rest being known. */
  neutral: Evidence[]
  /** Findings that no single cause explains, in words. */
  contradictions: string[]
  /** Findings that the others make unlikely, in words. */
  doubts: string[]
  /** Whether they were heard on different bands, each of which may have a way of its own. */
  bandsDiffer: boolean
  prior: string[]
  log: { words: string; at: string; who?: string; note?: string; allowedBy?: string }[]
  cures: { cure: Cure; words: string; did: string }[]
  next: Advice[]
  /** Every test there is, those made already too. */
  all: Advice[]
  suggestions: Suggestion[]
  cautions: string[]
  reasoned: Reasoned
}

/** Factors within which an observation says nothing either way. */
const TELLS = 1.25

/** The factor that moved more, of device and way. */
const strength = ({ device, way }: Weight) => (Math.abs(Math.log(device)) >= Math.abs(Math.log(way)) ? device : way)

function weighed(weight: Weight): { weight: Weight; about: string } {
  const tells = (factor: number) => factor > TELLS || factor < 1 / TELLS
  const about = [...(tells(weight.device) ? ['the device'] : []), ...(tells(weight.way) ? ['the way'] : [])]
  return { weight, about: about.join(' and ') }
}

/** Everything that a case page or a printed report shows. */
export function caseReport(plan: Plan, noiseCase: NoiseCase, logbook: Logbook): CaseReport {
  const reasoned = reason(plan, noiseCase, logbook)
  const { causes, evidence, belief } = reasoned
  const { devices } = causes
  const verdicts = verdictsOf(belief)
  const best = verdicts[0]!.pair
  const state = stateOf(belief, evidence.length > 0, verdicts[0]!.probability)
  const label = (p: Pair) => labelOf(p, devices)
  const each = evidence.map((o, index): Evidence => ({
    index,
    words: wordsOf(noiseCase, o, devices),
    ...weighed(weightOf(causes, best, belief, index)),
    ...noted(o),
  }))
  const known = { plan, causes, belief, evidence, atHand: new Set(logbook.atHand), radio: noiseCase.radio }
  const all = allTests(known)
  return {
    headline: headline(noiseCase, state, devices, {
      pair: { ...best, probability: verdicts[0]!.probability },
      words: label(best),
      onset: onsetOf(evidence, best.device),
    }),
    state,
    ranked: verdicts
      .slice(0, 6)
      .filter((v, i) => i < 3 || v.probability > 0.03)
      .map(({ pair, probability }) => ({
        pair: { ...pair, probability },
        label: label(pair),
        percent: percent(probability),
        when: onsetWords(onsetOf(evidence, pair.device)) ?? whenKnown(causes, pair),
      })),
    ...sortedEvidence(each),
    contradictions: contradictionWords(
      belief.contradictions,
      each.map(e => e.words),
      evidence,
    ),
    doubts: belief.doubts.map(
      d => `“${each[d.index]!.words}” is likely a slip, ${percent(d.probability)}: make it again, several times.`,
    ),
    bandsDiffer: belief.contradictions.some(([i, k]) => disjoint(evidence[i]!.bands, evidence[k]!.bands)),
    prior: causes.reasons.get(best.device) ?? [],
    log: noiseCase.observations.map(o => ({
      words: wordsOf(noiseCase, o, devices),
      ...noted(o),
      ...(o.allowedBy && { allowedBy: o.allowedBy }),
    })),
    cures: curesTried(noiseCase, logbook, devices),
    all,
    next: inTurn(
      worthMaking(all, belief).filter(t => !done(evidence, t)),
      noiseCase,
    ),
    suggestions: untriedFirst(suggestionsFor(plan, best, devices, noiseCase.radio), noiseCase, logbook),
    cautions: [...unweighedWords(plan), NEVER, ...(devices.some(d => d.hasMains) ? [UNPLUGGED] : [])],
    reasoned,
  }
}

/** "Inverter, common mode on the DC lead", "Inverter, … and DC-DC charger, …". */
function labelOf({ device, way, also, secondWay }: Pair, devices: readonly Suspect[]): string {
  const one = (id: string, by: Way) => (isPart(id) ? `${name(devices, id)}, ${wayLabel(by)}` : name(devices, id))
  if (also) return `${one(device, way)}, and ${one(also.device, also.way)}`
  return one(device, way) + (secondWay ? `, partly ${wayLabel(secondWay)}` : '')
}

/** What somebody cannot make now comes after the rest, and what they will not make at all not. */
function inTurn(next: Advice[], { skipped = [] }: NoiseCase): Advice[] {
  const why = (t: Advice) => skipped.findLast(s => s.test === t.id)?.why
  return [...next.filter(t => why(t) === undefined), ...next.filter(t => why(t) === 'cannot-now')]
}

/** Cures against each of two devices, the louder one's first. */
function suggestionsFor(plan: Plan, pair: Pair, devices: readonly Suspect[], radio: string | undefined): Suggestion[] {
  const first = suggestions(plan, pair, devices, radio)
  return pair.also ? [...first, ...suggestions(plan, pair.also, devices, radio)] : first
}

/** A cure that was tried and did nothing comes last. */
function untriedFirst(all: Suggestion[], noiseCase: NoiseCase, logbook: Logbook): Suggestion[] {
  const receiver = receiverOf(logbook, noiseCase.radio)
  const failed = (s: Suggestion) =>
    noiseCase.cures.some(c => c.what === s.what && c.where === s.where && effect(c, receiver) === 'same')
  return [...all.filter(s => !failed(s)), ...all.filter(failed)]
}

/** What was heard, with the bands where it was not heard on all of the complaint's. */
function wordsOf(noiseCase: NoiseCase, o: Observation, devices: readonly Suspect[]): string {
  const isPart = o.bands?.length && noiseCase.complaint.bands.some(b => !o.bands!.includes(b))
  return observationWords(o, devices) + (isPart ? ` (${o.bands!.join(', ')})` : '')
}

const noted = ({ at, who, note }: Observation) => ({ at, ...(who && { who }), ...(note && { note }) })

function sortedEvidence(each: readonly Evidence[]): Pick<CaseReport, 'forIt' | 'against' | 'neutral'> {
  return {
    forIt: each.filter(e => strength(e.weight) > TELLS).sort((a, b) => strength(b.weight) - strength(a.weight)),
    against: each.filter(e => strength(e.weight) < 1 / TELLS),
    neutral: each.filter(e => strength(e.weight) <= TELLS && strength(e.weight) >= 1 / TELLS),
  }
}

/** "−12 dB", "+3 dB", "0 dB". */
const signedDb = (db: number) => (Math.round(db) > 0 ? '+' : '') + decibels(db)

const DID = { same: 'no change', weaker: 'weaker', gone: 'gone' } as const

function curesTried(noiseCase: NoiseCase, logbook: Logbook, devices: readonly Suspect[]): CaseReport['cures'] {
  const receiver = receiverOf(logbook, noiseCase.radio)
  return noiseCase.cures.map(cure => {
    const did = effect(cure, receiver)
    const where = cure.where === 'radio' ? 'the radio' : name(devices, cure.where)
    const levels = gains(cure, receiver).map(g => `${g.band} ${signedDb(-g.db)}`)
    return {
      cure,
      words: `${capital(cureLabel(cure.what))} at ${where}${cure.detail ? `: ${cure.detail}` : ''}`,
      did: [did ? DID[did] : 'not judged', ...levels].join(', '),
    }
  })
}

/** A slip is voted down by what comes after: what is believed in spite of it is believed. */
function stateOf(belief: Belief, hasEvidence: boolean, probability: number): CaseReport['state'] {
  if (!hasEvidence) return 'nothing known'
  if (probability >= BELIEVED) return 'believed'
  return belief.contradictions.length ? 'torn' : 'open'
}

const disjoint = (a: readonly string[] | undefined, b: readonly string[] | undefined) =>
  !!a?.length && !!b?.length && !a.some(x => b.includes(x))

/** One sentence a finding that others contradict, the one with most against it first. */
function contradictionWords(
  pairs: readonly [number, number][],
  words: readonly string[],
  evidence: readonly Observation[],
): string[] {
  const said: string[] = []
  for (let left = [...pairs]; left.length;) {
    const count = new Map<number, number>()
    left.flat().forEach(i => count.set(i, (count.get(i) ?? 0) + 1))
    // Of two that contradict only each other, the later one.
    const worst = [...count].sort((a, b) => b[1] - a[1] || b[0] - a[0])[0]![0]
    const others = left.filter(p => p.includes(worst)).map(p => (p[0] === worst ? p[1] : p[0]))
    const apart = others.every(i => disjoint(evidence[i]!.bands, evidence[worst]!.bands))
    said.push(
      `“${words[worst]}” has no cause in common with ${list(others.map(i => `“${words[i]}”`))}. ${
        apart
          ? `They were heard on different bands: there may be a way in of its own on each. Make a case for each band.`
          : `Make ${others.length > 1 ? 'it' : 'the one you are less sure of'} again, or look for two noisy ` +
            'devices, for one that comes and goes by itself, or for a way in that is none of these.'
      }`,
    )
    left = left.filter(p => !p.includes(worst))
  }
  return said
}

/** A test that was made already would mostly repeat its own error; a doubted finding is what is to be made again. */
function done(evidence: readonly Observation[], test: Advice): boolean {
  if (test.repeats !== undefined) return false
  if (test.what !== 'listen') return evidence.some(o => o.kind === test.what)
  const key = JSON.stringify(test.setup)
  return evidence.some(o => o.kind === 'listen' && JSON.stringify(o.setup) === key)
}

function headline(
  noiseCase: NoiseCase,
  state: CaseReport['state'],
  devices: readonly Suspect[],
  { pair, words, onset }: { pair: Pair; words: string; onset: Onset },
): string {
  const { bands } = noiseCase.complaint
  const surely = percent(pair.probability)
  if (noiseCase.state === 'cured') return `Cured: ${words}`
  if (state === 'nothing known')
    return `Nothing tried yet${bands.length ? ` on ${list(bands)}` : ''}; by the plan most likely ${words}`
  if (state === 'torn') return `The findings contradict each other; most likely ${words}, ${surely}`
  if (state === 'open') return `Most likely ${words}, ${surely}`
  if (pair.also) return `Two at once: ${words}; ${surely}`
  if (pair.device === OUTSIDE) return `It comes from outside the station, ${surely}`
  if (pair.device === RECEIVER) return `It is made in the receiver itself, ${surely}`
  const way = WAYS.find(w => w.id === pair.way)!.long
  return `${name(devices, pair.device)}${whenOf(pair, devices, onset)}: ${way}; ${surely}`
}

/** ", above 4 to 9 A" as it was heard; else ", above about 7 A" where that is known as well as the rest. */
function whenOf({ device, whens, probability }: Pair, devices: readonly Suspect[], onset: Onset): string {
  const [first] = whens
  if (!first || first.when.kind !== 'over') {
    const isSaid = first && first.when.kind !== 'always' && first.probability > 0.6 * probability
    return isSaid ? `, ${whenWords(first.when, undefined)}` : ''
  }
  const { quietUpToA, heardFromA } = onset
  if (quietUpToA !== undefined && heardFromA !== undefined)
    return `, above ${asGiven(quietUpToA)} to ${asGiven(heardFromA)} A`
  if (first.probability <= 0.6 * probability) return ''
  return `, ${whenWords(
    first.when,
    devices.find(d => d.id === device),
  )}`
}

/** The report as plain text, to be posted to a list. */
export function reportText(plan: Plan, noiseCase: NoiseCase, report: CaseReport): string {
  const { bands, sound } = noiseCase.complaint
  const lines = [
    noiseCase.title,
    `${plan.name}${bands.length ? `; heard on ${bands.join(', ')}` : ''}${sound ? `, as ${sound}` : ''}`,
  ]
  if (noiseCase.complaint.words) lines.push(noiseCase.complaint.words)
  lines.push('', report.headline, '', 'Believed')
  report.ranked.forEach(r => lines.push(`  ${r.percent.padStart(9)}  ${r.label}${r.when && ` (${r.when})`}`))
  const section = (title: string, rows: string[]) => rows.length && lines.push('', title, ...rows.map(r => `  ${r}`))
  section(
    'For it',
    report.forIt.map(e => `${e.words} (${e.about})`),
  )
  section(
    'Against it',
    report.against.map(e => `${e.words} (${e.about})`),
  )
  section('Contradictions', report.contradictions)
  section('Doubted', report.doubts)
  section(
    'Log',
    report.log.map(
      l =>
        `${l.at.slice(0, 16).replace('T', ' ')}  ` +
        `${l.words}${l.who ? ` (${l.who})` : ''}${l.allowedBy ? `, possible by ${l.allowedBy}` : ''}`,
    ),
  )
  section(
    'Cures',
    report.cures.map(
      c =>
        `${c.words}: ${c.did}${c.cure.sideEffects ? `; ${c.cure.sideEffects}` : ''}; ` +
        `${c.cure.kept ? 'kept' : 'not kept'}`,
    ),
  )
  if (report.state !== 'believed' && noiseCase.state === 'open' && report.next[0])
    section('Next test', [`${report.next[0].title}. ${report.next[0].do} ${report.next[0].watch}`])
  section('Mind', report.cautions)
  return lines.join('\n') + '\n'
}
