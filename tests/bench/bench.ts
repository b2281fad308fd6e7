import { cpus } from 'node:os'
import { benchBrowser } from './browser'
import { benchCore } from './core'

const print = (line: string) => console.log(line)
print(`Node ${process.version}, ${cpus().length} × ${cpus()[0]?.model}`)
benchCore(print)
await benchBrowser(print)
