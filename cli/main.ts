import { eventJsonSchema, logJsonSchema, planJsonSchema } from '../core/formats/jsonSchema'
import { complain, out, printJson, readCall, Refusal, usage, type Command } from './command'
import { noiseCase } from './commands/case'
import { check } from './commands/check'
import { choke } from './commands/choke'
import { comb } from './commands/comb'
import { hours } from './commands/hours'
import { exportPlan } from './commands/export'
import { instruments } from './commands/instruments'
import { readings } from './commands/readings'
import { short } from './commands/short'
import { size } from './commands/size'
import { mend } from './commands/mend'
import { solve } from './commands/solve'
import { survey } from './commands/survey'
import { commission } from './commands/commission'
import { spares } from './commands/spares'
import { symptoms } from './commands/symptoms'

/** The command line: judges and solves a station's DC power path. */

const OTHERS: Record<string, () => object> = { event: eventJsonSchema, log: logJsonSchema }

const schema: Command = {
  name: 'schema',
  options: { event: {}, log: {} },
  help: 'The plan format as JSON Schema; with --event that of an event, with --log that of a station’s log.',
  run(call) {
    const asked = Object.keys(OTHERS).find(option => call.has(option))
    printJson(asked ? OTHERS[asked]!() : planJsonSchema())
    return 0
  },
}

/** Whatever reads a plan can look at one of its ways. */
function withWay(command: Command): Command {
  const readsPlan = command.takes?.startsWith('PLAN.json') || 'plan' in command.options
  return readsPlan ? { ...command, options: { ...command.options, way: { value: 'NAME' } } } : command
}

const COMMANDS = [
  check,
  mend,
  solve,
  short,
  size,
  exportPlan,
  comb,
  noiseCase,
  survey,
  choke,
  hours,
  readings,
  instruments,
  symptoms,
  commission,
  spares,
  schema,
].map(withWay)

const helpOf = (command: Command) => `  ${usage(command)}\n      ${command.help.replaceAll('\n', '\n      ')}`
const HELP = `wireman: judges and solves a station's DC power path from the command line.

${COMMANDS.map(helpOf).join('\n')}

PLAN.json is a wireman-plan file; - reads it from standard input; --way looks at one of its other ways, by its name.
--json prints JSON and nothing else.
`

/** Does what the words say. @returns the exit code */
export async function main([name = 'help', ...words]: string[]): Promise<number> {
  if (name === 'help') {
    out(HELP)
    return 0
  }
  const command = COMMANDS.find(c => c.name === name)
  if (!command) {
    complain(`There is no command ${name}.\n\n${HELP}`)
    return 2
  }
  try {
    return await command.run(readCall(command, words))
  } catch (error) {
    if (!(error instanceof Refusal)) throw error
    if (words.includes('--json')) printJson({ faults: error.faults })
    if (error.head) complain(error.head)
    for (const { path, wrong, right } of error.faults)
      complain(`${error.head && '  '}${path || '/'}: ${wrong}; right would be ${right}`)
    return 2
  }
}
