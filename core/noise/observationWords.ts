import { capital } from '../units/words'
import { WAYS } from './cause'
import { fitting, type Observation } from './observation'
import type { Setup } from './setup'
import { isPart, type Suspect } from './suspect'
import { list } from './words'
import { asGiven, fixed } from '../units/number'

/** Findings in words. */

export const nameIn = (devices: readonly Suspect[], id: string) => devices.find(d => d.id === id)?.name ?? id

function stateWords({ state, currentA, minutesOn }: NonNullable<NonNullable<Setup['devices']>[string]>): string {
  if (state === 'idle') return 'idle'
  if (currentA !== undefined) return `at ${asGiven(currentA)} A`
  return minutesOn === undefined ? 'working' : `${asGiven(minutesOn)} min on`
}

/** "With the antenna off: gone". */
export function observationWords(observation: Observation, devices: readonly Suspect[]): string {
  if (observation.kind === 'sniff')
    return observation.loudest === 'none'
      ? 'Pocket set: nowhere louder'
      : `Pocket set: loudest at ${nameIn(devices, observation.loudest)}`
  if (observation.kind === 'comb') {
    if (observation.spacingHz === null) return 'No evenly spaced tones'
    const fits = fitting(observation.spacingHz, devices)
    return (
      `Tones ${fixed(observation.spacingHz / 1000, 1)} kHz apart, which ` +
      `${fits.length ? `fits ${list(fits.map(d => nameIn(devices, d)))}` : 'fits no device whose frequency is known'}`
    )
  }
  if (observation.kind === 'own')
    return `${observation.words} (${observation.speaks} ${concernedWords(observation, devices)})`
  const { fall, times } = observation
  const heard = { same: 'as strong', weaker: 'weaker', gone: 'gone', 'not-sure': 'not sure' }[observation.heard]
  const measured = fall ? `${minus(fall.db)} ± ${fixed(fall.errorDb, 1)} dB` : heard
  return `${setupWords(observation.setup, devices)}: ${measured}${times && times > 1 ? `, ${times} times` : ''}`
}

const minus = (db: number) => `${db > 0 ? '−' : '+'}${fixed(Math.abs(db), 1)}`

const concernedWords = (
  { concerns, way }: { concerns: string; way?: string | undefined },
  devices: readonly Suspect[],
) => nameIn(devices, concerns) + (way ? `, ${WAYS.find(w => w.id === way)?.label ?? way}` : '')

export function setupWords(setup: Setup, devices: readonly Suspect[]): string {
  const put = Object.entries(setup.devices ?? {})
  const off = put.filter(([, s]) => s?.state === 'off').map(([d]) => nameIn(devices, d))
  const on = put.filter(([, s]) => s && s.state !== 'off').map(([d, s]) => `${nameIn(devices, d)} ${stateWords(s!)}`)
  const ADDED = {
    choke: 'a choke on the lead of',
    'lc-filter': 'an LC filter at',
    'mains-filter': 'a mains filter at',
    distance: 'more distance for',
    bond: 'a bond at',
    swap: 'another one in place of',
  }
  const own = devices.filter(d => isPart(d.id))
  if (!on.length && off.length > 1 && off.length === own.length) off.splice(0, off.length, 'everything')
  return capital(
    [
      ...(setup.everything === 'off' ? ['everything off at the main switch'] : []),
      ...(on.length ? [on.join(', ')] : []),
      ...(off.length ? [`${list(off)} off`] : []),
      ...(setup.antenna === 'dummy' ? ['the antenna off'] : []),
      ...(setup.feed === 'own-battery' ? ['the radio on a battery of its own'] : []),
      ...(setup.feed === 'from-battery' ? ['the radio straight on the battery'] : []),
      ...(setup.data === 'unplugged' && setup.everything !== 'off' ? ['its data leads out'] : []),
      ...(setup.rfGain === 'down' ? ['the RF gain down'] : []),
      ...(setup.added ?? []).map(a => `${ADDED[a.what]} ${a.at === 'radio' ? 'the radio' : nameIn(devices, a.at)}`),
    ].join(', with ') || 'as it is',
  )
}
