import { spawnSync } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { PGlite } from '@electric-sql/pglite'
import { afterAll, describe, expect, it } from 'vitest'
import type { Plan } from '../../core/plan/schema'
import { demoPlan } from '../data/plans'
import { PATIENCE_MS } from './browser'
import { fresh, journeys, page, server } from './journey'

const aside = mkdtempSync(join(tmpdir(), 'wireman-backup-'))
journeys('no page')
afterAll(() => rmSync(aside, { recursive: true, force: true }))
const api = async <T>(method: string, path: string, body?: unknown) => {
  const sent = body === undefined ? {} : { body: JSON.stringify(body), headers: { 'content-type': 'application/json' } }
  return (await (await fetch(`${server.url}/api/stations${path}`, { method, ...sent })).json()) as T
}
interface Station {
  id: string
  name: string
  revision: number
  plan: Plan
}

describe('a backup', () => {
  it('goes out in one file, and what was changed and deleted since comes back after a look', async () => {
    const id = await server.made({ ...demoPlan('clean-bench'), name: 'My own' })
    await fresh({ height: 900 })
    await page.goto(`${server.url}/stations`)
    const panel = page.getByTestId('backup')
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      panel.getByText('Save everything to a file').click(),
    ])
    const file = join(aside, 'all.jsonl')
    await download.saveAs(file)
    expect(download.suggestedFilename()).toMatch(/^wireman-backup-\d{4}-\d\d-\d\d\.jsonl$/)

    // Changed since, and another deleted.
    const { plan, revision } = await api<Station>('GET', `/${id}`)
    await api('PUT', `/${id}`, { plan: { ...plan, name: 'Spoilt' }, baseRevision: revision, note: '' })
    const list = await api<Station[]>('GET', '')
    const heron = list.find(s => s.name === 'Narrowboat Heron')!
    await api('DELETE', `/${heron.id}`)

    await page.getByTestId('restore').setInputFiles(file)
    await panel.getByText('stays in their history: My own').waitFor()
    await panel.getByText('put back: Narrowboat Heron').waitFor()
    expect((await api<Station>('GET', `/${id}`)).name).toBe('Spoilt')
    await panel.getByRole('button', { name: 'Restore it' }).click()
    await panel.getByText('Restored.').waitFor()
    const back = await api<Station>('GET', `/${id}`)
    expect([back.name, back.revision, back.plan]).toEqual(['My own', 3, plan])
    expect((await api<Station>('GET', `/${heron.id}`)).name).toBe('Narrowboat Heron')
    // What was there in between is in the history, and in a copy beside the data.
    expect((await api<Station>('GET', `/${id}/revisions/2`)).plan.name).toBe('Spoilt')
    expect(readdirSync(join(server.folder, 'backups'))).toEqual([expect.stringMatching(/^before-restoring-/)])
    // Once more it changes nothing.
    await page.getByTestId('restore').setInputFiles(file)
    await panel.getByText('nothing: all of it stands here').waitFor()

    await page
      .getByTestId('restore')
      .setInputFiles({ name: 'x.jsonl', mimeType: 'text/plain', buffer: Buffer.from('{}') })
    await panel.getByText('it does not begin as a wireman-backup file').waitFor()
  })

  it('is made and restored from the command line, into an empty folder too', async () => {
    const run = (folder: string, ...words: string[]) =>
      spawnSync('./run', words, { encoding: 'utf8', env: { ...process.env, WIREMAN_DATA: folder } })
    const file = join(aside, 'cli.jsonl')
    expect(run(server.folder, 'backup', file).stderr).toContain('Another Wireman')
    await server.kill('SIGTERM')
    const made = run(server.folder, 'backup', file)
    expect([made.stderr.replace(/^npm.*\n/gm, ''), made.status]).toEqual(['', 0])
    const elsewhere = join(aside, 'elsewhere')
    const look = run(elsewhere, 'restore', file)
    expect(look.stdout).toMatch(/put in: .*My own[^]*Nothing was changed/)
    const done = run(elsewhere, 'restore', file, '--yes')
    expect(done.status).toBe(0)
    const again = join(aside, 'again.jsonl')
    run(elsewhere, 'backup', again)
    const plans = (path: string) =>
      readFileSync(path, 'utf8')
        .split('\n')
        .filter(l => l.includes('"revision":{') && l.includes('My own'))
    expect(plans(again)).toEqual(plans(file))
    expect(readFileSync(again, 'utf8').match(/"station":/g)).toHaveLength(5)
    await server.start()
  })
})

describe('a station of which the last state is lost', () => {
  it('is told on the list and where it opens, its last good state is built on, and a backup has it', async () => {
    const own = demoPlan('clean-bench')
    const id = await server.made({ ...own, name: 'Torn bench' })
    await api('PUT', `/${id}`, { plan: { ...own, name: 'Torn bench', note: 'later' }, baseRevision: 1, note: '' })
    await server.kill('SIGTERM')
    const engine = await PGlite.create(join(server.folder, 'pg'))
    await engine.query('UPDATE revisions SET plan = left(plan, 100) WHERE station_id = $1 AND number = 2', [id])
    await engine.close()
    await server.start()
    const words = /revision 2, cannot be read any more; revision 1 of .* UTC stands in for it/
    await expect.poll(() => server.output, { timeout: PATIENCE_MS }).toMatch(words)

    await fresh()
    await page.goto(`${server.url}/stations`)
    const card = page.locator('li').filter({ hasText: 'Torn bench' })
    await card.getByTestId('trouble').filter({ hasText: words }).waitFor()
    await card.getByText('passes every check').waitFor()
    await card.getByRole('link', { name: 'Torn bench' }).click()
    await page.getByRole('alert').filter({ hasText: words }).waitFor()
    // What is saved next stands on the number that was lost.
    const read = await api<Station>('GET', `/${id}`)
    await api('PUT', `/${id}`, { plan: { ...read.plan, note: 'anew' }, baseRevision: read.revision, note: '' })
    expect(await api('GET', `/${id}`)).toMatchObject({ revision: 3, plan: { note: 'anew' } })
    expect(JSON.stringify(await api('GET', ''))).not.toContain('trouble')
    const backup = await (await fetch(`${server.url}/api/backup`)).text()
    expect(backup.split('\n').filter(l => l.includes(id) && l.includes('"revision":{'))).toHaveLength(2)
  })
})
