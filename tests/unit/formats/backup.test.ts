import { describe, expect, it } from 'vitest'
import { backupHead, lostIn, readBackup } from '../../../core/formats/backup'
import { EMPTY_LOG } from '../../../core/log/log'
import { demoPlan } from '../../data/plans'

const AT = '2026-05-02T10:00:00.000Z'
const station = { id: 'one', name: 'Bench', revision: 1, createdAt: AT, updatedAt: AT, deletedAt: null }
const revision = { stationId: 'one', number: 1, note: '', savedAt: AT, plan: demoPlan('clean-bench') }
const lines = (...rest: object[]) => [backupHead(AT), ...rest.map(r => JSON.stringify(r))].join('\n')

describe('a backup', () => {
  it('is read line by line', () => {
    const document = { of: 'log', stationId: 'one', revision: 3, body: EMPTY_LOG }
    const read = readBackup(lines({ station }, { revision }, { document }, { shelf: [] }))
    expect(read).toEqual({
      ok: true,
      aside: [],
      // A file from before states had names, and said who.
      backup: {
        savedAt: AT,
        stations: [station],
        revisions: [{ ...revision, who: '', name: '' }],
        documents: [document],
        shelf: [],
      },
    })
  })
  it('that is torn gives what it has, and says where it ends', () => {
    const whole = lines({ station }, { revision }, { shelf: [] })
    const read = readBackup(whole.slice(0, -4))
    if (!read.ok) throw new Error(read.wrong)
    expect(read.backup.stations).toHaveLength(1)
    expect(read.backup.shelf).toBeNull()
    expect(read.aside).toEqual([{ line: 4, wrong: 'it is no line of a backup: torn, or of another program' }])
  })
  it('says what could not be read when it was made', () => {
    const lost = { name: 'Shed', what: 'its log' }
    const read = readBackup(lines({ station }, { revision }, { lost }, { lost: {} }))
    if (!read.ok) throw new Error(read.wrong)
    expect(read.aside[0]).toEqual({ line: 4, wrong: 'Shed: its log could not be read when the backup was made' })
    expect(read.aside[1]).toMatchObject({ line: 5 })
    expect(read.backup.stations).toHaveLength(1)
    expect(lostIn(JSON.stringify({ lost }))).toBe(read.aside[0]!.wrong)
    for (const other of ['', '{', '{"lost":1}', JSON.stringify({ station })]) expect(lostIn(other)).toBe('')
  })
  it('puts no station in whose plan it has not', () => {
    const read = readBackup(lines({ station: { ...station, revision: 2 } }, { revision }))
    if (!read.ok) throw new Error(read.wrong)
    expect(read.backup.stations).toEqual([])
    expect(read.aside).toEqual([{ line: 0, wrong: 'Bench: its plan as it stood (revision 2) is not in the file' }])
  })
  it('leaves aside a plan that is none, a document that is none, with what is wrong', () => {
    const bad = { ...revision, plan: { ...demoPlan('clean-bench'), leads: [{ id: 'l1' }] } }
    const document = { of: 'noise', stationId: 'one', revision: 1, body: {} }
    const read = readBackup(lines({ station }, { revision: bad }, { document }, { shelf: 5 }))
    if (!read.ok) throw new Error(read.wrong)
    expect(read.aside.map(a => a.line).sort()).toEqual([0, 3, 4, 5])
    expect(read.aside[0]!.wrong).toMatch(/^revision 1: \/leads\/0/)
  })
  it.each([
    ['', 'it does not begin as a wireman-backup file'],
    ['{"format":"wireman-plan"}', 'it does not begin as a wireman-backup file'],
    ['{"format":"wireman-backup","version":2}', 'version 2 is newer than this program'],
    ['{"format":"wireman-backup","version":1}', 'its head is damaged'],
  ])('that begins %s is refused', (text, wrong) => {
    expect(readBackup(text)).toMatchObject({ ok: false, line: 1, wrong })
  })
})
