import { existsSync, mkdirSync, rmSync, writeFileSync } from 'node:fs'
import type { RequestListener } from 'node:http'
import { createServer, type Server } from 'node:https'
import { join } from 'node:path'
import { dataFolder } from '../db/client'
import { localAddresses, localName } from './addresses'
import { certificateFor, type ServerCertificate } from './certificates'
import { gateOf } from './gate'
import { Pairing } from './pairing'

/** Listening on the local net, over TLS, for devices that were let in. Off unless it was chosen. */

export interface LanState {
  on: boolean
  /** Where a device finds it: https://192.168.1.7:3211 */
  urls: string[]
  /** Why it cannot be reached, in words. */
  trouble: string
}

/** A device that stands in a field changes its net: addresses are looked for so often, ms. */
const LOOK_EVERY_MS = 10_000
/** A client that sends nothing for so long is cut off, ms. */
const HEADERS_WITHIN_MS = 10_000
const BODY_WITHIN_MS = 60_000
const MOST_CONNECTIONS = 200

/** A certificate is made anew so long before it runs out. */
const RENEWED_BEFORE_MS = 30 * 86_400_000

const folder = () => join(dataFolder(), 'lan')
/** It stands there while it was chosen: the next start listens again. */
const chosenFile = () => join(folder(), 'on')

const portOf = () =>
  Number(process.env.WIREMAN_LAN_PORT) || Number(process.env.NITRO_PORT || process.env.PORT || 3210) + 1

/** What it asks the machine; tests answer instead. */
export interface Surroundings {
  addresses: () => string[]
  certificateFor: typeof certificateFor
  now: () => Date
}
const THIS_MACHINE: Surroundings = { addresses: localAddresses, certificateFor, now: () => new Date() }

export class Lan {
  private readonly pairing = new Pairing()
  private readonly servers = new Map<string, Server>()
  private certificate: ServerCertificate | null = null
  private looking: NodeJS.Timeout | null = null
  private trouble = ''
  private inside: RequestListener | null = null

  constructor(private readonly around = THIS_MACHINE) {}

  /** @param inside what answers a device that was let in */
  async serve(inside: RequestListener) {
    this.inside = inside
    if (existsSync(chosenFile()) || process.env.WIREMAN_LAN) await this.start()
  }

  state(): LanState {
    return { on: this.looking !== null, urls: this.urls(), trouble: this.trouble }
  }

  /** A new code, and where it is taken. null: nothing listens. */
  invitation(): { code: string; until: number; urls: string[] } | null {
    if (!this.servers.size) return null
    const { code, until } = this.pairing.begin()
    return { code, until, urls: this.urls().map(url => `${url}/pair#${code}`) }
  }

  private urls(): string[] {
    return [...this.servers.keys()].map(address => `https://${address}:${portOf()}`)
  }

  async turn(on: boolean): Promise<LanState> {
    if (on) {
      mkdirSync(folder(), { recursive: true, mode: 0o700 })
      writeFileSync(chosenFile(), '')
      await this.start()
    } else {
      rmSync(chosenFile(), { force: true })
      this.stop()
    }
    return this.state()
  }

  async start() {
    if (this.looking) return
    this.looking = setInterval(() => void this.look(), LOOK_EVERY_MS).unref()
    await this.look()
  }

  stop() {
    if (this.looking) clearInterval(this.looking)
    this.looking = null
    this.trouble = ''
    this.pairing.end()
    for (const address of [...this.servers.keys()]) this.leave(address)
  }

  /** Listens at the addresses that there are now, with a certificate for them that has not run out. */
  async look() {
    const addresses = this.around.addresses()
    const isSame = addresses.length === this.servers.size && addresses.every(a => this.servers.has(a))
    if (isSame && addresses.length && !this.isDue()) return
    const asked = this.looking
    try {
      const names = { addresses, names: localName() }
      const certificate = await this.around.certificateFor(folder(), names, this.around.now())
      // Meanwhile it may have been turned off.
      if (this.looking !== asked) return
      this.certificate = certificate
      for (const address of [...this.servers.keys()]) if (!addresses.includes(address)) this.leave(address)
      for (const server of this.servers.values()) server.setSecureContext(certificate)
      for (const address of addresses)
        if (this.looking === asked && !this.servers.has(address)) await this.listen(address)
      if (!addresses.length)
        this.trouble = 'This machine is on no local net. Join one; it is looked for again every ten seconds.'
    } catch (error) {
      this.trouble = inWords(error as NodeJS.ErrnoException)
    }
  }

  private isDue(): boolean {
    const until = this.certificate?.until.getTime() ?? 0
    return this.around.now().getTime() > until - RENEWED_BEFORE_MS
  }

  private listen(address: string): Promise<void> {
    const server = createServer(
      { ...this.certificate!, minVersion: 'TLSv1.2' },
      gateOf({
        pairing: this.pairing,
        hosts: () => this.hosts(),
        authority: () => this.certificate!.authority,
        inside: this.inside!,
      }),
    )
    Object.assign(server, { headersTimeout: HEADERS_WITHIN_MS, requestTimeout: BODY_WITHIN_MS })
    server.maxConnections = MOST_CONNECTIONS
    // A client that speaks no TLS, or breaks off.
    server.on('tlsClientError', (_, socket) => socket.destroy())
    const asked = this.looking
    return new Promise((resolve, reject) => {
      server.once('error', reject).listen(portOf(), address, () => {
        server.off('error', reject).on('error', () => this.leave(address))
        if (this.looking === asked) this.servers.set(address, server)
        else server.close()
        this.trouble = ''
        resolve()
      })
    })
  }

  private leave(address: string) {
    const server = this.servers.get(address)
    this.servers.delete(address)
    server?.close()
    server?.closeAllConnections()
  }

  private hosts(): ReadonlySet<string> {
    return new Set([...this.servers.keys(), ...localName()].map(name => `${name}:${portOf()}`))
  }
}

function inWords({ code, message }: NodeJS.ErrnoException): string {
  if (code === 'EADDRINUSE') return `Port ${portOf()} is taken. Choose another with WIREMAN_LAN_PORT and start again.`
  if (code === 'EACCES') return `This user may not listen at port ${portOf()}. Choose one above 1024: WIREMAN_LAN_PORT.`
  if (code === 'EADDRNOTAVAIL') return 'This machine has not the address that WIREMAN_LAN_ADDRESS names.'
  return message
}

export const lan = new Lan()
