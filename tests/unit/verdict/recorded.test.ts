import { RECORDED } from '../../data/recorded'
import { RECORDED_ROOMS } from '../../data/recordedRooms'
import { holdsToRecorded } from '../../data/holdsToRecorded'

holdsToRecorded('whole answers on known plans', { ...RECORDED, ...RECORDED_ROOMS })
