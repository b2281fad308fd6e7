/* eslint-disable max-lines -- every command of one program, run as it is */
import { spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, expect, it, vi } from 'vitest'
import { checksPage, eventSchemaPage, logSchemaPage, noisePage, noiseSchemaPage, schemaPage } from '../../../cli/docs'
import { main } from '../../../cli/main'
import { lead, smallPlan } from '../../data/plans'

const ROOT = join(import.meta.dirname, '../../..')
/** The program as it is started, with what is piped into it. */
const spawned = (args: string[], input?: string) => {
  const { status, stdout, stderr } = spawnSync('./run', args, { cwd: ROOT, encoding: 'utf8', input })
  return { status, stdout, stderr }
}
/** The same without a start of its own, which takes a second. */
async function run(args: string[]) {
  const said = { stdout: '', stderr: '' }
  const hear = (stream: 'stdout' | 'stderr') =>
    vi.spyOn(process[stream], 'write').mockImplementation(text => {
      said[stream] += typeof text === 'string' ? text : Buffer.from(text).toString()
      return true
    })
  const heard = [hear('stdout'), hear('stderr')]
  const status = await main(args).finally(() => heard.forEach(spy => spy.mockRestore()))
  return { status, ...said }
}
const file = (text: string) => {
  const path = join(mkdtempSync(join(tmpdir(), 'wireman-cli-')), 'plan.json')
  writeFileSync(path, text)
  return path
}

describe('check', () => {
  it('prints findings as JSON and nothing else, with fixes that are patches; exit 1', async () => {
    const { status, stdout } = await run(['check', 'demo/tern-rock-light.json', '--json'])
    expect(status).toBe(1)
    const { findings, passed } = JSON.parse(stdout)
    expect(findings[0]).toMatchObject({
      check: 'fuse-place',
      severity: 'danger',
      place: 'l1',
      condition: null,
      numbers: { unprotectedM: 0.62, allowedM: 0.18 },
    })
    expect(findings[0].fixes[0]).toMatchObject({
      patch: [{ op: 'replace', path: '/leads/0/inline/0/atM', value: 0.12 }],
      after: { worse: [] },
    })
    for (const finding of findings)
      expect(Object.keys(finding)).toEqual(
        expect.arrayContaining(['check', 'severity', 'place', 'condition', 'message', 'why', 'numbers', 'fixes']),
      )
    expect(passed).toContain('ampacity')
  })
  it('exits 0 with nothing to mend, and says so', async () => {
    const { status, stdout } = await run(['check', 'demo/clean-bench.json'])
    expect(status).toBe(0)
    expect(stdout).toContain('nothing to mend')
    expect(stdout).toContain('licensed electrician')
  })
  it('exits 0 when there are cautions only', async () => {
    const plan = smallPlan({ leads: [lead({ conductor: { awg: 10, material: 'cca' } })] })
    expect((await run(['check', file(JSON.stringify(plan))])).status).toBe(0)
  })
  it('lists the faults of a plan that cannot be read; exit 2', async () => {
    const bad = await run(['check', file(JSON.stringify({ ...smallPlan(), leads: [lead({ lengthM: -2 })] })), '--json'])
    expect(bad.status).toBe(2)
    expect(JSON.parse(bad.stdout).faults).toEqual([
      { path: '/leads/0/lengthM', wrong: 'lead l1: lengthM is −2', right: 'above 0' },
    ])
    expect((await run(['check', 'no-such-file.json'])).stderr).toContain('there is no such file')
    expect((await run(['check', file('{')])).status).toBe(2)
  })
  it('reads standard input', async () =>
    expect(spawned(['check', '-'], readFileSync(join(ROOT, 'demo/clean-bench.json'), 'utf8')).status).toBe(0))
})

describe('solve', () => {
  it('refuses a condition there is not once, with what it is made of', async () => {
    const { status, stderr } = await run(['solve', 'demo/tern-rock-light.json', '--condition', 'noon/all'])
    expect(status).toBe(2)
    expect(stderr).toBe(
      '--condition: there is no condition noon/all in this plan; right would be one of charging, bulk, full, ' +
        'nominal, low, a stroke, and one of idle, all, only:hf, only:vhf, only:log, only:lamps, both-operators, ' +
        'hf-half\n',
    )
  })
  it('gives one condition', async () => {
    const { stdout, status } = await run(['solve', 'demo/tern-rock-light.json', '--condition', 'low/all', '--json'])
    expect(status).toBe(0)
    const point = JSON.parse(stdout)
    expect(point).toMatchObject({ condition: 'low/all', status: 'ok' })
    expect(point.nodes['blk.p1'].volts).toBeGreaterThan(12)
    expect(Object.keys(point.leads.l1)).toEqual(['amps', 'dropV', 'watts', 'conductorC'])
  })
  it('gives the matrix without one', async () =>
    expect(JSON.parse((await run(['solve', 'demo/tern-rock-light.json', '--json'])).stdout)).toHaveLength(40))
  it('names the conditions there are; exit 2', async () => {
    const { status, stderr } = await run(['solve', 'demo/clean-bench.json', '--condition', 'low/all'])
    expect(status).toBe(2)
    expect(stderr).toContain('nominal')
  })
})

describe('words that a command has not', () => {
  const plan = 'demo/clean-bench.json'
  it.each([
    [['check', plan, '--jsn'], '--jsn: check has no such option; right would be --json'],
    [['check', plan, '--for', 'weight'], '--for: check has no such option'],
    [['solve', plan, '--condition'], "Option '--condition <value>' argument missing"],
    [['check', plan, '--json=yes'], "Option '--json' does not take an argument"],
    [['check', plan, 'another.json'], 'another.json: check takes no such word'],
    [['schema', plan], 'schema takes no such word'],
    [['export', plan, '--svg', '--paper', 'letter'], '--paper: it does not go with --svg'],
    [['export', plan, '--pdf', '--paper', 'a5'], '--paper: it is a5; right would be one of a4, letter'],
    [['export', plan, '--svg', '--out', '/no/such/folder/path.svg'], 'cannot be written (ENOENT)'],
    [['comb', plan, '--centre-hz', 'x'], '--centre-hz: it is x'],
    [['choke', '--turns', '0'], '--initial-permeability: it is not given'],
    [['check'], 'no file is named; right would be ./run check PLAN.json [--json]'],
    [['check', 'demo'], 'the file cannot be opened (EISDIR)'],
  ])('%j is refused in words; exit 2, nothing printed', async (args, words) => {
    const { status, stdout, stderr } = await run(args)
    expect(stderr).toContain(words)
    expect(status).toBe(2)
    expect(stdout).toBe('')
  })
  it('is said as JSON too where that was asked for', async () => {
    const { stdout } = await run(['size', plan, '--for', 'beauty', '--json'])
    expect(JSON.parse(stdout).faults).toEqual([
      { path: '--for', wrong: 'it is beauty', right: 'one of weight, cost, drop' },
    ])
  })
  it('whoever has read enough may go: no fault is told', () => {
    const piped = './run schema | head -1; echo "ended ${PIPESTATUS[0]}"'
    const { stdout, stderr } = spawnSync('bash', ['-c', piped], { cwd: ROOT, encoding: 'utf8' })
    expect(stdout).toBe('{\nended 0\n')
    expect(stderr).not.toContain('EPIPE')
  })
  it('an unknown command is answered with those there are', async () => {
    const { status, stderr } = spawned(['frobnicate'])
    expect(status).toBe(2)
    expect(stderr).toContain('There is no command frobnicate; ./run help lists them.')
    const program = await run(['frobnicate'])
    expect(program.status).toBe(2)
    expect(program.stderr).toMatch(
      /^frobnicate: there is no such command; right would be one of check, mend, [^\n]*\n$/,
    )
  })
})

describe('help', () => {
  it.each([
    ['help', 'short'],
    ['short', '--help'],
    ['short', 'demo/clean-bench.json', '-h'],
    ['--help', 'short'],
  ])('%s %s: says what that command does, and of no other', async (...args) => {
    const { status, stdout } = await run(args)
    expect(status).toBe(0)
    expect(stdout).toContain('./run short PLAN.json [--json] [--way NAME]')
    expect(stdout).not.toContain('./run check')
  })
  it('is refused of a command there is not, and of an option', async () => {
    expect(await run(['help', 'frobnicate'])).toMatchObject({ status: 2, stdout: '' })
    expect((await run(['help', '--bogus'])).stderr).toContain('--bogus: there is no such command')
  })
})

describe('generated pages', () => {
  it('docs/checks.md is what the code says', async () =>
    expect(readFileSync(join(ROOT, 'docs/checks.md'), 'utf8')).toBe(checksPage()))
  it('docs/noise.md is what the code says', async () =>
    expect(readFileSync(join(ROOT, 'docs/noise.md'), 'utf8')).toBe(noisePage()))
  it('docs/wireman-noise.schema.json is what the code says', async () =>
    expect(readFileSync(join(ROOT, 'docs/wireman-noise.schema.json'), 'utf8')).toBe(noiseSchemaPage()))
  it('docs/wireman-event.schema.json is what the code says', async () =>
    expect(readFileSync(join(ROOT, 'docs/wireman-event.schema.json'), 'utf8')).toBe(eventSchemaPage()))
  it('and that of the log too', async () =>
    expect(readFileSync(join(ROOT, 'docs/wireman-log.schema.json'), 'utf8')).toBe(logSchemaPage()))
  it('the published JSON Schema is what the code says', async () =>
    expect(readFileSync(join(ROOT, 'docs/wireman-plan.schema.json'), 'utf8')).toBe(schemaPage()))
})

describe('hours', () => {
  const weekend = ['hours', 'demo/tern-rock-light.json', '--event', 'demo/events/tern-rock-weekend.json']

  it('looked at seldom it says that what is short may be missed', async () => {
    const grey = ['hours', 'demo/narrowboat-heron.json', '--event', 'demo/events/heron-grey-week.json']
    const often = (await run(grey)).stdout
    const seldom = (await run([...grey, '--step-minutes', '10'])).stdout
    // From 20:57 to 21:00 on Tuesday.
    expect(often).toContain('On the air until Tue 20:57')
    expect(often).not.toContain('may be missed')
    expect(seldom).toContain('On the air until Wed 09:00')
    expect(seldom).toContain('assumed: to look every 10 minutes is often enough; what fails for less may be missed')
  })
  it('prints when it ends and why, energies and the timeline; exit 1 where something fails', async () => {
    const { status, stdout } = await run([...weekend, '--json'])
    expect(status).toBe(1)
    const { says, ends, energy, timeline } = JSON.parse(stdout)
    expect(says).toMatch(/On the air until (Sun|Mon)/)
    expect(ends).toMatchObject({ atH: expect.any(Number), cause: 'used up', place: 'bat' })
    expect(energy.sunWh + energy.suppliedWh + energy.storesWh).toBeCloseTo(energy.loadsWh + energy.lossWh, 3)
    expect(timeline[0]).toMatchObject({ h: 0, soc: { bat: 1 }, volts: { hf: expect.any(Number) } })
    expect(timeline.at(-1).h).toBe(48)
  })
  it('the same odds for the same seed', async () => {
    const odds = async () => JSON.parse((await run([...weekend, '--runs', '40', '--seed', '7', '--json'])).stdout).odds
    expect(await odds()).toEqual(await odds())
  })
  it.each([
    [['hours', 'demo/tern-rock-light.json'], /no event is named/],
    [['hours', 'demo/tern-rock-light.json', '--event', 'nowhere.json'], /no such file/],
    [[...weekend, '--runs', '2.5'], /whole number/],
    [['hours', 'demo/clean-bench.json', '--event', 'demo/events/tern-rock-weekend.json'], /no part bat|no part sun/],
    [['hours', '--sun', '--lat', '95', '--lon', '0', '--date', '2026-06-21'], /--lat: it is 95/],
    [['hours', '--sun', '--lat', '50', '--lon', '0', '--date', '2026-02-30'], /--date: it is 2026-02-30/],
  ])('%j is refused in words', async (words, wrong) => {
    const { status, stderr } = await run(words)
    expect(status).toBe(2)
    expect(stderr).toMatch(wrong)
  })
  it('--sun gives 24 hours of the day, west of Greenwich too', async () => {
    const sun = [
      'hours',
      '--sun',
      '--lat',
      '54',
      '--lon',
      '-3',
      '--tilt',
      '35',
      '--azimuth',
      '180',
      '--date',
      '2026-06-21',
    ]
    const { hours } = JSON.parse((await run([...sun, '--json'])).stdout)
    expect(hours).toHaveLength(24)
    const high = hours.reduce((a: { elevationDeg: number }, b: { elevationDeg: number }) =>
      b.elevationDeg > a.elevationDeg ? b : a,
    )
    expect(high.utc).toBe('2026-06-21T12:00:00.000Z')
    expect(high.elevationDeg).toBeCloseTo(59.3, 0)
    expect(hours[0].clearSkyWm2).toBe(0)
    expect(high.planeWm2).toBeGreaterThan(high.clearSkyWm2)
  })
})

describe('short', () => {
  it('prints the study as JSON; exit 1 where a wire burns, 0 where no more than the posts go on', async () => {
    const { status, stdout } = await run(['short', 'demo/clean-bench.json', '--json'])
    expect(status).toBe(0)
    const { shorts, unprotected, devices } = JSON.parse(stdout)
    expect(shorts[0]).toMatchObject({ at: 'psu', prospectiveA: expect.any(Number), clears: true, survives: true })
    expect(unprotected.length).toBeGreaterThan(0)
    expect(devices.length).toBeGreaterThan(0)
    expect((await run(['short', file(JSON.stringify(smallPlan({ leads: [lead({ inline: [] })] })))])).status).toBe(1)
    const fused = await run(['short', file(JSON.stringify(smallPlan()))])
    expect(fused.stdout).toMatch(/bat .* A {2}nothing opens; goes on, at the post\n/)
    expect(fused.status).toBe(0)
  })
  it('in words names the device and its times', async () =>
    expect((await run(['short', 'demo/tern-rock-light.json'])).stdout).toMatch(
      /blk\.p1 .* A {2}30 A fuse at Fused block, port 1 opens first, after [\d.]+ ms to [\d.]+ ms/,
    ))
})

describe('a way of a plan', () => {
  const long = { ...lead(), lengthM: 30 }
  const ways = { ...smallPlan(), variants: [{ id: 'v1', name: 'In the car', leads: [long] }] }
  const path = file(JSON.stringify(ways))
  const arrives = async (args: string[]) =>
    JSON.parse((await run(['check', path, '--json', ...args])).stdout).arrivals.hf.low.value
  it('is looked at by its name or its id; without one it is told that there are others', async () => {
    expect(await arrives(['--way', 'in the car'])).toBeLessThan(await arrives([]))
    expect(await arrives(['--way', 'v1'])).toBe(await arrives(['--way', 'In the car']))
    expect((await run(['check', path])).stderr).toContain('--way looks at one of its other ways: "In the car"')
    expect((await run(['check', path, '--way', 'v1'])).stderr).not.toContain('other ways')
  })
  it('that the plan has not is refused with those it has; exit 2', async () => {
    const { status, stderr } = await run(['check', path, '--way', 'by sea'])
    expect(status).toBe(2)
    expect(stderr).toContain('the plan has no way by sea; right would be In the car')
    expect((await run(['comb', 'demo/noise/tones.csv', '--way', 'x'])).status).toBe(2)
  })
})

describe('size', () => {
  it('prints the patched plan and the difference', async () => {
    const { status, stdout } = await run(['size', 'demo/clean-bench.json', '--for', 'weight', '--json'])
    expect(status).toBe(0)
    const { plan, patch, changes, before, after, exact } = JSON.parse(stdout)
    expect(plan.format).toBe('wireman-plan')
    expect(patch.length).toBe(changes.length)
    expect(after.grams).toBeLessThan(before.grams)
    // The drop holds sizes up, and fuses stand on the way: others might let them be less.
    expect(exact).toBe(false)
  })
  it.each([
    [['--for', 'beauty'], 'one of weight, cost, drop'],
    [['--row', 'nobody'], 'no load nobody'],
    [['--shelf', 'none.csv'], 'none.csv: there is no such file'],
  ])('refuses %j; exit 2', async (args, words) => {
    const { status, stderr } = await run(['size', 'demo/clean-bench.json', ...args])
    expect(status).toBe(2)
    expect(stderr).toContain(words)
  })
  it('keeps to a shelf, and says where it is too short; exit 1', async () => {
    const shelf = file('what,awg,insulation_c,metres\nconductor,10,105,3\n')
    const { status, stderr } = await run(['size', 'demo/clean-bench.json', '--shelf', shelf])
    expect(status).toBe(1)
    expect(stderr).toContain('shelf')
  })
})

describe('export', () => {
  it.each([
    ['--spice', /^\* Tern Rock light[\s\S]*\.op\n\.end\n$/],
    ['--cut-csv', /^lead,name,from/],
    ['--parts-csv', /^what,count/],
    ['--shopping-csv', /^what,unit,needs/],
    ['--svg', /^<svg /],
    ['--labels-svg', /^<svg /],
    ['--pdf', /^%PDF-/],
    ['--labels-pdf', /^%PDF-/],
    ['--json', /"wireman-plan"/],
  ])('%s', async (flag, start) => {
    const { status, stdout } = await run([
      'export',
      'demo/tern-rock-light.json',
      flag,
      ...(flag === '--spice' ? ['--condition', 'low/all'] : []),
    ])
    expect(status).toBe(0)
    expect(stdout).toMatch(start)
  })
  it('writes to a file', async () => {
    const out = file('')
    expect((await run(['export', 'demo/clean-bench.json', '--cut-csv', '--out', out])).stdout).toBe('')
    expect(readFileSync(out, 'utf8')).toContain('main lead')
  })
  it.each([
    [[], 'no format is named'],
    [['--spice', '--condition', 'noon/all'], 'no condition noon/all'],
    [['--svg', '--pdf'], 'two formats are named'],
    [['--labels-pdf', '--labels', 'banner'], 'one of tape, sheet'],
  ])('refuses %j; exit 2', async (args, words) => {
    const { status, stderr } = await run(['export', 'demo/clean-bench.json', ...args])
    expect(status).toBe(2)
    expect(stderr).toContain(words)
  })
  it('is in the help', async () => {
    const { stdout } = spawned(['help', 'all'])
    for (const word of ['./run short', './run size', './run export', '--spice', '--labels-pdf', '--shelf'])
      expect(stdout).toContain(word)
  })
})

describe('comb', () => {
  it('reads a tone list and gives its spacing, uncertainty, confidence and lines', async () => {
    const list = file(
      'frequency_khz\n' + [226, 227, 229, 230, 231].map(n => (n * 62.1).toFixed(1)).join('\n') + '\n14035.4\n',
    )
    const { status, stdout } = await run(['comb', list, '--json'])
    expect(status).toBe(0)
    const { combs, unexplained } = JSON.parse(stdout)
    expect(combs[0]).toMatchObject({
      spacingHz: expect.closeTo(62100, -1),
      uncertaintyHz: expect.any(Number),
      confidence: expect.any(Number),
    })
    expect(combs[0].lines).toHaveLength(5)
    expect(unexplained).toEqual([14035400])
  })
  it.each([
    ['', 'empty'],
    ['frequency_khz,level_db\n7000,5,-80\n', 'commas for decimals'],
  ])('%j is refused; exit 2', async (text, words) => {
    const { status, stderr } = await run(['comb', file(text)])
    expect(status).toBe(2)
    expect(stderr).toContain(words)
  })
})

describe('case and survey', () => {
  const findings = (observations: unknown[]) =>
    file(
      JSON.stringify({
        format: 'wireman-noise-case',
        version: 1,
        id: 'c1',
        title: 'a hiss on 20 m',
        openedAt: '2026-06-13T12:00:00Z',
        complaint: { bands: ['20 m'] },
        observations,
        cures: [],
        state: 'open',
      }),
    )
  const off = (id: string, device: string, heard: string) => ({
    kind: 'listen',
    id,
    at: '',
    setup: { devices: { [device]: { state: 'off' } } },
    heard,
  })
  it('give causes with odds, the next tests, contradictions and doubts', async () => {
    const path = findings([off('a', 'inv', 'gone'), off('b', 'inv', 'same'), off('c', 'inv', 'gone')])
    const { status, stdout } = await run(['case', path, '--plan', 'demo/narrowboat-heron.json', '--json'])
    expect(status).toBe(0)
    const { causes, next, contradictions, doubts } = JSON.parse(stdout)
    expect(causes[0]).toMatchObject({ device: 'inv', way: expect.any(String), probability: expect.any(Number) })
    expect(next[0]).toMatchObject({ test: expect.any(String), do: expect.any(String), bits: expect.any(Number) })
    expect(next[0].minutes).toBeGreaterThan(0)
    expect(contradictions.length).toBeGreaterThan(0)
    expect(doubts[0]).toMatchObject({ finding: 'b' })
  })
  it('name what the findings speak of where no plan is given', async () => {
    const { stdout } = await run(['case', findings([off('a', 'charger', 'gone')]), '--json'])
    expect(JSON.parse(stdout).causes[0]).toMatchObject({ device: 'charger' })
  })
  it('say what each device costs, and call chance what is chance', async () => {
    const path = file('state,devices,20 m,40 m\noff,,S3,S4\ninverter,inv=working,S6,S4\ncharger,dcdc=working,S4,S4\n')
    const { status, stdout } = await run(['survey', path, '--json'])
    expect(status).toBe(0)
    const { named, cells, causes } = JSON.parse(stdout)
    expect(named).toEqual(['inv'])
    expect(causes[0]).toMatchObject({ device: 'inv' })
    expect(cells.find((c: { row: string; column: string }) => c.row === 'r3' && c.column === '20 m').isSure).toBe(false)
    expect((await run(['survey', path, '--plan', 'demo/narrowboat-heron.json'])).stdout).toMatch(
      /Inverter: heard on 20 m/,
    )
  })
  it.each([
    [['case', '-'], 'the file is not JSON'],
    [['survey', '-'], 'the first line has'],
  ])('%j is refused in words; exit 2', async (args, words) => {
    const { status, stderr } = spawned(args, 'no case and no survey')
    expect(status).toBe(2)
    expect(stderr).toContain(words)
  })
})

describe('choke', () => {
  const wound = [
    '--initial-permeability',
    '800',
    '--relaxation-hz',
    '8e6',
    '--od-mm',
    '61',
    '--id-mm',
    '35.5',
    '--height-mm',
    '12.7',
    '--cores',
    '4',
    '--turns',
    '4',
    '--frequency-hz',
    '14e6',
  ]
  it('gives inductance, complex impedance and insertion loss', async () => {
    const { status, stdout } = await run(['choke', ...wound, '--json'])
    expect(status).toBe(0)
    const made = JSON.parse(stdout)
    const inductanceH = ((4e-7 * Math.PI * 800 * 0.0127) / (2 * Math.PI)) * Math.log(61 / 35.5) * 64
    expect(made.inductanceH).toBeCloseTo(inductanceH, 12)
    const x = 14 / 8
    expect(made.impedance.imaginaryOhm).toBeCloseTo((2 * Math.PI * 14e6 * inductanceH) / (1 + x * x), 6)
    expect(made.impedance.realOhm).toBeCloseTo((2 * Math.PI * 14e6 * inductanceH * x) / (1 + x * x), 6)
    expect(made.insertionLossDb).toBeCloseTo(
      20 * Math.log10(Math.hypot(100 + made.impedance.realOhm, made.impedance.imaginaryOhm) / 100),
      9,
    )
  })
  it('says which figure is missing or wrong; exit 2', async () => {
    expect((await run(['choke', ...wound.slice(2)])).stderr).toContain('--initial-permeability: it is not given')
    expect((await run(['choke', ...wound.map(w => (w === '35.5' ? '70' : w))])).stderr).toContain(
      'hole smaller than the core',
    )
  })
})

describe('what lasts', () => {
  const weekend = ['hours', 'demo/tern-rock-light.json', '--event', 'demo/events/tern-rock-weekend.json']
  it('--what-if, --charging, --worth and --csv answer', async () => {
    const { answers, held } = JSON.parse((await run([...weekend, '--what-if', '--json'])).stdout)
    expect(answers[0]).toMatchObject({ id: 'as planned', holds: false })
    expect(held).toMatch(/13.8 V/)
    const { fillings, resting } = JSON.parse((await run([...weekend, '--charging', '--json'])).stdout)
    expect(fillings).toHaveLength(13)
    expect(resting[0].part).toBe('bat')
    expect(JSON.parse((await run([...weekend, '--worth', '50', '--json'])).stdout).packs[0].usableWh).toBeCloseTo(
      512,
      6,
    )
    expect((await run([...weekend, '--csv'])).stdout).toMatch(/^h,bat_charge,/)
  })
  it.each([
    [[...weekend, '--size', 'beauty'], /--size: it is beauty; right would be weight, cost or volume/],
    [[...weekend, '--size', 'weight', '--box', '3x4'], /--box: it is 3x4/],
    [[...weekend, '--size', 'weight', '--odds', '140'], /--odds: it is 140/],
    [[...weekend, '--worth', 'often'], /--worth/],
    [[...weekend, '--pdf', '/nowhere/at/all.pdf'], /cannot be written/],
    [[...weekend, '--irradiance', 'demo/shelf.json'], /demo\/shelf.json, line 1/],
  ])('%j is refused in words', async (words, wrong) => {
    const { status, stderr } = await run(words)
    expect(status).toBe(2)
    expect(stderr).toMatch(wrong)
  })
})

describe('commissioning', () => {
  it('of Tern Rock: every step, what it should read, and settings as they were found', async () => {
    const { status, stdout } = await run([
      'commission',
      'demo/tern-rock-light.json',
      '--log',
      'demo/log/tern-rock-light.json',
      '--json',
    ])
    expect(status).toBe(0)
    const { steps, takeDown, settings } = JSON.parse(stdout)
    expect(steps.map((s: { id: string }) => s.id)).toContain('keyed hf')
    expect(steps.find((s: { id: string }) => s.id === 'keyed hf').expected.tolerance).toBeLessThan(0.3)
    expect(takeDown.at(-1)).toMatch(/All is dead/)
    expect(settings).toEqual([])
  })
  it('of a file that is no log is refused in words', async () => {
    const words = ['commission', 'demo/tern-rock-light.json', '--log', 'demo/shelf.json']
    const { status, stderr } = await run(words)
    expect(status).toBe(2)
    expect(stderr).toMatch(/cannot be taken/)
  })
})

describe('spares', () => {
  it('of Tern Rock: what takes what off, and the kit', async () => {
    const { status, stdout } = await run(['spares', 'demo/tern-rock-light.json', '--json'])
    expect(status).toBe(0)
    const { failures, kit } = JSON.parse(stdout)
    expect(failures.find((f: { what: string }) => f.what === 'HF lead').takes).toEqual(['hf'])
    expect(kit.at(-1).together).toBeCloseTo(1, 9)
  })
})

describe('readings and symptoms', () => {
  it("of Tern Rock's season: a joint going bad, exit 1", async () => {
    const { status, stdout } = await run([
      'readings',
      'demo/tern-rock-light.json',
      'demo/readings/tern-rock-season.csv',
      '--json',
    ])
    expect(status).toBe(1)
    const { points, joints, next, trends } = JSON.parse(stdout)
    expect(points).toHaveLength(90)
    expect(points[0]).toMatchObject({ at: 'bat', condition: 'full/idle', within: true })
    const suspects = joints.filter((j: { suspect: boolean }) => j.suspect).map((j: { place: string }) => j.place)
    expect(suspects).toEqual(['l2.from', 'l2.to'])
    expect(next[0]).toMatchObject({ at: expect.stringMatching(/^l2\./), why: expect.stringMatching(/tells/) })
    expect(trends[0].rises).toBe(true)
  })
  it('a symptom: ranked causes, next tests', async () => {
    const words = ['symptoms', 'demo/symptoms/tern-rock-cuts-out.json', '--plan', 'demo/tern-rock-light.json', '--json']
    const { status, stdout } = await run(words)
    expect(status).toBe(0)
    const { causes, next } = JSON.parse(stdout)
    expect(causes[0]).toMatchObject({ of: 'sag', place: 'hf' })
    expect(next[0].outcomes.length).toBeGreaterThan(1)
  })
  it.each([
    [['readings', 'demo/tern-rock-light.json'], /no readings are named/],
    [['readings', 'demo/tern-rock-light.json', 'demo/shelf.json'], /line 1: its first line is/],
    [['readings', 'demo/tern-rock-light.json', 'a.csv', 'b.csv'], /takes no such word/],
    [['symptoms', 'demo/symptoms/tern-rock-cuts-out.json'], /no plan is named/],
    [['symptoms', 'demo/shelf.json', '--plan', 'demo/tern-rock-light.json'], /cannot be taken/],
    [['symptoms', 'demo/symptoms/tern-rock-cuts-out.json', '--plan', 'demo/narrowboat-heron.json'], /no load hf/],
  ])('%j is refused in words', async (words, wrong) => {
    const { status, stderr } = await run(words)
    expect(status).toBe(2)
    expect(stderr).toMatch(wrong)
  })
})
