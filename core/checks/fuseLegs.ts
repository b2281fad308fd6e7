import { addItem, setItem } from '../edit/items'
import { fittingRatings } from '../fuse/fuse'
import { conductorName } from '../conductor/resistance'
import { partsOf } from '../kinds/index'
import { leadById, leadName, partIdOf } from '../plan/find'
import { schoolOf, type Lead } from '../plan/schema'
import { sourceLimitA } from '../protection/prospective'
import { hasDevice } from '../graph/device'
import type { Proposal } from '../fixes/proposal'
import { anA, capital } from '../units/words'
import type { Check, Found } from './check'
import type { Study } from '../study/study'
import { asGiven } from '../units/number'

/** A fuse in each leg that wants one of its own. */

export const fuseLegs: Check = {
  id: 'fuse-legs',
  severities: ['caution'],
  looksAt:
    'leads from a vehicle or battery to a radio, where the plan fuses both legs or the current returns by a chassis',
  title: 'Only one leg fused where both are called for',
  why:
    "A radio bonded to a vehicle's body has two ways home. If the battery's ground strap fails, the starter's " +
    "current comes through the radio's negative lead, and a fuse in the positive never sees it.",
  source: 'practice of vehicle installs; site.schools.fuseLegs',
  find: study =>
    schoolOf(study.plan, 'fuseLegs') !== 'both'
      ? []
      : study.unprotected.flatMap((run): Found[] => {
          const item = run.lead.inline?.find(i => i.id === run.device?.item)
          if (
            sourceLimitA(run.source) !== null ||
            item?.kind !== 'fuse' ||
            item.legs === 'both' ||
            run.lead.return === 'chassis'
          )
            return []
          return [
            {
              severity: 'caution',
              place: run.lead.id,
              also: [item.id],
              condition: null,
              title: `${capital(leadName(run.lead))} is fused in one leg`,
              message:
                `The ${asGiven(item.ratedA)} A fuse of ${leadName(run.lead)} is in the ` +
                `${item.legs ?? 'positive'} leg only; the plan asks for both.`,
              numbers: { ratedA: item.ratedA },
              otherSchool: 'The other school fuses the positive only: one fuse opens the loop.',
            },
          ]
        }),
  fixes: (found, study) => [
    {
      label: 'A second fuse in the negative',
      patch: setItem(study.plan, found.place, found.also![0]!, { legs: 'both' }),
    },
  ],
}

export const fuseEachConnection: Check = {
  id: 'fuse-each-connection',
  severities: ['note'],
  looksAt: 'every lead to a load, where the plan fuses at every change of wire',
  title: 'Change of wire without a fuse of its own',
  why: 'Where a thinner wire begins, a fuse that fits it lets a fault take out one load, not the station.',
  source: 'practice; site.schools.fusePlacing',
  find: study =>
    schoolOf(study.plan, 'fusePlacing') !== 'each-connection'
      ? []
      : study.plan.leads.flatMap((lead): Found[] => {
          const near = [lead.from, lead.to].map(t => study.solved.network.terminals.get(t))
          if (
            near.some(t => t?.opener) ||
            hasDevice(lead) ||
            !study.loads.some(l => partIdOf(lead.from) === l.id || partIdOf(lead.to) === l.id)
          )
            return []
          return [
            {
              severity: 'note',
              place: lead.id,
              condition: null,
              title: `${capital(leadName(lead))} has no fuse of its own`,
              message:
                `${capital(leadName(lead))} (${conductorName(lead.conductor)}) ` +
                'begins without a fuse that fits it.',
              numbers: {},
              otherSchool: 'The other school counts one fuse that fits the thinnest wire as enough.',
            },
          ]
        }),
  fixes: (found, study) => ownFuse(study, leadById(study.plan, found.place)!),
}

/** A fuse at the source end of a lead that carries its current and protects it. */
function ownFuse(study: Study, lead: Lead): Proposal[] {
  const ratedA = fittingRatings('blade', study.leadAmps(lead).value, study.largestFuse(lead))[0]
  const end = study.loads.some(l => partIdOf(lead.from) === l.id) ? ('to' as const) : ('from' as const)
  return ratedA === undefined
    ? []
    : [
        {
          label: capital(anA(`${asGiven(ratedA)} A blade fuse where ${leadName(lead)} begins`)),
          patch: addItem(
            study.plan,
            lead.id,
            { kind: 'fuse', type: 'blade', ratedA, legs: 'positive' },
            { end, fromEndM: 0.1 },
          ),
        },
      ]
}

export const harnessUnfused: Check = {
  id: 'harness-unfused',
  severities: ['caution'],
  looksAt: 'the legs of every Y-harness',
  title: 'Y-harness without fuses in its legs',
  why:
    'A harness splits one fused lead into several. The fuse before it is sized for all of them together, so a ' +
    'fault in one radio meets a fuse far too large for it.',
  source: "practice; the radio's own fuse size in its manual",
  find: study =>
    partsOf(study.plan.parts, 'joint').flatMap((joint): Found[] => {
      if (joint.style !== 'harness') return []
      const legs = study
        .leadsOf(joint.id)
        .filter(l => study.loads.some(p => partIdOf(l.from) === p.id || partIdOf(l.to) === p.id))
      const bare = legs.filter(l => !hasDevice(l))
      if (legs.length < 2 || !bare.length) return []
      return [
        {
          severity: 'caution',
          place: joint.id,
          also: bare.map(l => l.id),
          condition: null,
          title: `${bare.length} leg${bare.length > 1 ? 's' : ''} of ${study.name(joint)} without a fuse`,
          message:
            `${capital(bare.map(leadName).join(' and '))} ${bare.length > 1 ? 'leave' : 'leaves'} ` +
            `${study.name(joint)} with no fuse of ${bare.length > 1 ? 'their' : 'its'} own.`,
          numbers: { legs: bare.length },
        },
      ]
    }),
  fixes: (found, study) => {
    const fuses = found.also!.map(id => ownFuse(study, leadById(study.plan, id)!)[0])
    return fuses.every(f => f !== undefined) && fuses.length
      ? [{ label: fuses.length === 1 ? fuses[0]!.label : `A fuse in each leg`, patch: fuses.flatMap(f => f!.patch) }]
      : []
  },
}
