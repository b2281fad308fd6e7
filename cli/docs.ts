/** Writes the generated pages of docs/: the plan format's JSON Schema and the catalogue of checks. */
import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { CHECKS } from '../core/checks/index'
import { planJsonSchema } from '../core/plan/schema'

export function checksPage(): string {
  const rows = CHECKS.map(c => `## \`${c.id}\`: ${c.title}\n\n- Severity: ${c.severities.join(', ')}\n- Looks at: ${c.looksAt}\n- Source: ${c.source}\n\n${c.why}\n`)
  return `# Checks\n\nMade from the code by \`./run docs\`; ${CHECKS.length} checks. \`danger\`: someone or something burns or vents. \`fail\`: it will not work or breaks its limits. \`caution\`: it works until it does not. \`note\`: worth knowing.\n\n${rows.join('\n')}`
}

export function schemaPage(): string {
  return JSON.stringify(planJsonSchema(), null, 2) + '\n'
}

if (process.argv[1]?.endsWith('docs.ts')) {
  const docs = join(import.meta.dirname, '../docs')
  writeFileSync(join(docs, 'checks.md'), checksPage())
  writeFileSync(join(docs, 'wireman-plan.schema.json'), schemaPage())
}
