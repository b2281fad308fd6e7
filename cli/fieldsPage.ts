import { join } from 'node:path'
import ts from 'typescript'
import { KINDS } from '../core/kinds/index'
import { fieldReads, type FieldReads } from './fieldReads'

const ROOT = join(import.meta.dirname, '..')

/** Every field of the plan's format, and who in core reads it. */
export function planFields(): FieldReads[] {
  const files = ts.sys.readDirectory(join(ROOT, 'core'), ['.ts'])
  return fieldReads(ROOT, files, file => /\/core\/(kinds|plan)\//.test(file))
}

/** Schemas of what is wired into a lead, some of which are called as a part is. */
const INLINE = ['fuseSchema', 'breakerSchema', 'switchSchema', 'dropperSchema', 'meterSchema', 'chokeSchema']
/** Everything has them. */
const IDENTITY = ['id', 'kind']

/** What a schema's constant is called on the page: `batterySchema` is the part kind battery. */
function titleOf(schema: string): string {
  const name = schema.replace(/Schema$|PartSchema$/, '')
  if (INLINE.includes(schema)) return `Item in a lead: ${name}`
  if (KINDS.has(name)) return `Part: ${KINDS.get(name)!.label} (\`${name}\`)`
  const shared: Record<string, string> = {
    commonFields: 'What every part may say',
    place: 'What every item in a lead may say',
    lead: 'Lead',
    end: "Lead's end",
    site: 'Site',
    plan: 'Plan',
  }
  return shared[schema] ?? shared[name] ?? `\`${name}\``
}

/** Readers shown for a field; of more, how many more. */
const SHOWN = 6

function readers(field: FieldReads): string {
  const checks = field.readBy.filter(r => r.startsWith('`'))
  const others = field.readBy.filter(r => !r.startsWith('`'))
  const all = [...checks, ...others]
  return all.slice(0, SHOWN).join(', ') + (all.length > SHOWN ? ` and ${all.length - SHOWN} more` : '')
}

/** docs/fields.md */
export function fieldsPage(fields = planFields()): string {
  const schemas = [...new Set(fields.map(f => f.schema))].sort((a, b) => titleOf(a).localeCompare(titleOf(b)))
  const sections = schemas.map(schema => {
    const rows = fields
      .filter(f => f.schema === schema && !IDENTITY.includes(f.path))
      .map(f => `| \`${f.path.replaceAll('.*', '[]')}\` | ${f.says.replaceAll('|', '\\|')} | ${readers(f)} |`)
    return `## ${titleOf(schema)}\n\n| field | says | read by |\n|---|---|---|\n${rows.join('\n')}\n`
  })
  return (
    '# Fields of a plan, and who reads them\n\nMade from the code by `./run docs`: checks by their id, others as ' +
    '`room/file: function`. A test fails on a field that nothing reads.\n\n' +
    sections.join('\n')
  )
}
