import { main } from './main'

/** The command line, started: what its words ask for, and its exit code. */
process.exitCode = await main(process.argv.slice(2))
