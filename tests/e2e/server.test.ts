import { createHash } from 'node:crypto'
import { request } from 'node:http'
import { spawn } from 'node:child_process'
import { readdirSync, renameSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { demoPlan, smallPlan } from '../data/plans'
import { freePort, TestServer } from './browser'

let server: TestServer
beforeAll(async () => {
  server = new TestServer(await freePort())
  await server.start()
})
afterAll(() => server.stop())

/** A raw request: fetch would not let the Host header through. */
function raw(
  path: string,
  headers: Record<string, string>,
  method = 'GET',
  body?: string,
): Promise<{ status: number; text: string }> {
  return new Promise((resolve, reject) => {
    const sent = request({ host: '127.0.0.1', port: server.port, path, method, headers }, response => {
      let text = ''
      response.on('data', d => (text += d))
      response.on('end', () => resolve({ status: response.statusCode!, text }))
    })
    sent.on('error', reject)
    if (body !== undefined) sent.write(body)
    sent.end()
  })
}

/** Asks a route and gives its status and its JSON, whose shape each test states. */
async function api<T = Record<string, never>>(
  method: string,
  path: string,
  body?: unknown,
): Promise<{ status: number; body: T }> {
  const response = await fetch(`${server.url}/api/stations${path}`, {
    method,
    ...(body !== undefined && { body: JSON.stringify(body), headers: { 'content-type': 'application/json' } }),
  })
  return { status: response.status, body: (await response.json()) as T }
}
interface Station {
  id: string
  name: string
  revision: number
  plan: { name: string }
}

describe('the server', () => {
  it('starts with the demo stations, the one with flaws first', async () => {
    const { body } = await api<Station[]>('GET', '')
    expect(body.map(s => s.name)).toEqual(['Tern Rock light', 'Narrowboat Heron', 'Moor walk kit', 'Clean bench'])
  })

  it('refuses foreign hosts and origins in words', async () => {
    expect(await raw('/api/stations', { host: 'evil.example' })).toMatchObject({
      status: 403,
      text: expect.stringContaining('127.0.0.1'),
    })
    expect((await raw('/', { host: 'evil.example:80' })).status).toBe(403)
    expect(
      (await raw('/api/stations', { host: `127.0.0.1:${server.port}`, origin: 'https://evil.example' })).status,
    ).toBe(403)
    expect((await raw('/api/stations', { host: `127.0.0.1:${server.port}`, origin: 'null' })).status).toBe(403)
    expect(
      (await raw('/api/stations', { host: `127.0.0.1:${server.port}`, 'sec-fetch-site': 'cross-site' })).status,
    ).toBe(403)
    expect((await raw('/stations', { host: `127.0.0.1:${server.port}`, 'sec-fetch-site': 'cross-site' })).status).toBe(
      200,
    )
    expect(
      (await raw('/api/stations', { host: `localhost:${server.port}`, origin: `http://localhost:${server.port}` }))
        .status,
    ).toBe(200)
  })

  it('says on every page and answer what may run in it, and nothing of what runs it', async () => {
    const page = await fetch(server.url)
    const policy = page.headers.get('content-security-policy')!
    expect(policy).toMatch(/script-src 'self'( 'sha256-[^']+')*;/)
    expect(policy).toContain("frame-ancestors 'none'")
    // The inline scripts of the page, and no others.
    const inline = [...(await page.text()).matchAll(/<script(?![^>]*\bsrc=)([^>]*)>([^]*?)<\/script>/g)]
    const hashes = inline
      .filter(([, attributes]) => !/type="application\/json"/.test(attributes!))
      .map(([, , text]) => createHash('sha256').update(text!).digest('base64'))
    for (const hash of hashes) expect(policy).toContain(`'sha256-${hash}'`)
    for (const path of ['', '/api/stations', '/api/stations/none']) {
      const { headers } = await fetch(`${server.url}${path}`)
      expect([path, headers.get('x-content-type-options'), headers.get('x-powered-by')]).toEqual([
        path,
        'nosniff',
        null,
      ])
      expect(headers.get('referrer-policy')).toBe('no-referrer')
    }
  })

  it('takes what is written as JSON only, and answers unknown routes in JSON', async () => {
    const body = JSON.stringify({ plan: demoPlan('clean-bench') })
    const asText = await raw(
      '/api/stations',
      {
        host: `127.0.0.1:${server.port}`,
        'content-type': 'text/plain',
        'content-length': String(Buffer.byteLength(body)),
      },
      'POST',
      body,
    )
    expect(asText.status).toBe(415)
    expect(asText.text).toContain('application/json')
    const unknown = await fetch(`${server.url}/api/nothing/here`)
    expect(unknown.status).toBe(404)
    expect(await unknown.json()).toMatchObject({ statusCode: 404, message: expect.stringMatching(/no such/i) })
  })

  it('refuses oversized bodies and ones of unknown length', async () => {
    const host = `127.0.0.1:${server.port}`
    const large = 'x'.repeat(5 * 1024 * 1024)
    const refused = await raw(
      '/api/stations',
      { host: host, 'content-length': String(large.length) },
      'POST',
      large,
    ).catch((e: Error) => e.message)
    // The server does not read on: the answer comes, or the connection ends under the sender.
    expect(typeof refused === 'string' ? refused : refused.status).toSatisfy(
      v => v === 413 || /EPIPE|ECONNRESET|socket hang up/.test(String(v)),
    )
    expect((await raw('/api/stations', { host, 'transfer-encoding': 'chunked' }, 'POST', '{}')).status).toBe(411)
  })

  it('listens on loopback only', () => expect(server.output).toContain('http://127.0.0.1:'))

  it("validates with the plan's schema, listing every fault", async () => {
    const plan = smallPlan()
    const bad = await api<{ data: { faults: { path: string }[] } }>('POST', '', {
      plan: {
        ...plan,
        leads: [
          { ...plan.leads[0], lengthM: -2 },
          { ...plan.leads[0], id: 'l2', to: 'nowhere' },
        ],
      },
    })
    expect(bad.status).toBe(422)
    expect(bad.body.data.faults.map(f => f.path)).toEqual(['/leads/0/lengthM', '/leads/1/to'])
    expect((await api('POST', '', { nonsense: 1 })).status).toBe(400)
    expect(
      (
        await raw(
          '/api/stations',
          { host: `127.0.0.1:${server.port}`, 'content-type': 'application/json', 'content-length': '3' },
          'POST',
          '{a}',
        )
      ).status,
    ).toBe(400)
    expect((await api('GET', '/no-such')).status).toBe(404)
  })

  it('keeps every revision, and does not let a late window overwrite', async () => {
    const { body: made } = await api<Station>('POST', '', { plan: smallPlan(), note: 'made' })
    const second = await api('PUT', `/${made.id}`, {
      baseRevision: 1,
      plan: { ...smallPlan(), name: 'second' },
      note: 'renamed',
    })
    expect(second).toMatchObject({ status: 200, body: { status: 'saved', revision: 2 } })
    const late = await api('PUT', `/${made.id}`, { baseRevision: 1, plan: { ...smallPlan(), name: 'late' } })
    expect(late).toMatchObject({ status: 409, body: { status: 'conflict', current: { revision: 2, name: 'second' } } })
    const { body: history } = await api<{ number: number; note: string }[]>('GET', `/${made.id}/revisions`)
    expect(history.map(r => [r.number, r.note])).toEqual([
      [2, 'renamed'],
      [1, 'made'],
    ])
    expect((await api<Station>('GET', `/${made.id}/revisions/1`)).body.plan).toEqual(smallPlan())
    expect((await api('GET', `/${made.id}/revisions/9`)).status).toBe(404)
    await api('DELETE', `/${made.id}`)
    expect((await api('GET', `/${made.id}`)).status).toBe(404)
    await api('POST', `/${made.id}/restore`)
    expect((await api<Station>('GET', `/${made.id}`)).body.name).toBe('second')
    await api('DELETE', `/${made.id}`)
  })

  it('two saves at once on one revision: one is taken, one is told', async () => {
    const { body: made } = await api<Station>('POST', '', { plan: smallPlan() })
    const both = await Promise.all(
      ['a', 'b'].map(name => api('PUT', `/${made.id}`, { baseRevision: 1, plan: { ...smallPlan(), name } })),
    )
    expect(both.map(r => r.status).sort()).toEqual([200, 409])
  })

  it('refuses a second server on the same folder, in words', async () => {
    const other = spawn(process.execPath, [join(import.meta.dirname, '../../.output/server/index.mjs')], {
      env: {
        ...process.env,
        WIREMAN_DATA: server.folder,
        NITRO_HOST: '127.0.0.1',
        NITRO_PORT: String(await freePort()),
      },
    })
    let said = ''
    other.stderr.on('data', d => (said += d))
    const code = await new Promise(r => other.once('exit', r))
    expect(code).toBe(1)
    expect(said).toContain('Another Wireman')
    expect((await api('GET', '')).status).toBe(200)
  })

  it('says in words that its port is taken, and ends', async () => {
    const other = new TestServer(server.port)
    const started = other.spawn()
    expect(await new Promise(r => started.once('exit', r))).toBe(1)
    expect(other.output).toContain('The port is taken')
    await other.stop()
  })

  it('never begins anew over what somebody owns, and says in words what is wrong', async () => {
    const owner = new TestServer(await freePort())
    const ends = async () => {
      owner.output = ''
      const code = await new Promise(r => owner.spawn().once('exit', r))
      expect(owner.output).not.toMatch(/^\s+at /m)
      return code
    }
    writeFileSync(join(owner.folder, 'thesis.txt'), 'years of work')
    expect(await ends()).toBe(1)
    expect(owner.output).toMatch(/holds other things \(thesis.txt\).*WIREMAN_DATA/)
    expect(readdirSync(owner.folder)).toEqual(['thesis.txt'])
    rmSync(join(owner.folder, 'thesis.txt'))

    await owner.start()
    const id = await owner.made({ ...demoPlan('clean-bench'), name: 'My own' })
    await owner.kill('SIGTERM')
    const [there, aside] = [join(owner.folder, 'pg/PG_VERSION'), join(owner.folder, 'aside')]
    renameSync(there, aside)
    expect(await ends()).toBe(1)
    expect(owner.output).toContain('is damaged: pg has lost PG_VERSION')
    renameSync(aside, there)
    await owner.start()
    expect(((await (await fetch(`${owner.url}/api/stations/${id}`)).json()) as Station).name).toBe('My own')
    await owner.stop()
  })

  it('an acknowledged edit survives kill -9, as often as it happens', async () => {
    const { body: made } = await api<Station>('POST', '', { plan: demoPlan('clean-bench') })
    let revision = 1
    for (let round = 0; round < 3; round++) {
      for (let edit = 0; edit < 5; edit++) {
        const saved = await api<Station>('PUT', `/${made.id}`, {
          baseRevision: revision,
          plan: { ...demoPlan('clean-bench'), name: `round ${round}, edit ${edit}` },
        })
        expect(saved.status).toBe(200)
        revision = saved.body.revision
      }
      await server.kill('SIGKILL')
      await server.start()
      const { body } = await api<Station>('GET', `/${made.id}`)
      expect(body).toMatchObject({ revision, plan: { name: `round ${round}, edit 4` } })
      expect((await api<unknown[]>('GET', `/${made.id}/revisions`)).body).toHaveLength(revision)
    }
  })
})
