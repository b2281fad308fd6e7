import { RECORDED_HEARD } from '../../data/recordedHeard'
import { RECORDED_HOURS } from '../../data/recordedHours'
import { RECORDED_NOISE } from '../../data/recordedNoise'
import { RECORDED_RANDOM } from '../../data/recordedRandom'
import { holdsToRecorded } from '../../data/holdsToRecorded'

holdsToRecorded('whole answers on plans, events and evidence at random', {
  ...RECORDED_RANDOM,
  ...RECORDED_NOISE,
  ...RECORDED_HOURS,
  ...RECORDED_HEARD,
})
