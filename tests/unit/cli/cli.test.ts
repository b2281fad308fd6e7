import { spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { checksPage, schemaPage } from '../../../cli/docs'
import { lead, smallPlan } from '../../data/plans'

const ROOT = join(import.meta.dirname, '../../..')
const run = (args: string[], input?: string) => {
  const { status, stdout, stderr } = spawnSync(process.execPath, ['--import', 'tsx', 'cli/wireman.ts', ...args], { cwd: ROOT, encoding: 'utf8', input })
  return { status, stdout, stderr }
}
const file = (text: string) => {
  const path = join(mkdtempSync(join(tmpdir(), 'wireman-cli-')), 'plan.json')
  writeFileSync(path, text)
  return path
}

describe('check', () => {
  it('prints findings as JSON and nothing else, with fixes that are patches; exit 1', () => {
    const { status, stdout } = run(['check', 'demo/tern-rock-light.json', '--json'])
    expect(status).toBe(1)
    const { findings, passed } = JSON.parse(stdout)
    expect(findings[0]).toMatchObject({ check: 'fuse-place', severity: 'danger', place: 'l1', condition: null, numbers: { unprotectedM: 0.62, allowedM: 0.18 } })
    expect(findings[0].fixes[0]).toMatchObject({ patch: [{ op: 'add', path: '/leads/0/inline/0/atM', value: 0.12 }], after: { solves: true, worse: [] } })
    for (const finding of findings) expect(Object.keys(finding)).toEqual(expect.arrayContaining(['check', 'severity', 'place', 'condition', 'message', 'why', 'numbers', 'fixes']))
    expect(passed).toContain('ampacity')
  })
  it('exits 0 with nothing to mend, and says so', () => {
    const { status, stdout } = run(['check', 'demo/clean-bench.json'])
    expect(status).toBe(0)
    expect(stdout).toContain('nothing to mend')
    expect(stdout).toContain('licensed electrician')
  })
  it('exits 0 when there are cautions only', () => {
    const plan = smallPlan({ leads: [lead({ conductor: { awg: 10, material: 'cca' } })] })
    expect(run(['check', file(JSON.stringify(plan))]).status).toBe(0)
  })
  it('lists the faults of a plan that cannot be read; exit 2', () => {
    const bad = run(['check', file(JSON.stringify({ ...smallPlan(), leads: [lead({ lengthM: -2 })] })), '--json'])
    expect(bad.status).toBe(2)
    expect(JSON.parse(bad.stdout).faults).toEqual([{ path: '/leads/0/lengthM', wrong: 'lead l1: lengthM is −2', right: 'above 0' }])
    expect(run(['check', 'no-such-file.json']).stderr).toContain('there is no such file')
    expect(run(['check', file('{')]).status).toBe(2)
  })
  it('reads standard input', () => expect(run(['check', '-'], readFileSync(join(ROOT, 'demo/clean-bench.json'), 'utf8')).status).toBe(0))
})

describe('solve', () => {
  it('gives one condition', () => {
    const { stdout, status } = run(['solve', 'demo/tern-rock-light.json', '--condition', 'low/all', '--json'])
    expect(status).toBe(0)
    const point = JSON.parse(stdout)
    expect(point).toMatchObject({ condition: 'low/all', status: 'ok' })
    expect(point.nodes['blk.p1'].volts).toBeGreaterThan(12)
    expect(Object.keys(point.leads.l1)).toEqual(['amps', 'dropV', 'watts', 'conductorC'])
  })
  it('gives the matrix without one', () => expect(JSON.parse(run(['solve', 'demo/tern-rock-light.json', '--json']).stdout)).toHaveLength(32))
  it('names the conditions there are; exit 2', () => {
    const { status, stderr } = run(['solve', 'demo/clean-bench.json', '--condition', 'low/all'])
    expect(status).toBe(2)
    expect(stderr).toContain('nominal')
  })
})

it('an unknown command or flag is answered with the help', () => {
  expect(run(['frobnicate'])).toMatchObject({ status: 2, stderr: expect.stringContaining('check PLAN.json') })
  expect(run(['check', 'demo/clean-bench.json', '--jsn']).stderr).toContain('--jsn')
})

describe('generated pages', () => {
  it('docs/checks.md is what the code says', () => expect(readFileSync(join(ROOT, 'docs/checks.md'), 'utf8')).toBe(checksPage()))
  it('the published JSON Schema is what the code says', () => expect(readFileSync(join(ROOT, 'docs/wireman-plan.schema.json'), 'utf8')).toBe(schemaPage()))
})
