import { X509Certificate } from 'node:crypto'
import { mkdtempSync, rmSync } from 'node:fs'
import { createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { connect } from 'node:tls'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { certificateFor } from '../../../server/lan/certificates'
import { Lan } from '../../../server/lan/lan'

/** Listening on the local net: what is turned off while it is being turned on, and what runs out. */

const DAY_MS = 86_400_000
let folder: string
let port: number
let lan: Lan

const freePort = () =>
  new Promise<number>(resolve => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as { port: number }
      probe.close(() => resolve(port))
    })
  })

/** The certificate that a device is shown; null: nothing listens. */
const shown = () =>
  new Promise<X509Certificate | null>(resolve => {
    const socket = connect({ host: '127.0.0.1', port, rejectUnauthorized: false }, () => {
      const { raw } = socket.getPeerCertificate()
      socket.destroy()
      resolve(new X509Certificate(raw))
    })
    socket.on('error', () => resolve(null))
  })

beforeEach(async () => {
  folder = mkdtempSync(join(tmpdir(), 'wireman-lan-'))
  port = await freePort()
  Object.assign(process.env, { WIREMAN_DATA: folder, WIREMAN_LAN_PORT: String(port) })
})
afterEach(() => {
  lan.stop()
  delete process.env.WIREMAN_LAN_PORT
  rmSync(folder, { recursive: true, force: true })
})

describe('on the local net', () => {
  let now: Date
  const around = { addresses: () => ['127.0.0.1'], certificateFor, now: () => now }
  beforeEach(() => {
    now = new Date()
    lan = new Lan(around)
  })

  it('listens when it is turned on, and no longer when it is turned off', async () => {
    await lan.turn(true)
    expect(lan.state()).toMatchObject({ on: true, urls: [`https://127.0.0.1:${port}`], trouble: '' })
    expect((await shown())!.subjectAltName).toMatch('IP Address:127.0.0.1')
    await lan.turn(false)
    expect(lan.state()).toMatchObject({ on: false, urls: [] })
    expect(await shown()).toBeNull()
  })

  it('turned off while its certificate is being made, it does not listen', async () => {
    let made = () => {}
    const asked = new Promise<void>(resolve => (made = resolve))
    lan = new Lan({
      ...around,
      async certificateFor(...args) {
        await asked
        return certificateFor(...args)
      },
    })
    const on = lan.turn(true)
    await lan.turn(false)
    made()
    await on
    expect(lan.state()).toMatchObject({ on: false, urls: [] })
    expect(await shown()).toBeNull()
  })

  it('a certificate is made anew before it runs out, by the same authority', async () => {
    await lan.turn(true)
    const first = (await shown())!
    now = new Date(now.getTime() + 300 * DAY_MS)
    await lan.look()
    expect((await shown())!.serialNumber).toBe(first.serialNumber)
    now = new Date(now.getTime() + 70 * DAY_MS)
    await lan.look()
    const next = (await shown())!
    expect(next.serialNumber).not.toBe(first.serialNumber)
    expect(next.issuer).toBe(first.issuer)
    expect(Date.parse(next.validTo)).toBeGreaterThan(now.getTime() + 300 * DAY_MS)
  })

  it('a port that is taken is told in words, and looked for again', async () => {
    const other = createServer().listen(port, '127.0.0.1')
    await new Promise(resolve => other.once('listening', resolve))
    await lan.turn(true)
    expect(lan.state()).toMatchObject({ on: true, urls: [] })
    expect(lan.state().trouble).toMatch(/is taken.*WIREMAN_LAN_PORT/)
    await new Promise(resolve => other.close(resolve))
    await lan.look()
    expect(lan.state()).toMatchObject({ urls: [`https://127.0.0.1:${port}`], trouble: '' })
  })
})
