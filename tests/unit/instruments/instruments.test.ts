import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { solveMatrix } from '../../../core/circuit/matrix'
import { readRecording } from '../../../core/formats/recording'
import { COMMAND, GREETING, lineOf, readLine, shownFigure, type Channel } from '../../../core/instruments/protocol'
import { SimulatedInstruments } from '../../../core/instruments/simulated'
import { doNotFit } from '../../../core/readings/joints'
import { daysOf, standingOf } from '../../../core/readings/trend'
import { DEMOS, demoPlan } from '../../data/plans'

const tern = demoPlan('tern-rock-light')
const at = (s: number) => new Date(Date.UTC(2026, 4, 2, 10, 0, s)).toISOString().replace('.000', '')
const CHANNEL: Channel = { id: 'shunt-bat.a', unit: 'A', digit: 0.1, at: 'l1', name: 'Shunt at pack' }

/** All that a station says in these states, so many seconds in each. */
function recorded(instruments: SimulatedInstruments, states: readonly string[], seconds = 5): string {
  let s = 0
  const lines = instruments.greeting()
  for (const state of states) {
    lines.push(...instruments.command(`state ${state}`))
    for (let n = 0; n < seconds; n++) lines.push(...instruments.tick(at(s++)))
  }
  return lines.join('\n')
}

describe('a line of an instrument', () => {
  it('is read as it was written', () => {
    expect(readLine(lineOf.channel(CHANNEL))).toEqual({ ok: true, message: { is: 'channel', channel: CHANNEL } })
    expect(readLine(lineOf.read(CHANNEL, -4.249, at(1)))).toEqual({
      ok: true,
      message: { is: 'read', channel: 'shunt-bat.a', value: -4.2, time: at(1) },
    })
    expect(lineOf.read(CHANNEL, null, at(1))).toBe(`read shunt-bat.a -- ${at(1)}`)
    expect(readLine(lineOf.read(CHANNEL, null, at(1)))).toMatchObject({ message: { value: null } })
  })
  it('shows no more figures than its last', () => {
    expect([shownFigure(12.8349, 0.01), shownFigure(12.8349, 0.1), shownFigure(12.8349, 1)]).toEqual([
      '12.83',
      '12.8',
      '13',
    ])
    expect([shownFigure(12.8349, 0.05), shownFigure(3.2987, 0.001)]).toEqual(['12.85', '3.299'])
  })
  it.each([
    ['', 'a line of'],
    ['hello', 'a line of'],
    ['wireman-instruments 2', GREETING],
    ['read shunt.a twelve 2026-05-02T10:00:00Z', 'read CHANNEL VALUE TIME'],
    ['read shunt.a 1e9 2026-05-02T10:00:00Z', 'read CHANNEL VALUE TIME'],
    ['read shunt.a NaN 2026-05-02T10:00:00Z', 'read CHANNEL VALUE TIME'],
    ['read shunt.a 12.8 yesterday', 'read CHANNEL VALUE TIME'],
    ['read shunt.a 12.8', 'read CHANNEL VALUE TIME'],
    ['channel m W 1 bat Meter', 'channel ID UNIT DIGIT AT NAME'],
    ['channel m V 0 bat Meter', 'channel ID UNIT DIGIT AT NAME'],
    ['state', 'state CONDITION'],
    [`error ${'x'.repeat(400)}`, 'error, and words'],
  ])('%s is refused with what would be right', (line, right) => {
    const read = readLine(line)
    expect(read.ok).toBe(false)
    if (!read.ok) expect(read.right).toContain(right)
  })
  it('never makes two lines of one, whatever the name', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary' }), name => {
        const line = lineOf.channel({ ...CHANNEL, name })
        expect(line).not.toMatch(/[\r\n\u2028\u2029]/)
        expect(readLine(line).ok).toBe(true)
      }),
    )
  })
  it('never throws, whatever comes', () => {
    fc.assert(fc.property(fc.string({ unit: 'binary' }), text => typeof readLine(text).ok === 'boolean'))
  })
})

describe.each(DEMOS)('instruments on %s', name => {
  const plan = demoPlan(name)
  const solved = solveMatrix(plan)
  it('show the circuit, each scale within a hundredth', () => {
    const instruments = new SimulatedInstruments(plan, { hide: null })
    const channels = new Map<string, Channel>()
    for (const line of instruments.greeting()) {
      const read = readLine(line)
      expect([line, read.ok]).toEqual([line, true])
      if (read.ok && read.message.is === 'channel') channels.set(read.message.channel.id, read.message.channel)
    }
    const { points, network } = solved
    for (const point of points.filter(p => p.status === 'ok').slice(0, 6)) {
      expect(instruments.command(`state ${point.condition.id}`)).toEqual([`state ${point.condition.id}`])
      for (const line of instruments.tick(at(0))) {
        const read = readLine(line)
        if (!read.ok || read.message.is !== 'read') throw new Error(line)
        const channel = channels.get(read.message.channel)!
        if (channel.unit !== 'V' || channel.at === '-') continue
        const volts = point.volts[network.nodeOf.get(channel.at)!]!
        expect(Math.abs(read.message.value! - volts)).toBeLessThan(0.012 * volts + 0.03)
      }
    }
  })
})

describe('simulated instruments', () => {
  it('say what they cannot do, and go on', () => {
    const instruments = new SimulatedInstruments(tern, { hide: null })
    expect(instruments.command('probe nowhere')).toEqual(['error the station has no nowhere'])
    expect(instruments.command('state full/never')[0]).toMatch(/^error There is no condition full\/never/)
    expect(instruments.command('format c:')).toEqual(['error probe TERMINAL or state CONDITION'])
    expect(instruments.command('probe hf')[0]).toMatch(/^channel meter V 0.01 hf Meter at /)
    expect(COMMAND.test('state full/only:hf')).toBe(true)
    expect(COMMAND.test('state a\nprobe b')).toBe(false)
  })
  it('are the same for one seed', () => {
    const say = () => recorded(new SimulatedInstruments(tern, { hide: 4 }), ['full/idle'])
    expect(say()).toBe(say())
  })
  it('show amps out of the battery as the loads draw them', () => {
    const text = recorded(new SimulatedInstruments(tern, { hide: null }), ['full/idle', 'full/only:hf'])
    const read = readRecording(text, tern)
    if (!read.ok) throw new Error(read.wrong)
    const amps = (c: string) => read.readings.find(r => r.condition === c && r.amps !== undefined)!.amps!
    expect(amps('full/only:hf') - amps('full/idle')).toBeGreaterThan(15)
  })
})

describe('a recording', () => {
  const good = recorded(new SimulatedInstruments(tern, { hide: null }), ['full/idle', 'full/only:hf'])
  it('gives one reading for each figure and state, and blames nothing of a good station', () => {
    const read = readRecording(good, tern)
    if (!read.ok) throw new Error(read.wrong)
    expect(read.aside).toEqual([])
    const keys = read.readings.map(r => `${r.at} ${r.condition} ${r.volts === undefined}`)
    expect(new Set(keys).size).toBeGreaterThan(5)
    const days = daysOf(tern, read.readings, [])
    expect(standingOf(days).filter(s => s.state.suspect)).toEqual([])
    expect(doNotFit(days.at(-1)!.found)).toBe(false)
  })
  it('takes the middle of a stretch: one wild figure moves nothing', () => {
    const lines = good.split('\n')
    const n = lines.findIndex(l => l.startsWith('read meter'))
    lines[n] = lines[n]!.replace(/ [\d.]+ /, ' 3.30 ')
    const [was, is] = [readRecording(good, tern), readRecording(lines.join('\n'), tern)]
    if (!was.ok || !is.ok) throw new Error()
    const meter = (r: typeof was) => r.readings.find(x => x.condition === 'full/idle')!.volts!
    expect(Math.abs(meter(is) - meter(was))).toBeLessThan(0.03)
  })
  it('keeps aside what it cannot use, with its line, and the rest is used', () => {
    const lines = good.split('\n')
    lines.splice(3, 0, 'read nobody.v 12.8 2026-05-02T10:00:00Z', 'gibberish')
    const read = readRecording(lines.join('\n'), tern)
    if (!read.ok) throw new Error(read.wrong)
    expect(read.aside.map(a => [a.line, a.wrong])).toEqual([
      [4, 'no channel nobody.v was said'],
      [5, 'it says “gibberish”'],
    ])
    expect(read.readings.length).toBeGreaterThan(5)
  })
  it('of another plan is told place by place', () => {
    const read = readRecording(good, demoPlan('moor-walk-kit'))
    if (!read.ok) throw new Error(read.wrong)
    const all = readRecording(good, tern)
    expect(read.readings.length).toBeLessThan(all.ok ? all.readings.length / 2 : 0)
    expect(read.aside[0]!.wrong).toMatch(/no condition full\/idle|no point|is none/)
  })
  it('without figures says so', () => {
    expect(readRecording(`${GREETING}\n`, tern)).toMatchObject({ ok: false, wrong: 'the recording has no figures' })
  })
  it('of hours is no more readings', () => {
    const hour = recorded(new SimulatedInstruments(tern, { hide: null }), ['full/idle'], 4000)
    expect(hour.split('\n').length).toBeGreaterThan(20_000)
    const read = readRecording(hour, tern)
    expect(read.ok && read.readings.length).toBeLessThan(12)
  })
})

describe('colours that are crossed', () => {
  const seeds = Array.from({ length: 400 }, (_, n) => n)
  const seed = seeds.find(hide => new SimulatedInstruments(tern, { hide }).fault?.of === 'colours')!
  it('show a minus where the meter is held to them, and nowhere else', () => {
    const instruments = new SimulatedInstruments(tern, { hide: seed })
    const shownAt = (terminal: string) => {
      instruments.command(`probe ${terminal}`)
      return Number(/^read meter (\S+)/.exec(instruments.tick(at(1))[0]!)![1])
    }
    const all = [...new Set(tern.leads.flatMap(l => [l.from, l.to]))].map(shownAt)
    expect(all.filter(v => v < -5)).toHaveLength(1)
    expect(all.filter(v => v > 5).length).toBeGreaterThan(3)
  })
  it('are told as such where a recording has them', () => {
    const instruments = new SimulatedInstruments(tern, { hide: seed })
    const crossed = tern.leads
      .flatMap(l => [l.from, l.to])
      .find(t => {
        instruments.command(`probe ${t}`)
        return /^read meter -\d/.test(instruments.tick(at(1))[0]!)
      })!
    instruments.command(`probe ${crossed}`)
    const read = readRecording(recorded(instruments, ['full/idle']), tern)
    if (!read.ok) throw new Error(read.wrong)
    expect(read.aside.map(a => `${a.wrong}; ${a.right}`).join()).toMatch(/wrong way round.*crossed there/)
  })
  it('a fuse at the wrong end, which no instrument shows, is never what is hidden', () => {
    const kinds = seeds.slice(0, 40).map(hide => new SimulatedInstruments(tern, { hide }).fault?.of)
    expect(kinds).not.toContain('far fuse')
    expect(new Set(kinds).size).toBeGreaterThan(3)
  })
})
