/** Writes the generated pages of docs/: the plan format's JSON Schema and the catalogue of checks. */
import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { CHECKS } from '../core/checks/index'
import { AGAIN } from '../core/noise/belief'
import { FACTORS, LONG_LEAD_M, WAY_ODDS, WAYS } from '../core/noise/cause'
import { noisyKinds } from '../core/noise/suspect'
import { logbookJsonSchema } from '../core/noise/logbook'
import { EAR, GONE_DB, STEPS, WEAKER_DB, type Odds } from '../core/noise/setup'
import { fieldsPage } from './fieldsPage'
import { planJsonSchema } from '../core/plan/schema'

export function checksPage(): string {
  const rows = CHECKS.map(
    c =>
      `## \`${c.id}\`: ${c.title}\n\n- Severity: ${c.severities.join(', ')}\n- Looks at: ${c.looksAt}\n- ` +
      `Source: ${c.source}\n\n${c.why}\n`,
  )
  return (
    `# Checks\n\nMade from the code by \`./run docs\`; ${CHECKS.length} checks. \`danger\`: someone or something ` +
    'burns or vents. \`fail\`: it will not work or breaks its limits. \`caution\`: it works until it does not. ' +
    `\`note\`: worth knowing.\n\n${rows.join('\n')}`
  )
}

export function schemaPage(): string {
  return JSON.stringify(planJsonSchema(), null, 2) + '\n'
}

const CHANGES: Record<keyof typeof STEPS, string> = {
  dummy: 'dummy load in place of the antenna',
  'own-battery': 'radio on a battery of its own',
  'gain-down': 'RF gain fully down',
  'choke-radio': "choke on the radio's DC lead",
  'choke-device': "choke on the device's own leads",
  'lc-filter': "LC filter in the radio's lead",
  'mains-filter': 'mains filter before the device',
  distance: 'device moved away',
  bond: 'case and battery negative bonded',
}

/** What the noise reasoning takes for granted. */
export function noisePage(): string {
  const odds = (o: Odds) => o.map(p => Number((100 * p).toFixed(1))).join(' / ')
  const table = Object.entries(STEPS).map(
    ([step, ways]) => `| ${CHANGES[step as keyof typeof STEPS]} | ${WAYS.map(w => odds(ways[w.id])).join(' | ')} |`,
  )
  const kinds = noisyKinds()
    .map(({ kind, odds }) => `${kind} ${odds}`)
    .join(', ')
  const ways = WAYS.map(w => `${w.label} ${WAY_ODDS[w.id]}`).join(', ')
  return `# What the noise reasoning takes for granted

Made from the code by \`./run docs\`. Every finding moves the odds of device × way in × when by Bayes' rule with
these likelihoods. A test made again counts for ${AGAIN} of a new one.

## What a change does to the noise, by the way it comes in

In percent: as strong / weaker / gone. The noise itself is judged, not the floor: weaker is ${WEAKER_DB} dB or
more less, gone is ${GONE_DB} dB less or nothing left.

| change | ${WAYS.map(w => w.label).join(' | ')} |
|---|${WAYS.map(() => '---').join('|')}|
${table.join('\n')}

A device switched off takes its own noise away and nobody else's. Below the current at which it sets in, noise
is gone; within an eighth of the device's largest current of it nobody can tell.

## How an ear errs

What is as strong is taken for as strong / weaker / gone in ${odds(EAR.same)} %; what is weaker in
${odds(EAR.weaker)} %; what is gone in ${odds(EAR.gone)} %.

## Odds before anything is tried

Kinds: ${kinds}, something outside the station 1. Ways: ${ways} (the mains side only for devices that have one).
The plan moves them: bands a device was heard on × ${FACTORS.heardOn}, beside an antenna lead ×
${FACTORS.nearAntennaLead}, a choke in place × ${FACTORS.choked}, no multiple of its frequency in the bands ×
${FACTORS.noLine}; beside an antenna lead: antenna × ${FACTORS.nearAntennaLead}; a lead of ${LONG_LEAD_M} m or
more: antenna × ${FACTORS.longLead}; nothing bonded: common mode × ${FACTORS.unbonded}; loads on a load
terminal: differential × ${FACTORS.loadTerminal}; a whine: audio × ${FACTORS.whine}; tones: audio ×
${FACTORS.tones}.

## The logbook's format

\`wireman-noise\`, version 1: [wireman-noise.schema.json](wireman-noise.schema.json). A case file is one entry
of its \`cases\` with \`"format": "wireman-noise-case"\`. A survey is CSV as well:
\`state,devices,antenna,feed,at,who\`, then one column a band or frequency; \`devices\` says \`ctl=working@8.5
mains=off\`, readings are \`S7\`, \`S9+10\` or \`-97 dBm\`.
`
}

export function noiseSchemaPage(): string {
  return JSON.stringify(logbookJsonSchema(), null, 2) + '\n'
}

if (process.argv[1]?.endsWith('docs.ts')) {
  const docs = join(import.meta.dirname, '../docs')
  writeFileSync(join(docs, 'checks.md'), checksPage())
  writeFileSync(join(docs, 'fields.md'), fieldsPage())
  writeFileSync(join(docs, 'wireman-plan.schema.json'), schemaPage())
  writeFileSync(join(docs, 'noise.md'), noisePage())
  writeFileSync(join(docs, 'wireman-noise.schema.json'), noiseSchemaPage())
}
