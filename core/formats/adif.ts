import type { Contact } from '../hours/learn'

/** Contacts in the order of their times, and how many records had none; or why it cannot be read. */
export type AdifRead =
  { ok: true; contacts: Contact[]; skipped: number } | { ok: false; line: number; wrong: string; right: string }

const FIELD = /<([a-z_0-9]+)(?::(\d+)(?::[a-z])?)?>/gi

/**
 * Reads a log in ADIF (3.1): `<TAG:length>value`, a record up to `<EOR>`. What is not asked for is passed over.
 * Refused in words where nothing in it is a record, or none has a time.
 */
export function readAdif(text: string): AdifRead {
  const headEnd = /<eoh>/i.exec(text)
  const body = headEnd ? headEnd.index + headEnd[0].length : 0
  const contacts: Contact[] = []
  let record: Record<string, string> = {}
  let records = 0
  FIELD.lastIndex = body
  for (let match = FIELD.exec(text); match; match = FIELD.exec(text)) {
    const tag = match[1]!.toUpperCase()
    if (tag === 'EOR') {
      records++
      const contact = contactOf(record)
      if (contact) contacts.push(contact)
      record = {}
      continue
    }
    if (match[2] === undefined) continue
    const length = Number(match[2])
    const from = FIELD.lastIndex
    if (from + length > text.length) {
      const line = text.slice(0, match.index).split('\n').length
      return { ok: false, line, wrong: `${tag} says ${length} letters, and the file ends before`, right: 'a whole log' }
    }
    record[tag] = text.slice(from, from + length).trim()
    FIELD.lastIndex = from + length
  }
  const right = 'an ADIF log with QSO_DATE and TIME_ON in its records'
  if (!records) return { ok: false, line: 1, wrong: 'there is no record in it', right }
  if (!contacts.length) return { ok: false, line: 1, wrong: `none of its ${records} records has a time`, right }
  return {
    ok: true,
    contacts: contacts.sort((a, b) => a.at.getTime() - b.at.getTime()),
    skipped: records - contacts.length,
  }
}

function contactOf(record: Record<string, string>): Contact | null {
  const date = /^(\d{4})(\d{2})(\d{2})$/.exec(record.QSO_DATE ?? '')
  const time = /^(\d{2})(\d{2})(\d{2})?$/.exec(record.TIME_ON ?? '')
  if (!date || !time) return null
  const at = new Date(`${date[1]}-${date[2]}-${date[3]}T${time[1]}:${time[2]}:${time[3] ?? '00'}Z`)
  if (Number.isNaN(at.getTime())) return null
  return { at, mode: record.MODE ?? '', ...(record.BAND && { band: record.BAND.toLowerCase() }) }
}
