import { createServer, type AddressInfo, type Server, type Socket } from 'node:net'
import { createInterface } from 'node:readline'
import { MOST_LINE } from '../../core/instruments/protocol'
import { SimulatedInstruments } from '../../core/instruments/simulated'
import type { Plan } from '../../core/plan/schema'

/** Figures come so often, ms. */
const EVERY_MS = 1000
/** Nobody has listened for so long: the instruments are put away, ms. */
const UNHEARD_MS = 60_000

interface Standing {
  port: number
  instruments: SimulatedInstruments
  close: () => void
}

/** Simulated instruments behind a free port of this machine, as docs/instruments.md says. */
async function stand(plan: Plan, hide: number | null): Promise<Standing> {
  const instruments = new SimulatedInstruments(plan, { hide })
  const listeners = new Set<Socket>()
  const say = (to: Iterable<Socket>, lines: readonly string[]) => {
    for (const socket of to) socket.write(lines.map(l => `${l}\n`).join(''))
  }
  const server: Server = createServer(socket => {
    listeners.add(socket)
    socket.on('close', () => listeners.delete(socket))
    socket.setEncoding('utf8')
    say([socket], instruments.greeting())
    // What sends no end of a line is no command.
    socket.on('data', chunk => chunk.length > 10 * MOST_LINE && socket.destroy())
    const lines = createInterface({ input: socket })
    lines.on('line', line => {
      const answer = instruments.command(line.slice(0, MOST_LINE))
      say(answer[0]!.startsWith('error') ? [socket] : listeners, answer)
    })
    // A reader of lines hands on what its socket says.
    const drop = () => socket.destroy()
    lines.on('error', drop)
    socket.on('error', drop)
  })
  await new Promise<void>((done, failed) => server.once('error', failed).listen(0, '127.0.0.1', done))
  // Instruments keep no server up that is told to end.
  server.unref()
  let unheardMs = 0
  const timer = setInterval(() => {
    unheardMs = listeners.size ? 0 : unheardMs + EVERY_MS
    if (unheardMs >= UNHEARD_MS) close()
    else say(listeners, instruments.tick(nowText()))
  }, EVERY_MS).unref()
  function close() {
    clearInterval(timer)
    for (const socket of listeners) socket.destroy()
    server.close()
  }
  const { port } = server.address() as AddressInfo
  return { port, instruments, close }
}

const nowText = () => new Date().toISOString().replace(/\.\d+Z$/, 'Z')

const all = new Map<string, Standing>()

/** Those of a station, set up anew. */
export async function standing(id: string, plan: Plan, hide: number | null): Promise<Standing> {
  all.get(id)?.close()
  const now = await stand(plan, hide)
  all.set(id, now)
  return now
}
