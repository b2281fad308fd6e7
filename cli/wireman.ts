import './jitless'
import { main } from './main'

/** Whoever reads the answer may have enough of it, as `head` has: that is no fault of anybody's. */
process.stdout.on('error', (error: NodeJS.ErrnoException) => {
  if (error.code !== 'EPIPE') throw error
  process.exit()
})

/** The command line, started: what its words ask for, and its exit code. */
void main(process.argv.slice(2)).then(code => (process.exitCode = code))
