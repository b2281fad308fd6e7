import { basename, join } from 'node:path'

/**
 * Plans and conditions whose exported netlist was run by a general-purpose circuit simulator; its voltages are in
 * exported.json.
 */
export const EXPORTED: Record<string, readonly string[]> = {
  'tests/data/converters.json': ['charging/all', 'full/all', 'nominal/only:hf', 'low/all', 'low/idle'],
  'demo/tern-rock-light.json': ['charging/idle', 'low/all'],
  'demo/narrowboat-heron.json': ['charging/all', 'low/all'],
  'demo/moor-walk-kit.json': ['full/idle', 'low/all'],
  'demo/clean-bench.json': ['nominal/all'],
}

/** Where the netlist of a case is kept as it was run. */
export const netlistFile = (planFile: string, condition: string) =>
  join(import.meta.dirname, 'run', `${basename(planFile, '.json')}-${condition.replace(/\W/g, '-')}.cir`)
