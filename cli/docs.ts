/** Writes the generated pages of docs/: the plan format's JSON Schema and the catalogue of checks. */
import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { CHECKS } from '../core/checks/index'
import { AGAIN } from '../core/noise/belief'
import { FACTORS, LONG_LEAD_M, MADE_OF, WAY_ODDS, WAYS } from '../core/noise/cause'
import { besides, kindOdds, noisyKinds } from '../core/noise/suspect'
import { SLIP } from '../core/noise/hear'
import { GONE_DB, WEAKER_DB } from '../core/noise/setup'
import { STEPS, type Step, type Takes } from '../core/noise/steps'
import { eventJsonSchema, logbookJsonSchema, logJsonSchema, planJsonSchema } from '../core/formats/jsonSchema'
import { fieldsPage } from './fieldsPage'

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

export const eventSchemaPage = (): string => JSON.stringify(eventJsonSchema(), null, 2) + '\n'

export const logSchemaPage = (): string => JSON.stringify(logJsonSchema(), null, 2) + '\n'

export function schemaPage(): string {
  return JSON.stringify(planJsonSchema(), null, 2) + '\n'
}

const CHANGES: Record<Step, string> = {
  dummy: 'dummy load in place of the antenna',
  'own-battery': 'radio on a battery of its own',
  'from-battery': 'radio straight on the same battery',
  unplugged: 'USB and data leads out',
  'gain-down': 'RF gain fully down',
  'choke-radio': "choke on the radio's DC lead",
  'choke-device': "choke on the device's own leads",
  'lc-filter': "LC filter in the radio's lead",
  'mains-filter': 'mains filter before the device',
  distance: 'device moved away',
  bond: 'case and battery negative bonded',
}

/** How often what is said of combs holds: counted by tests and the bench. */
const COMBS = `Combs are claimed with a confidence that was counted on 400 made-up tone lists and spectra (one to three
devices, stations, stray carriers, ripple, PWM, mains buzz, broadcasters, tones strewn at random): of claims at
90 % and above 296 of 297 were right, of likely ones (marked as not proven) 21 of 22; a device that was there
was found in 97 of 100. Where lines wander, the tones beside them say how well their spacing is known: of lumps
20, 40, 80 and 160 Hz wide, 60 of each, the true spacing lay within two of its stated uncertainties in 100, 88,
95 and 92 of a hundred (in 100, 78, 72 and 58 before). Such a lump of 160 Hz is told as a second device in 9 of
60.`

/** What the noise reasoning takes for granted. */
export function noisePage(): string {
  const takes = ([least, most]: Takes) => (most ? `${least}–${most}` : '–')
  const table = Object.entries(STEPS).map(
    ([step, ways]) => `| ${CHANGES[step as Step]} | ${WAYS.map(w => takes(ways[w.id])).join(' | ')} |`,
  )
  const kinds = noisyKinds()
    .map(({ kind, odds }) => `${kind} ${odds}`)
    .join(', ')
  const ways = WAYS.map(w => `${w.label} ${WAY_ODDS[w.id]}`).join(', ')
  return `# What the noise reasoning takes for granted

Made from the code by \`./run docs\`. Every finding moves the odds of device × way in × when by Bayes' rule with
these likelihoods. A test made again counts for ${AGAIN} of a new one.

## What a change does to the noise, by the way it comes in

In dB less, from the least to the most that is usual. The noise itself is judged, not the floor: weaker is
${WEAKER_DB} dB or more less, gone is about ${GONE_DB} dB less or nothing left. Powers of two ways or two devices add.

| change | ${WAYS.map(w => w.label).join(' | ')} |
|---|${WAYS.map(() => '---').join('|')}|
${table.join('\n')}

A device switched off takes its own noise away and nobody else's. Below the current at which it sets in, noise
is gone; within an eighth of the device's largest current of it nobody can tell. Everything off at the main switch
leaves the receiver itself and what comes from outside; with all parts of the plan off something was forgotten in
three stations of ten.

## How an ear errs

It is a whole step off (as strong, weaker, gone) in ${100 * SLIP} % of all findings.

## What is believed only once it was tried

Something outside only when the noise stays with everything off; the receiver itself only when it stays with
everything and the antenna off. Until then no more than 89 % is stated.

## How often it is right

\`./run bench\` hides noise in 1,000 stations made from physics (fields, common and differential currents, loops,
thresholds, two culprits, second ways in, intermittence) and lets an operator whose ear is wrong in one finding of
ten follow the advice. The simulation knows nothing of the figures above. Last run:

| verdicts | count | device right | way right too |
|---|---|---|---|
| stated at 90 % and above | 815 | 96.4 % | 92.9 % |
| stated at 97 % and above | 283 | 96.8 % | 95.8 % |
| two culprits there: both named best | 131 | 88.5 % | 44.3 % |
| stated: outside | 97 | 99.0 % | 99.0 % |
| stated: the receiver itself | 60 | 100 % | 100 % |

About eight tests each. The ways of two culprits at once are seldom told: cure the louder one, then go on.

${COMBS}

## Odds before anything is tried

One device by one way ${MADE_OF.one}, by two ways ${MADE_OF.twoWays}, two devices at once ${MADE_OF.two}. Kinds:
${kinds}, ${besides.map(b => `${b.name} ${kindOdds(b.id)}`).join(', ')}.
Ways: ${ways} (the mains side only for devices that have one, a data lead only where the radio has one).
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
  writeFileSync(join(docs, 'wireman-event.schema.json'), eventSchemaPage())
  writeFileSync(join(docs, 'wireman-log.schema.json'), logSchemaPage())
  writeFileSync(join(docs, 'noise.md'), noisePage())
  writeFileSync(join(docs, 'wireman-noise.schema.json'), noiseSchemaPage())
}
