import { randomUUID } from 'node:crypto'
import { connect, type Socket } from 'node:net'
import { createInterface } from 'node:readline'
import { COMMAND, MOST_LINE, readLine, type Heard } from '../../core/instruments/protocol'

/** Instruments that are asked for and do not answer within this, ms, are not there. */
const MOST_WAIT_MS = 3000
const HOST = '127.0.0.1'

/** A port that anybody may listen on. */
export const isPort = (port: number) => Number.isInteger(port) && port >= 1024 && port <= 65_535

const sessions = new Map<string, Socket>()

/**
 * Follows instruments behind a socket of this machine, line by line.
 * @returns what ends it
 */
export function follow(port: number, hear: (heard: Heard) => void): () => void {
  const id = randomUUID()
  const socket = connect({ port, host: HOST })
  socket.setTimeout(MOST_WAIT_MS, () => socket.destroy(new Error('they have said nothing for 3 s')))
  socket.setEncoding('utf8')
  sessions.set(id, socket)
  hear({ is: 'session', id })
  let isOver = false
  const end = (why: string) => {
    if (isOver) return
    close()
    hear({ is: 'gone', why })
  }
  let unended = 0
  socket.on('data', (chunk: string) => {
    unended = chunk.includes('\n') ? chunk.length - chunk.lastIndexOf('\n') : unended + chunk.length
    if (unended > 10 * MOST_LINE) end('what is there speaks no lines')
  })
  const lines = createInterface({ input: socket })
  lines.on('line', line => {
    if (isOver) return
    const read = readLine(line)
    hear(read.ok ? read.message : { is: 'aside', line: line.slice(0, MOST_LINE), wrong: read.wrong })
  })
  const fail = (error: NodeJS.ErrnoException) =>
    end(error.code === 'ECONNREFUSED' ? `no instruments listen on port ${port}` : error.message)
  // A reader of lines hands on what its socket says.
  lines.on('error', fail)
  socket.on('error', fail)
  socket.on('close', () => end('they were switched off'))
  function close() {
    isOver = true
    sessions.delete(id)
    socket.destroy()
  }
  return close
}

/** Asks something of instruments that are followed; they answer there. @returns false: they are not */
export function ask(session: string, command: string): boolean {
  const socket = sessions.get(session)
  if (!socket || !COMMAND.test(command)) return false
  return socket.write(`${command}\n`)
}
