import type { Plan } from '../plan/schema'
import { allTests, nextTests, whenKnown, type Advice, type AtHand } from './advice'
import { BELIEVED, weightOf, type Pair, type Weight } from './belief'
import { wayLabel, WAYS, whenWords } from './cause'
import { cureLabel, effect, gains, suggestions, type Cure, type Suggestion } from './cure'
import { OUTSIDE, type Suspect } from './suspect'
import { reason, receiverOf, type Logbook, type NoiseCase, type Reasoned } from './logbook'
import { fitting, type Observation } from './observation'
import type { Setup } from './setup'
import { list, NEVER, UNPLUGGED } from './words'

const percent = (p: number) => (p > 0.995 ? 'over 99 %' : p < 0.005 ? 'under 1 %' : `${Math.round(100 * p)} %`)
const name = (devices: readonly Suspect[], id: string) => devices.find(d => d.id === id)?.name ?? id
const capital = (text: string) => text[0]!.toUpperCase() + text.slice(1)

/** "With the antenna off: gone". */
export function observationWords(observation: Observation, devices: readonly Suspect[]): string {
  if (observation.kind === 'sniff')
    return observation.loudest === 'none'
      ? 'Pocket set: nowhere louder'
      : `Pocket set: loudest at ${name(devices, observation.loudest)}`
  if (observation.kind === 'comb') {
    if (observation.spacingHz === null) return 'No evenly spaced tones'
    const fits = fitting(observation.spacingHz, devices)
    return `Tones ${(observation.spacingHz / 1000).toFixed(1)} kHz apart, which ${fits.length ? `fits ${list(fits.map(d => name(devices, d)))}` : 'fits no device whose frequency is known'}`
  }
  return `${setupWords(observation.setup, devices)}: ${{ same: 'as strong', weaker: 'weaker', gone: 'gone' }[observation.heard]}`
}

export function setupWords(setup: Setup, devices: readonly Suspect[]): string {
  const put = Object.entries(setup.devices ?? {})
  const off = put.filter(([, s]) => s?.state === 'off').map(([d]) => name(devices, d))
  const on = put
    .filter(([, s]) => s && s.state !== 'off')
    .map(
      ([d, s]) =>
        `${name(devices, d)} ${s!.state === 'idle' ? 'idle' : s!.currentA !== undefined ? `at ${s!.currentA} A` : s!.minutesOn !== undefined ? `${s!.minutesOn} min on` : 'working'}`,
    )
  const ADDED = {
    choke: 'a choke on the lead of',
    'lc-filter': 'an LC filter at',
    'mains-filter': 'a mains filter at',
    distance: 'more distance for',
    bond: 'a bond at',
  }
  const own = devices.filter(d => d.id !== OUTSIDE)
  if (!on.length && off.length > 1 && off.length === own.length) off.splice(0, off.length, 'everything')
  return capital(
    [
      ...(on.length ? [on.join(', ')] : []),
      ...(off.length ? [`${list(off)} off`] : []),
      ...(setup.antenna === 'dummy' ? ['the antenna off'] : []),
      ...(setup.feed === 'own-battery' ? ['the radio on a battery of its own'] : []),
      ...(setup.rfGain === 'down' ? ['the RF gain down'] : []),
      ...(setup.added ?? []).map(a => `${ADDED[a.what]} ${a.at === 'radio' ? 'the radio' : name(devices, a.at)}`),
    ].join(', with ') || 'as it is',
  )
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
  const best = belief.pairs[0]!
  const { bands } = noiseCase.complaint
  /** With the bands, where it was not heard on all of the complaint's. */
  const worded = (o: Observation) =>
    `${observationWords(o, devices)}${o.bands?.length && bands.some(b => !o.bands!.includes(b)) ? ` (${o.bands.join(', ')})` : ''}`
  const each = evidence.map((o, index): Evidence => ({
    index,
    words: worded(o),
    ...weighed(weightOf(causes, best, belief, index)),
    at: o.at,
    ...(o.who && { who: o.who }),
    ...(o.note && { note: o.note }),
  }))
  const atHand: AtHand = new Set(logbook.atHand)
  const state = belief.contradictions.length
    ? 'torn'
    : !evidence.length
      ? 'nothing known'
      : best.probability >= BELIEVED
        ? 'believed'
        : 'open'
  const label = (p: Pair) =>
    p.device === OUTSIDE ? 'something outside the station' : `${name(devices, p.device)}, ${wayLabel(p.way)}`
  const receiver = receiverOf(logbook, noiseCase.radio)
  const cures = noiseCase.cures.map(cure => {
    const did = effect(cure, receiver)
    const db = gains(cure, receiver)
    return {
      cure,
      words: `${capital(cureLabel(cure.what))} at ${cure.where === 'radio' ? 'the radio' : name(devices, cure.where)}${cure.detail ? `: ${cure.detail}` : ''}`,
      did: [
        did ? { same: 'no change', weaker: 'weaker', gone: 'gone' }[did] : 'not judged',
        ...db.map(g => `${g.band} ${g.db >= 0 ? '−' : '+'}${Math.abs(Math.round(g.db))} dB`),
      ].join(', '),
    }
  })
  return {
    headline: headline(noiseCase, state, best, devices, label),
    state,
    ranked: belief.pairs
      .slice(0, 6)
      .filter((p, i) => i < 3 || p.probability > 0.03)
      .map(pair => ({ pair, label: label(pair), percent: percent(pair.probability), when: whenKnown(causes, pair) })),
    forIt: each.filter(e => strength(e.weight) > TELLS).sort((a, b) => strength(b.weight) - strength(a.weight)),
    against: each.filter(e => strength(e.weight) < 1 / TELLS),
    neutral: each.filter(e => strength(e.weight) <= TELLS && strength(e.weight) >= 1 / TELLS),
    contradictions: contradictionWords(
      belief.contradictions,
      each.map(e => e.words),
      evidence,
    ),
    bandsDiffer: belief.contradictions.some(([i, k]) => disjoint(evidence[i]!.bands, evidence[k]!.bands)),
    prior: causes.reasons.get(best.device) ?? [],
    log: noiseCase.observations.map(o => ({
      words: worded(o),
      at: o.at,
      ...(o.who && { who: o.who }),
      ...(o.note && { note: o.note }),
      ...(o.allowedBy && { allowedBy: o.allowedBy }),
    })),
    cures,
    all: allTests(plan, causes, belief, atHand, noiseCase.radio),
    next: nextTests(plan, causes, belief, atHand, noiseCase.radio).filter(t => !done(evidence, t)),
    suggestions: suggestions(plan, best, devices, noiseCase.radio),
    cautions: [NEVER, ...(devices.some(d => d.hasMains) ? [UNPLUGGED] : [])],
    reasoned,
  }
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
          : `Make ${others.length > 1 ? 'it' : 'the one you are less sure of'} again, or look for two noisy devices, or for a way in that is none of these, as a USB or data lead.`
      }`,
    )
    left = left.filter(p => !p.includes(worst))
  }
  return said
}

/** A test that was made already would mostly repeat its own error. */
function done(evidence: readonly Observation[], test: Advice): boolean {
  if (test.what !== 'listen') return evidence.some(o => o.kind === test.what)
  const key = JSON.stringify(test.setup)
  return evidence.some(o => o.kind === 'listen' && JSON.stringify(o.setup) === key)
}

function headline(
  noiseCase: NoiseCase,
  state: CaseReport['state'],
  best: Pair,
  devices: readonly Suspect[],
  label: (p: Pair) => string,
): string {
  const where = noiseCase.complaint.bands.length ? ` on ${list(noiseCase.complaint.bands)}` : ''
  if (noiseCase.state === 'cured') return `Cured: ${label(best)}`
  if (state === 'nothing known') return `Nothing tried yet${where}; by the plan most likely ${label(best)}`
  if (state === 'torn')
    return `The findings contradict each other; most likely ${label(best)}, ${percent(best.probability)}`
  const way = WAYS.find(w => w.id === best.way)!.long
  const [first] = best.whens
  const when =
    first && first.when.kind !== 'always' && first.probability > 0.6 * best.probability
      ? `, ${whenWords(
          first.when,
          devices.find(d => d.id === best.device),
        )}`
      : ''
  if (state === 'believed')
    return best.device === OUTSIDE
      ? `It comes from outside the station, ${percent(best.probability)}`
      : `${name(devices, best.device)}${when}: ${way}; ${percent(best.probability)}`
  return `Most likely ${label(best)}, ${percent(best.probability)}`
}

/** The report as plain text, to be posted to a list. */
export function reportText(plan: Plan, noiseCase: NoiseCase, report: CaseReport): string {
  const lines = [
    noiseCase.title,
    `${plan.name}${noiseCase.complaint.bands.length ? `; heard on ${noiseCase.complaint.bands.join(', ')}` : ''}${noiseCase.complaint.sound ? `, as ${noiseCase.complaint.sound}` : ''}`,
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
  section(
    'Log',
    report.log.map(
      l =>
        `${l.at.slice(0, 16).replace('T', ' ')}  ${l.words}${l.who ? ` (${l.who})` : ''}${l.allowedBy ? `, possible by ${l.allowedBy}` : ''}`,
    ),
  )
  section(
    'Cures',
    report.cures.map(
      c =>
        `${c.words}: ${c.did}${c.cure.sideEffects ? `; ${c.cure.sideEffects}` : ''}; ${c.cure.kept ? 'kept' : 'not kept'}`,
    ),
  )
  if (report.state !== 'believed' && noiseCase.state === 'open' && report.next[0])
    section('Next test', [`${report.next[0].title}. ${report.next[0].do} ${report.next[0].watch}`])
  section('Mind', report.cautions)
  return lines.join('\n') + '\n'
}
