import { cpus } from 'node:os'
import { benchBetween } from './between'
import { benchBroken } from './broken'
import { benchBrowser } from './browser'
import { benchCore } from './core'
import { benchDurable } from './durable'
import { benchHours } from './hours'
import { benchNoise } from './noise'
import { benchReadings } from './readings'
import { benchManyStations } from './manyStations'
import { benchSeeds } from './seeds'
import { benchSymptoms } from './symptoms'

type Print = (line: string) => void

/** In the order in which they are run, unless some are named. */
const PARTS: Readonly<Record<string, (print: Print) => void | Promise<void>>> = {
  core: benchCore,
  broken: benchBroken,
  hours: benchHours,
  noise: benchNoise,
  readings: benchReadings,
  stations: benchManyStations,
  symptoms: benchSymptoms,
  between: benchBetween,
  durable: benchDurable,
  browser: benchBrowser,
  seeds: benchSeeds,
}

const named = process.argv.slice(2)
const unknown = named.filter(name => !Object.hasOwn(PARTS, name))
if (unknown.length) {
  console.error(`${unknown.join(', ')}: no such part of the benchmark; there are ${Object.keys(PARTS).join(', ')}`)
  process.exit(2)
}

const print: Print = line => console.log(line)
print(`Node ${process.version}, ${cpus().length} × ${cpus()[0]?.model}`)
for (const name of named.length ? named : Object.keys(PARTS)) await PARTS[name]!(print)
