import { cpus } from 'node:os'
import { benchBroken } from './broken'
import { benchBrowser } from './browser'
import { benchCore } from './core'
import { benchNoise } from './noise'

const print = (line: string) => console.log(line)
print(`Node ${process.version}, ${cpus().length} × ${cpus()[0]?.model}`)
benchCore(print)
benchBroken(print)
benchNoise(print)
await benchBrowser(print)
