import { PGlite } from '@electric-sql/pglite'
import { join } from 'node:path'
import { demoPlan } from '../data/plans'
import { freePort, TestServer } from '../e2e/browser'

/** Much that was saved: the first page and an edit beside the same of four stations. */

const STATIONS = 1000
const REVISIONS = 10_000
const ASKED = 15

const median = (values: number[]) => [...values].sort((a, b) => a - b)[values.length >> 1]!

async function timed(work: () => Promise<unknown>): Promise<number> {
  const began = performance.now()
  await work()
  return performance.now() - began
}

/** Makes many stations in a folder that a server has begun, and a long history for the first of them. */
async function fill(folder: string) {
  const client = await PGlite.create(join(folder, 'pg'))
  const plan = JSON.stringify(demoPlan('tern-rock-light'))
  await client.query(
    `INSERT INTO stations (id, name, revision, created_at, updated_at)
     SELECT 'many' || n, 'Station ' || n, 1, now() - interval '1 day', now() - interval '1 day'
     FROM generate_series(1, $1) n`,
    [STATIONS],
  )
  await client.query(
    `INSERT INTO revisions (station_id, number, plan) SELECT 'many' || n, 1, $2 FROM generate_series(1, $1) n`,
    [STATIONS, plan],
  )
  const last = `SELECT id FROM stations WHERE name = 'Tern Rock light'`
  await client.query(
    `INSERT INTO revisions (station_id, number, plan)
     SELECT (${last}), n, $2 FROM generate_series($3::int, $1) n`,
    [REVISIONS, plan, ASKED + 2],
  )
  await client.query(`UPDATE stations SET revision = $1 WHERE name = 'Tern Rock light'`, [REVISIONS])
  await client.close()
}

async function measured(server: TestServer) {
  const list = () => fetch(`${server.url}/api/stations`).then(r => r.json()) as Promise<{ id: string; name: string }[]>
  const tern = (await list()).find(s => s.name === 'Tern Rock light')!
  const firsts: number[] = []
  const saves: number[] = []
  for (let i = 0; i < ASKED; i++) {
    firsts.push(
      await timed(async () => {
        await fetch(server.url).then(r => r.text())
        await fetch(`${server.url}/api/stations/${tern.id}`).then(r => r.json())
      }),
    )
    const { revision, plan } = (await (await fetch(`${server.url}/api/stations/${tern.id}`)).json()) as {
      revision: number
      plan: unknown
    }
    const body = JSON.stringify({ baseRevision: revision, plan, note: 'bench' })
    const headers = { 'content-type': 'application/json' }
    const save = () => fetch(`${server.url}/api/stations/${tern.id}`, { method: 'PUT', body, headers })
    saves.push(await timed(async () => (await save()).json()))
  }
  const lists: number[] = []
  for (let i = 0; i < ASKED; i++) lists.push(await timed(list))
  return { first: median(firsts), list: median(lists), save: median(saves) }
}

export async function benchManyStations(print: (line: string) => void) {
  const server = new TestServer(await freePort())
  await server.start()
  await new Promise(resolve => setTimeout(resolve, 1500))
  const few = await measured(server)
  await server.kill('SIGTERM')
  await fill(server.folder)
  const startMs = await server.start()
  await new Promise(resolve => setTimeout(resolve, 1500))
  const many = await measured(server)
  await server.stop()
  const said = (name: string, a: number, b: number) => `${name} ${a.toFixed(1)} → ${b.toFixed(1)} ms`
  print(
    `4 → ${STATIONS} stations, one with ${REVISIONS} revisions: ` +
      `${said('page and its station', few.first, many.first)}, ` +
      `${said('list', few.list, many.list)}, ${said('save', few.save, many.save)}; start ${startMs.toFixed(0)} ms`,
  )
}
