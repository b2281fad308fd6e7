import { holdsToRecorded } from '../../data/holdsToRecorded'
import { RECORDED_TABLES } from '../../data/recordedTables'

holdsToRecorded('tables of standards and rows of the catalogue', RECORDED_TABLES)
