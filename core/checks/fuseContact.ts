import { connector } from '../catalog/connectors'
import { ratingsCarrying } from '../fuse/fuse'
import { setDevice } from '../edit/ends'
import { largestAmps, type SolvedPlan } from '../circuit/matrix'
import { solvedAfter } from '../fixes/conductor'
import { turnDownAny } from '../fixes/power'
import { propose, type Proposal } from '../fixes/proposal'
import { deviceAt, devicesIn, type Device } from '../graph/device'
import { leadName } from '../plan/find'
import { terminalName } from '../plan/names'
import type { Lead } from '../plan/schema'
import type { Study } from '../study/study'
import { amps } from '../units/show'
import type { Check, Found } from './check'
import { landingsOf, type Landing } from './landings'
import { anA, capital } from '../units/words'
import { asGiven } from '../units/number'

/** Up to here a fuse never opens, in multiples of its rating (ISO 8820-3). */
const NEVER_OPENS = 1.35

/** The smallest fuse on the lead of a landing: its own, or the port's it comes from. */
function fuseOf(study: Study, { lead }: Landing): Device | null {
  const ports = [lead.from, lead.to]
    .map(t => study.solved.network.terminals.get(t))
    .flatMap(t => (t ? [deviceAt(t)] : []))
  const all = [...devicesIn(lead), ...ports].filter(d => d !== null)
  return all.length ? all.reduce((a, b) => (b.ratedA < a.ratedA ? b : a)) : null
}

/** A smaller rating of the class that still carries what flows, and that the contact stands; null: none is made. */
function smallerFits(device: Device, contactA: number, flowsA: number): number | null {
  if (device.kind !== 'fuse') return null
  return ratingsCarrying(device.type, flowsA).findLast(a => a <= contactA) ?? null
}

export const fuseOverContact: Check = {
  id: 'fuse-over-contact',
  severities: ['danger', 'caution'],
  looksAt: 'all; every contact against the smallest fuse on its lead',
  title: 'Fuse over the contact behind it',
  why:
    'A fuse lets 1.35 times its rating pass for ever. If that is more than a contact carries, the contact melts and ' +
    'the fuse never knows.',
  source: 'ISO 8820-3 (opening times); the rated currents of the connector families',
  find: study =>
    landingsOf(study).flatMap((landing): Found[] => {
      const { lead, mating, fitted, terminal } = landing
      const device = fuseOf(study, landing)
      if (!device || !mating.mates || mating.ratedA === null || device.ratedA <= mating.ratedA + 1e-9) return []
      const wide = device.ratedA > NEVER_OPENS * mating.ratedA
      // What is not fed says nothing of what will flow.
      const { unfed, nodeOf } = study.solved.network
      const better = unfed[nodeOf.get(terminal)!]
        ? null
        : smallerFits(device, mating.ratedA, study.leadAmps(lead).value)
      // The next size up over a contact that works near its rating: no fuse is made between.
      if (!wide && better === null) return []
      return [
        {
          severity: device.ratedA > 2 * mating.ratedA ? 'danger' : 'caution',
          place: terminal,
          also: [lead.id],
          condition: null,
          title: `${capital(anA(amps(device.ratedA)))} fuse over ${anA(amps(mating.ratedA))} contact`,
          message:
            `The ${asGiven(device.ratedA)} A ${device.kind} of ${leadName(lead)} is larger than the ` +
            `${connector(fitted).label} at ${terminalName(study.plan, terminal)}, rated ${amps(mating.ratedA)}.`,
          numbers: { ratedA: device.ratedA, contactA: mating.ratedA, ...(better !== null && { fitsA: better }) },
        },
      ]
    }),
  fixes: (found, study) => {
    const landing = landingsOf(study).find(l => l.terminal === found.place && l.lead.id === found.also![0])
    const device = landing && fuseOf(study, landing)
    const { fitsA } = found.numbers
    const patch = device && fitsA !== undefined ? setDevice(study.plan, device, 'ratedA', fitsA) : null
    if (patch) return [propose(capital(anA(`${asGiven(fitsA!)} A ${device!.kind}`)), patch)]
    return device && landing ? lessPower(study, device, landing.lead, found.numbers.contactA!) : []
  },
}

/** Less power, so that a fuse carries the current which the contact stands. */
function lessPower(study: Study, device: Device, lead: Lead, contactA: number): Proposal[] {
  const through = (solved: SolvedPlan) => largestAmps(solved, solved.network.branchOfLead.get(lead.id)).value
  const less = turnDownAny(study.plan, solved => smallerFits(device, contactA, through(solved)) !== null)
  const next = less && solvedAfter(study.plan, less.patch)
  const fitsA = next ? smallerFits(device, contactA, through(next)) : null
  const fuse = fitsA === null ? null : setDevice(study.plan, device, 'ratedA', fitsA)
  if (!less || !fuse || fitsA === null) return []
  const label = `${less.label}, with ${anA(`${asGiven(fitsA)} A ${device.kind}`)}`
  return [{ ...less, label, patch: [...less.patch, ...fuse] }]
}
