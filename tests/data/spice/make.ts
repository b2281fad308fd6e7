/**
 * Makes the reference voltages anew: npx tsx tests/data/spice/make.ts
 * Needs a SPICE simulator on the path (SPICE=its command); the results are committed, so that the tests do not.
 */
import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { spiceNetlist } from './netlist'
import { spicePlans } from './plans'

const here = dirname(fileURLToPath(import.meta.url))
const results: { plan: string; condition: string; volts: Record<string, number> }[] = []
for (const [name, plan] of Object.entries(spicePlans())) {
  for (const condition of plan.conditions) {
    const { text, terminals } = spiceNetlist(plan.plan, condition)
    const file = join(mkdtempSync(join(tmpdir(), 'spice-')), 'plan.cir')
    writeFileSync(file, text)
    const printed = execFileSync(process.env.SPICE ?? 'ngspice', ['-b', file], {
      encoding: 'utf8',
      stdio: ['ignore', 'pipe', 'pipe'],
    })
    const ended = /ended = (\S+)/.exec(printed)?.[1]
    if (ended !== undefined && Number(ended) < 0.39)
      throw new Error(`${condition} of ${name} ended at ${ended} s:\n${printed}`)
    const volts: Record<string, number> = {}
    for (const terminal of terminals) {
      const found = new RegExp(`v\\(n_${terminal.replaceAll('.', '_').replaceAll('-', '_')}\\) = (\\S+)`, 'i').exec(
        printed,
      )
      if (!found) throw new Error(`no voltage of ${terminal} in ${condition} of ${name}:\n${printed}`)
      volts[terminal] = Number(found[1])
    }
    results.push({ plan: name, condition, volts })
  }
}
writeFileSync(join(here, 'volts.json'), JSON.stringify(results, null, 1) + '\n')
console.log(`${results.length} operating points`, readFileSync(join(here, 'volts.json'), 'utf8').length)
