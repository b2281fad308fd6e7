import { randomFrom } from '../../core/chance/random'
import type { TestServer } from '../e2e/browser'
import { demoPlan } from '../data/plans'
import { brokenRequest } from './requests'

/** What an answer may not tell: how the machine looks inside. */
const LEAKS = /node_modules|\/work\/|server\/|\.mjs|at async|SELECT |insert into/i

/** Bodies of requests that are well, to a station of the server. */
async function wellBodies(server: TestServer, id: string): Promise<string[]> {
  const get = async (path: string) => (await fetch(`${server.url}${path}`)).json() as Promise<object>
  return [
    { plan: demoPlan('clean-bench'), note: 'x', baseRevision: 1 },
    { ...(await get(`/api/stations/${id}/noise`)), baseRevision: 0 },
    { ...(await get(`/api/stations/${id}/log`)), baseRevision: 0 },
    { ...(await get('/api/shelf')), baseRevision: 1 },
    { events: [], baseRevision: 0 },
    { name: 'kept' },
    { hide: 3 },
    { on: false },
    { text: '{}', restores: true },
  ].map(b => JSON.stringify(b))
}

/**
 * Sends broken requests, one after the other. @returns how many, and which were answered wrongly: by a fault of the
 * server's own, late, without words, or with more than words.
 * @param goesOn asked before each, with the number of those that were sent
 * @param mostMs the longest that any answer may take
 */
export async function askServer(server: TestServer, seed: number, goesOn: (sent: number) => boolean, mostMs = 1000) {
  const id = await server.made(demoPlan('tern-rock-light'))
  const bodies = await wellBodies(server, id)
  const wrong: string[] = []
  let requests = 0
  for (; goesOn(requests); requests++) {
    const { method, path, headers, body } = brokenRequest(randomFrom(seed + requests), id, bodies)
    const began = performance.now()
    const answer = await fetch(`${server.url}${path}`, { method, headers, ...(body !== undefined && { body }) })
    const text = await answer.text()
    const ms = performance.now() - began
    const isRefused = answer.status >= 400
    const isTold = !isRefused || typeof (JSON.parse(text) as { message?: unknown }).message === 'string'
    if (answer.status >= 500 || !isTold || (isRefused && LEAKS.test(text)) || ms > mostMs)
      wrong.push(
        `seed ${seed + requests}: ${method} ${path} ${answer.status} ${ms.toFixed(0)} ms ${text.slice(0, 200)}`,
      )
  }
  return { requests, wrong }
}
