import { complain, out, printJson, readCall, refuse, Refusal, usage, type Command } from './command'

/** The command line: judges and solves a station's DC power path. */

/** Whatever reads a plan can look at one of its ways. */
function withWay(command: Command): Command {
  const readsPlan = command.takes?.startsWith('PLAN.json') || 'plan' in command.options
  return readsPlan ? { ...command, options: { ...command.options, way: { value: 'NAME' } } } : command
}

/** Each command by its name, in the order of the help; its program is loaded when it is called. */
const COMMANDS: Record<string, () => Promise<Command>> = {
  check: async () => (await import('./commands/check')).check,
  mend: async () => (await import('./commands/mend')).mend,
  solve: async () => (await import('./commands/solve')).solve,
  short: async () => (await import('./commands/short')).short,
  size: async () => (await import('./commands/size')).size,
  export: async () => (await import('./commands/export')).exportPlan,
  comb: async () => (await import('./commands/comb')).comb,
  case: async () => (await import('./commands/case')).noiseCase,
  survey: async () => (await import('./commands/survey')).survey,
  choke: async () => (await import('./commands/choke')).choke,
  hours: async () => (await import('./commands/hours')).hours,
  readings: async () => (await import('./commands/readings')).readings,
  instruments: async () => (await import('./commands/instruments')).instruments,
  symptoms: async () => (await import('./commands/symptoms')).symptoms,
  commission: async () => (await import('./commands/commission')).commission,
  spares: async () => (await import('./commands/spares')).spares,
  schema: async () => (await import('./commands/schema')).schema,
}

const helpOf = (command: Command) => `  ${usage(command)}\n      ${command.help.replaceAll('\n', '\n      ')}`

/** What `help` says: of all commands, or of those named. */
async function help(names: readonly string[]): Promise<string> {
  const loads = names.length ? names.map(commandNamed) : Object.values(COMMANDS)
  const commands = await Promise.all(loads.map(load => load()))
  return `wireman: judges and solves a station's DC power path from the command line.

${commands.map(withWay).map(helpOf).join('\n')}

PLAN.json is a wireman-plan file; - reads it from standard input; --way looks at one of its other ways, by its name.
--json prints JSON and nothing else.
`
}

/** How help is asked for in other programs, before a command or after it. */
const asksForHelp = (word: string) => word === '--help' || word === '-h'

/** Throws Refusal where there is no such command. */
function commandNamed(name: string): () => Promise<Command> {
  if (Object.hasOwn(COMMANDS, name)) return COMMANDS[name]!
  return refuse(name, 'there is no such command', `one of ${Object.keys(COMMANDS).join(', ')}`)
}

/** Does what the words say. @returns the exit code */
export async function main([name = 'help', ...words]: string[]): Promise<number> {
  try {
    if (name === 'help' || asksForHelp(name)) {
      out(await help(words.filter(w => w !== 'all')))
      return 0
    }
    const load = commandNamed(name)
    if (words.some(asksForHelp)) {
      out(await help([name]))
      return 0
    }
    const command = withWay(await load())
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
