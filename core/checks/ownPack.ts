import { partsOf } from '../kinds/index'
import { volts } from '../units/show'
import type { Check, Found } from './check'

export const ownPackUncharged: Check = {
  id: 'own-pack-uncharged',
  severities: ['note'],
  looksAt: 'all; radios with a pack of their own, against the voltage from which it is charged',
  title: "A radio's own pack is never charged here",
  why:
    'Small radios charge their own pack only above some voltage. Under it they run from outside and keep what they ' +
    'have, and on the day the lead is left at home the pack is flat.',
  source: "the radio's manual (internalBattery.chargesAboveV)",
  find: study =>
    partsOf(study.plan.parts, 'radio').flatMap((radio): Found[] => {
      const fromV = radio.internalBattery?.chargesAboveV
      const span = study.arrival(radio.id)
      if (fromV === undefined || !span || span.high.value >= fromV) return []
      return [
        {
          severity: 'note',
          place: radio.id,
          condition: span.high.condition,
          title: `The own pack of ${study.name(radio)} is not charged`,
          message:
            `No more than ${volts(span.high.value)} ever reaches ${study.name(radio)}; its own pack is charged above ` +
            `${volts(fromV)}.`,
          numbers: { highestV: span.high.value, chargesAboveV: fromV },
        },
      ]
    }),
}
