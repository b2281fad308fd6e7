import { RECORDED_EDITS } from '../../data/recordedEdits'
import { RECORDED_FILES } from '../../data/recordedFiles'
import { RECORDED_KINDS } from '../../data/recordedKinds'
import { RECORDED_USE } from '../../data/recordedUse'
import { holdsToRecorded } from '../../data/holdsToRecorded'

holdsToRecorded('whole answers to what is entered, edited, read, printed, measured and asked', {
  ...RECORDED_FILES,
  ...RECORDED_EDITS,
  ...RECORDED_USE,
  ...RECORDED_KINDS,
})
