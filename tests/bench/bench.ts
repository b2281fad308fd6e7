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
import { benchSymptoms } from './symptoms'

const print = (line: string) => console.log(line)
print(`Node ${process.version}, ${cpus().length} × ${cpus()[0]?.model}`)
benchCore(print)
benchBroken(print)
benchHours(print)
benchNoise(print)
benchReadings(print)
await benchManyStations(print)
benchSymptoms(print)
await benchBetween(print)
await benchDurable(print)
await benchBrowser(print)
