import { RECORDED_HEARD } from '../../data/recordedHeard'
import { RECORDED_HOURS } from '../../data/recordedHours'
import { RECORDED_NOISE } from '../../data/recordedNoise'
import { RECORDED_RANDOM } from '../../data/recordedRandom'
import { holdsToRecorded } from '../../data/holdsToRecorded'

holdsToRecorded('whole answers on plans and events at random', { ...RECORDED_RANDOM, ...RECORDED_HOURS }, true)
holdsToRecorded('whole answers on evidence at random', { ...RECORDED_NOISE, ...RECORDED_HEARD })
