import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { smallPlan } from '../data/plans'
import { askServer } from '../fuzz/askServer'
import { freePort, PATIENCE_MS, TestServer } from './browser'

/** Names and requests that try the server. */

let server: TestServer
beforeAll(async () => {
  server = new TestServer(await freePort())
  await server.start()
})
afterAll(() => server.stop())

interface Station {
  id: string
  name: string
  revision: number
  plan: { name: string }
}
async function api<T>(method: string, path: string, body?: unknown): Promise<{ status: number; body: T }> {
  const response = await fetch(`${server.url}/api/stations${path}`, {
    method,
    ...(body !== undefined && { body: JSON.stringify(body), headers: { 'content-type': 'application/json' } }),
  })
  return { status: response.status, body: (await response.json()) as T }
}

describe('what a plan may be called', () => {
  it.each([
    'a\u0000b',
    'lone \ud800 half',
    '\u202Eback',
    'اسم',
    '站台 三',
    '👩‍🔧',
    '<b>x</b>',
    "'; DROP TABLE stations; --",
  ])('%j: is refused in words, or saved and comes back', async name => {
    const made = await api<Station & { message: string }>('POST', '', { plan: { ...smallPlan(), name }, note: '' })
    expect([201, 422]).toContain(made.status)
    if (made.status === 422) return expect(made.body.message).toBe('The plan has faults.')
    const { body } = await api<Station>('GET', `/${made.body.id}`)
    expect(body.plan.name).toBe(name)
    const saved = await api<Station>('PUT', `/${made.body.id}`, { plan: body.plan, note: name, baseRevision: 1 })
    expect(saved.status).toBe(200)
  })
})

describe('requests that no page would send', () => {
  const REQUESTS = 300
  it('are answered in words, and nothing of the machine is told; the stations are still there', async () => {
    const { wrong } = await askServer(server, 1, sent => sent < REQUESTS, PATIENCE_MS)
    expect(wrong).toEqual([])
    const { body: list } = await api<Station[]>('GET', '')
    expect(list.map(s => s.name)).toContain('Narrowboat Heron')
    expect(server.output).not.toMatch(/uncaught|unhandled/i)
  })
})
