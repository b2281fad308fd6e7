import { demoPlan } from '../data/plans'
import { startPostgres } from '../data/postgres'
import { freePort, TestServer } from '../e2e/browser'

/** How soon a page of one server is told of what is saved through another on the same database. */

const EDITS = 100

/** The stream of changes of a server, as its pages hear it. */
async function heard(server: TestServer) {
  const { body } = await fetch(`${server.url}/api/changes`)
  const reader = body!.pipeThrough(new TextDecoderStream()).getReader()
  let text = ''
  return {
    /** Comes back when it was told of a revision. */
    async until(revision: number) {
      while (!text.includes(`"revision":${revision}}`)) text += (await reader.read()).value ?? ''
    },
    end: () => reader.cancel(),
  }
}

export async function benchBetween(print: (line: string) => void) {
  const postgres = await startPostgres()
  const env = { WIREMAN_DATABASE: await postgres.database() }
  const servers = [new TestServer(await freePort(), undefined, env), new TestServer(await freePort(), undefined, env)]
  await Promise.all(servers.map(s => s.start()))
  const [here, there] = servers as [TestServer, TestServer]
  const plan = demoPlan('tern-rock-light')
  const id = await here.made(plan)
  const stream = await heard(there)
  const times: number[] = []
  for (let revision = 1; revision <= EDITS; revision++) {
    const body = JSON.stringify({ baseRevision: revision, plan, note: 'bench' })
    const began = performance.now()
    const told = stream.until(revision + 1)
    await fetch(`${here.url}/api/stations/${id}`, {
      method: 'PUT',
      body,
      headers: { 'content-type': 'application/json' },
    })
    await told
    times.push(performance.now() - began)
  }
  await stream.end()
  for (const server of servers) await server.stop()
  await postgres.stop()
  times.sort((a, b) => a - b)
  const [median, worst] = [times[EDITS >> 1]!, times[EDITS - 1]!]
  print(
    `two servers on one database: a save until the other's pages are told, median ${median.toFixed(0)} ms, ` +
      `slowest of ${EDITS} ${worst.toFixed(0)} ms (aim 1 s)`,
  )
}
