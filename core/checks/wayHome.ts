import { setItem } from '../edit/items'
import { setField, setSite } from '../edit/set'
import { partsOf } from '../kinds/index'
import { leadById, leadName, partIdOf } from '../plan/find'
import { schoolOf, type Lead } from '../plan/schema'
import type { Study } from '../study/study'
import type { Check, Found } from './check'

/** Where a radio's current goes when its own negative is open. */

/** Another way home than the lead's negative: a bond of the case, a common ground, an earthed supply on the wire. */
function otherWay(study: Study, radio: { id: string; grounded?: boolean; dataTo?: string }): string | null {
  const near = study.around(radio.id).map(a => a.part)
  if (partsOf(near, 'converter').some(c => c.isolated)) return null
  if (radio.grounded) return 'its bonded case'
  if (study.plan.site?.ground === 'common') return 'the common ground'
  const computer = near.find(p => p.id === radio.dataTo)
  if (computer) return `the data lead to ${study.name(computer)}`
  const earthed = partsOf(near, 'supply').find(s => s.floating === false)
  return earthed ? `the earth of ${study.name(earthed)}` : null
}

export const shieldReturn: Check = {
  id: 'shield-return',
  severities: ['caution'],
  looksAt: 'radios whose lead can open in its negative, by a fuse or a bad contact, with another way home',
  title: "Radio's return by coax or USB shield",
  why:
    'If the negative opens, by its fuse or a loose contact, the radio goes on working: its whole current comes ' +
    'home by ' +
    'the coax shield, the USB lead of the computer or the ground strap, which are not made for it and burn.',
  source: 'practice of bonded stations',
  find: study =>
    partsOf(study.plan.parts, 'radio').flatMap(radio =>
      study.leadsOf(radio.id).flatMap((lead): Found[] => {
        const opening = opensNegative(lead)
        const way = opening && otherWay(study, radio)
        if (!opening || !way || schoolOf(study.plan, 'fuseLegs') === 'both') return []
        return [
          {
            severity: 'caution',
            place: lead.id,
            also: [opening.id, radio.id],
            condition: null,
            title: `The negative of ${leadName(lead)} can open alone`,
            message:
              `If ${opening.words} in the negative of ${leadName(lead)} opens, the current of ` +
              `${study.name(radio)} comes ` +
              `home by ${way}: over a coax shield or a data lead, which are not made for it.`,
            numbers: {},
            otherSchool: 'The other school fuses both legs where the case is bonded to a body of a vehicle.',
          },
        ]
      }),
    ),
  fixes: (found, study) => {
    const [opening] = found.also!
    const end = (['from', 'to'] as const).find(e => e === opening)
    return end
      ? [
          {
            label: `A new contact at ${partIdOf(leadById(study.plan, found.place)![end])}`,
            patch: setField(study.plan, found.place, `ends.${end}.contact`, 'new'),
          },
        ]
      : [{ label: 'Fuse the positive only', patch: setItem(study.plan, found.place, opening!, { legs: 'positive' }) }]
  },
}

/** What of a lead may open its negative by itself: a fuse in that leg, or a contact that is no good. */
function opensNegative(lead: Lead): { id: string; words: string } | null {
  const item = lead.inline?.find(i => 'legs' in i && (i.legs === 'both' || i.legs === 'negative'))
  if (item) return { id: item.id, words: `the ${item.kind}` }
  const end = (['from', 'to'] as const).find(e => lead.ends?.[e]?.contact === 'oxidised')
  return end ? { id: end, words: `the oxidised contact at ${partIdOf(lead[end])}` } : null
}

export const socketFuse: Check = {
  id: 'socket-fuse',
  severities: ['note'],
  looksAt: "accessory sockets of a vehicle that do not say the vehicle's own fuse",
  title: 'Whose fuse is behind the socket?',
  why:
    "A vehicle's accessory socket hangs on a fuse of the vehicle, 10 to 20 A, often together with others; it " +
    'protects ' +
    "the vehicle's wiring, and opens before a transmitter is done.",
  source: "the vehicle's fuse list",
  find: study =>
    partsOf(study.plan.parts, 'vehicle').flatMap((vehicle): Found[] =>
      vehicle.terminal !== 'accessory-12v' || vehicle.fuse || !study.leadsOf(vehicle.id).length
        ? []
        : [
            {
              severity: 'note',
              place: vehicle.id,
              condition: null,
              title: `Fuse behind ${study.name(vehicle)} not said`,
              message: `${study.name(vehicle)} has a fuse of the vehicle's own: look it up, and enter it.`,
              numbers: {},
            },
          ],
    ),
}

export const bothLegsAsked: Check = {
  id: 'both-legs-asked',
  severities: ['note'],
  looksAt: 'radios on a vehicle in a plan that does not say whether one leg is fused or both',
  title: 'One leg or both, in a vehicle?',
  why:
    "A radio screwed to a vehicle's body has a second way home. If the battery's ground strap fails, the starter's " +
    "current comes through the radio's negative lead: some fuse both legs, some take the negative to the body.",
  source: 'practice of vehicle installs; site.schools.fuseLegs',
  find: study => {
    if (study.plan.site?.schools?.fuseLegs !== undefined) return []
    return partsOf(study.plan.parts, 'vehicle').flatMap((vehicle): Found[] => {
      const wired = study.leadsOf(vehicle.id).filter(l => l.return !== 'chassis')
      const radio = partsOf(
        study.around(vehicle.id).map(a => a.part),
        'radio',
      ).find(r => wired.some(l => partIdOf(l.from) === r.id || partIdOf(l.to) === r.id))
      if (!radio || vehicle.terminal === 'accessory-12v') return []
      return [
        {
          severity: 'note',
          place: radio.id,
          also: [vehicle.id],
          condition: null,
          title: `Fuse one leg of ${study.name(radio)}, or both?`,
          message:
            `${study.name(radio)} is wired to ${study.name(vehicle)} with both legs; the plan does not say which ` +
            'are fused.',
          numbers: {},
        },
      ]
    })
  },
  fixes: (_, study) =>
    (['positive', 'both'] as const).map(side => ({
      label: side === 'both' ? 'Fuse both legs' : 'Fuse the positive only',
      patch: setSite(study.plan, 'schools.fuseLegs', side),
    })),
}
