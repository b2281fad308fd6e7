import { execFileSync } from 'node:child_process'
import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { findCondition } from '../../../core/circuit/conditions'
import { spiceNetlist } from '../../../core/formats/spice'
import { readPlanText } from '../../../core/plan/faults'
import { EXPORTED, netlistFile } from './exported'

/**
 * Runs the exported netlists through a general-purpose circuit simulator where one is installed, and keeps them with
 * its voltages as reference:
 * node --import tsx tests/data/spice/export.ts
 */
const results: Record<string, Record<string, number>> = {}
for (const [file, conditions] of Object.entries(EXPORTED)) {
  const read = readPlanText(readFileSync(join(import.meta.dirname, '../../..', file), 'utf8'))
  if (!read.ok) throw new Error(file)
  for (const id of conditions) {
    const condition = findCondition(read.plan, id)
    if (typeof condition === 'string') throw new Error(condition)
    const netlist = spiceNetlist(read.plan, condition)
    writeFileSync(netlistFile(file, id), netlist)
    const text = netlist.replace('.op\n.end', '.control\nop\nset numdgt=12\nprint all\nquit\n.endc\n.end')
    const path = '/tmp/wireman-export.cir'
    writeFileSync(path, text)
    const out = execFileSync('ngspice', ['-b', path], { encoding: 'utf8' })
    const volts = [...out.matchAll(/^(\S+) = (\S+)/gm)]
      .filter(m => !m[1]!.includes('#'))
      .map(m => [m[1]!, Number(m[2])] as const)
    const terminals = new Set(
      read.plan.leads.flatMap(l => [l.from, l.to]).map(t => t.replaceAll('.', '_').toLowerCase()),
    )
    results[`${file} ${id}`] = Object.fromEntries(
      volts.filter(([name]) => terminals.has(name)).map(([name, v]) => [name, Number(v.toPrecision(9))]),
    )
  }
}
writeFileSync(join(import.meta.dirname, 'exported.json'), JSON.stringify(results, null, 1) + '\n')
