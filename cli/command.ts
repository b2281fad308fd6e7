import { parseArgs, type ParseArgsConfig } from 'node:util'
import type { Fault } from '../core/plan/faults'
import { listed } from '../core/units/words'

/** How a command of ./run is declared, read and run. */

export interface Option {
  /** What its value is called in the help: `HZ`, `FILE`; an option without one is a switch. */
  value?: string
  /** Only these values. */
  oneOf?: readonly string[]
}

export interface Command {
  name: string
  /** What stands after its name, apart from its options: `PLAN.json`. */
  takes?: string
  options: Readonly<Record<string, Option>>
  /** What it does and what its exit codes mean, for the help. */
  help: string
  /** @returns the exit code */
  run: (call: Call) => number | Promise<number>
}

/** One call of a command, its words read. */
export interface Call {
  command: Command
  file: string | undefined
  /** The words after it. */
  others: readonly string[]
  /** Whether JSON and nothing else is to be printed. */
  json: boolean
  has: (option: string) => boolean
  value: (option: string) => string | undefined
}

/** What cannot be read or done: said in words, or as JSON where that was asked for; the program ends with 2. */
export class Refusal extends Error {
  constructor(
    readonly faults: readonly Fault[],
    /** Said before the faults. */
    readonly head = '',
  ) {
    super(faults.map(f => f.wrong).join('; '))
  }
}
export const refuse = (path: string, wrong: string, right: string): never => {
  throw new Refusal([{ path, wrong, right }])
}

export const out = (text: string) => void process.stdout.write(`${text}\n`)
export const complain = (text: string) => void process.stderr.write(`${text}\n`)
export const printJson = (value: unknown) => out(JSON.stringify(value, null, 2))

/** Reads the words after a command's name. Throws Refusal on an option it has not, or one without its value. */
export function readCall(command: Command, words: readonly string[]): Call {
  const { values, positionals } = parsed(command, words)
  const takes = command.takes?.split(' ').length ?? 0
  const [file, ...others] = positionals
  const spare = positionals[takes]
  if (spare !== undefined) refuse(spare, `${command.name} takes no such word`, usage(command))
  for (const [name, { oneOf }] of Object.entries(command.options)) {
    const value = values[name]
    if (oneOf && typeof value === 'string' && !oneOf.includes(value))
      refuse(`--${name}`, `it is ${value}`, `one of ${oneOf.join(', ')}`)
  }
  return {
    command,
    file,
    others,
    json: values.json === true,
    has: option => values[option] !== undefined,
    value: option => values[option] as string | undefined,
  }
}

function parsed(command: Command, words: readonly string[]) {
  const options: NonNullable<ParseArgsConfig['options']> = {}
  for (const [name, { value }] of Object.entries(command.options))
    options[name] = { type: value ? 'string' : 'boolean' }
  const unknown = words.find(w => w.startsWith('--') && w.length > 2 && !options[w.slice(2).split('=')[0]!])
  if (unknown) refuse(unknown.split('=')[0]!, `${command.name} has no such option`, optionsOf(command))
  try {
    return parseArgs({ args: withNegatives(command, words), options, allowPositionals: true, strict: true })
  } catch (error) {
    return refuse(command.name, (error as Error).message.split('. ')[0]!, usage(command))
  }
}

/** A figure under 0 after its option is that option's: `--lon -3` as `--lon=-3`. */
function withNegatives({ options }: Command, words: readonly string[]): string[] {
  const joined: string[] = []
  for (const word of words) {
    const last = joined.at(-1)
    const takesIt = last?.startsWith('--') && options[last.slice(2)]?.value !== undefined
    if (takesIt && /^[-−]\d/.test(word)) joined.push(`${joined.pop()!}=${word}`)
    else joined.push(word)
  }
  return joined
}

const optionWords = ([name, { value, oneOf }]: [string, Option]) =>
  `--${name}${value ? ` ${oneOf ? oneOf.join('|') : value}` : ''}`
const optionsOf = ({ options }: Command) => listed(Object.keys(options).map(name => `--${name}`)) || 'none'

export const usage = (command: Command): string =>
  ['./run', command.name, command.takes, ...Object.entries(command.options).map(o => `[${optionWords(o)}]`)]
    .filter(Boolean)
    .join(' ')
