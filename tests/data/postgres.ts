import { execFileSync, spawn, type ChildProcess } from 'node:child_process'
import { chownSync, existsSync, mkdtempSync, readdirSync, rmSync } from 'node:fs'
import { createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import pg from 'pg'

/** A PostgreSQL server of its own for a test, of Debian's package (./run installs it). */

const PLACE = '/usr/lib/postgresql'

function programs(): string {
  const versions = existsSync(PLACE) ? readdirSync(PLACE).sort((a, b) => Number(b) - Number(a)) : []
  const found = versions.map(v => join(PLACE, v, 'bin')).find(bin => existsSync(join(bin, 'initdb')))
  if (!found) throw new Error(`no PostgreSQL in ${PLACE}; ./run test installs Debian's`)
  return found
}

/** It refuses to run as root: then it runs as the user that its package made. */
function runsAs(): { uid: number; gid: number } | undefined {
  if (process.getuid?.() !== 0) return undefined
  const idOf = (flag: string) => Number(execFileSync('id', [flag, 'postgres'], { encoding: 'utf8' }))
  return { uid: idOf('-u'), gid: idOf('-g') }
}

function freePort(): Promise<number> {
  return new Promise(resolve => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as { port: number }
      probe.close(() => resolve(port))
    })
  })
}

export interface TestPostgres {
  /** A new, empty database. @returns its address */
  database: () => Promise<string>
  /** Cuts every connection, as a server that is started anew does. */
  cutAll: () => Promise<void>
  stop: () => Promise<void>
}

export async function startPostgres(): Promise<TestPostgres> {
  const bin = programs()
  const user = runsAs()
  const folder = mkdtempSync(join(tmpdir(), 'wireman-pg-'))
  if (user) chownSync(folder, user.uid, user.gid)
  const data = join(folder, 'data')
  const options = { ...user, env: { ...process.env, LC_ALL: 'C.UTF-8' } }
  const made = ['-D', data, '-U', 'wireman', '--auth=trust', '--no-sync', '-E', 'UTF8']
  execFileSync(join(bin, 'initdb'), made, { ...options, stdio: 'ignore' })
  const port = await freePort()
  const settings = [`port=${port}`, 'listen_addresses=127.0.0.1', `unix_socket_directories=${folder}`, 'fsync=off']
  const args = ['-D', data, ...settings.flatMap(s => ['-c', s])]
  const server = spawn(join(bin, 'postgres'), args, { ...options, stdio: 'ignore' })
  const urlOf = (name: string) => `postgres://wireman@127.0.0.1:${port}/${name}`
  await answers(urlOf('postgres'), server)
  let count = 0
  const asked = async (question: string) => {
    const client = new pg.Client({ connectionString: urlOf('postgres') })
    await client.connect()
    await client.query(question)
    await client.end()
  }
  return {
    async database() {
      const name = `station_${++count}`
      await asked(`CREATE DATABASE ${name}`)
      return urlOf(name)
    },
    cutAll: () =>
      asked(
        'SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE pid <> pg_backend_pid() AND datname IS NOT NULL',
      ),
    async stop() {
      const ended = new Promise(resolve => server.once('exit', resolve))
      server.kill('SIGINT')
      await ended
      rmSync(folder, { recursive: true, force: true })
    },
  }
}

async function answers(url: string, server: ChildProcess) {
  for (let tries = 0; tries < 200; tries++) {
    if (server.exitCode !== null) throw new Error(`PostgreSQL ended with ${server.exitCode}`)
    const client = new pg.Client({ connectionString: url })
    const isThere = await client.connect().then(
      () => true,
      () => false,
    )
    if (isThere) return client.end()
    await new Promise(resolve => setTimeout(resolve, 50))
  }
  throw new Error('PostgreSQL does not answer')
}
