import { FUSE_CLASSES, fuseClass, ratedVolts, breaksAt } from '../catalog/fuses'
import { setDevice } from '../edit/ends'
import { deviceKey, deviceVolts, type Device } from '../graph/device'
import { hangingWith } from '../graph/fed'
import { graphOf } from '../graph/graph'
import { leadById } from '../plan/find'
import type { Proposal } from '../fixes/proposal'
import type { ShortDevice } from '../short/study'
import { against, amps, volts } from '../units/show'
import { isOf, type Check, type Found } from './check'
import type { Study } from '../study/study'
import { asGiven, fixed } from '../units/number'
import { placeName } from '../plan/names'
import { anA, someNamed, tallied } from '../units/words'

/** Fuses against what they have to break. */

/** A fuse's class swapped for another of the same rating; a port takes what is made for it, and a breaker no fuse. */
function otherClass(study: Study, device: Device, passes: (id: string) => boolean) {
  if (device.kind === 'breaker' || device.item === null) return null
  const next = FUSE_CLASSES.filter(c => c.id !== 'thermal' && c.id !== 'glass' && passes(c.id)).find(c =>
    c.ratingsA.includes(device.ratedA),
  )
  const patch = next && setDevice(study.plan, device, 'type', next.id)
  return patch ? { label: `${asGiven(device.ratedA)} A ${next.label} fuse in its place`, patch } : null
}

const placesOf = (devices: readonly Device[]) => [...new Set(devices.map(d => d.place))]

/** What a device is in a sentence: "40 A blade fuse in main lead". */
function deviceName(study: Study, device: Device): string {
  const isInLead = leadById(study.plan, device.place) !== undefined
  const where = `${isInLead ? 'in' : 'at'} ${placeName(study.plan, device.place)}`
  return `${asGiven(device.ratedA)} A ${className(device)} ${where}`
}

/** "blade fuse", "thermal breaker". */
function className({ type, kind }: Device): string {
  const { label } = fuseClass(type)
  return label.endsWith(kind) ? label : `${label} ${kind}`
}

/** Devices that may have to break more than they can, one group a cause: those of one class, left alone or not. */
function overBreaking(study: Study): ShortDevice[][] {
  const groups = new Map<string, ShortDevice[]>()
  for (const device of study.shorts.devices) {
    if (device.behindA <= device.interruptA) continue
    const key = `${device.kind} ${device.type} ${device.interruptA} ${device.guarded}`
    groups.set(key, [...(groups.get(key) ?? []), device])
  }
  return [...groups.values()].map(g => g.sort((a, b) => b.behindA - a.behindA))
}

export const fuseInterrupting: Check = {
  id: 'fuse-interrupting',
  severities: ['danger', 'caution'],
  looksAt: 'a dead short right behind each fuse and breaker; those of one class are one finding',
  title: 'Short circuit beyond what a fuse can break',
  why:
    'Every fuse breaks up to a current; above it the arc inside does not go out, the fuse bursts, and the current ' +
    'flows on. A large lithium or lead-acid bank can drive several thousand amps. A fast current-limiting fuse ' +
    'before ' +
    'it may carry the interruption, if its maker says what it lets through.',
  source: "interrupting ratings of the fuse classes; a breaker's own",
  find: study =>
    overBreaking(study).map((group): Found => {
      const [worst, ...others] = group as [ShortDevice, ...ShortDevice[]]
      const { behindA: prospectiveA, interruptA, guarded } = worst
      const name = className(worst)
      const many = others.length ? `${group.length} ${name}s` : anA(name)
      const rest = others.length ? ` The same holds for ${someNamed(others, d => deviceName(study, d))}.` : ''
      const carried = guarded ? ' A fast fuse before it may carry that: its maker says how much it lets through.' : ''
      return {
        severity: guarded ? 'caution' : 'danger',
        place: worst.place,
        item: worst.item,
        also: placesOf(others).filter(p => p !== worst.place),
        condition: null,
        title: `${amps(prospectiveA)} may hit ${many}`,
        message:
          `A short behind the ${deviceName(study, worst)} draws up to ${against(amps, prospectiveA, interruptA)}; ` +
          `${worst.breakingA === undefined ? 'its class' : 'it'} breaks ${amps(interruptA)}.${carried}${rest}`,
        numbers: { prospectiveA, interruptA, ratedA: worst.ratedA, devices: group.length },
      }
    }),
  fixes: (found, study) => {
    const group = overBreaking(study).find(g => isOf(found, g[0]!))
    if (!group || group[0]!.guarded) return []
    const each = group.map(device =>
      device.kind === 'breaker'
        ? strongerBreaker(study, device)
        : otherClass(
            study,
            device,
            id =>
              breaksAt(fuseClass(id), device.drivenV) >= device.behindA &&
              ratedVolts(fuseClass(id)) >= highestV(study, device),
          ),
    )
    const swaps = each.every(s => s !== null) ? (each as Proposal[]) : []
    const all = swaps.length > 1 && {
      label: `Fuses in their places that break it: ${tallied(swaps.map(s => s.label.replace(' in its place', '')))}`,
      patch: swaps.flatMap(s => s.patch),
    }
    return [...(all ? [all] : swaps), ...fastFuseBefore(study, group)]
  },
}

/** What direct-current breakers are sold to break, A (typical of the class). */
const BREAKERS_BREAK_A = [3000, 5000, 10000] as const

/** A breaker of the same rating that breaks what may hit it, and says so. */
function strongerBreaker(study: Study, device: ShortDevice): Proposal | null {
  const breakingA = BREAKERS_BREAK_A.find(a => a >= device.behindA)
  const patch = breakingA === undefined ? null : setDevice(study.plan, device, 'breakingA', breakingA)
  return patch && { label: `${asGiven(device.ratedA)} A breaker that breaks ${amps(breakingA!)} in its place`, patch }
}

/** The fuses that stand nearest to the sources made fast, current-limiting ones: they carry it for those behind. */
function fastFuseBefore(study: Study, group: readonly ShortDevice[]): Proposal[] {
  const near = hangingWith(
    study.plan,
    group.map(d => terminalAt(study, d)),
  )
  const ofRuns = study.unprotected.flatMap(run => (run.device?.item && near.has(run.lead.from) ? [run.device] : []))
  // One device may stand first for several runs.
  const firsts = [...new Map(ofRuns.map(d => [deviceKey(d), d])).values()]
  const slow = firsts.filter(d => d.kind === 'fuse' && !fuseClass(d.type).limitsCurrent)
  if (!slow.length || slow.some(d => group.length === 1 && d.place === group[0]!.place)) return []
  const swaps = slow.map(d => otherClass(study, d, id => fuseClass(id).limitsCurrent === true))
  if (swaps.some(s => s === null)) return []
  return [
    {
      label: `Fast cartridge fuses at the source${slow.length > 1 ? 's' : ''}, which carry the interruption`,
      patch: (swaps as Proposal[]).flatMap(s => s.patch),
    },
  ]
}

/** Where a device is: its port, or an end of its lead. */
const terminalAt = (study: Study, device: Device) => graphOf(study.plan).leads.get(device.place)?.from ?? device.place

/** Highest voltage that can stand over an open device, V. */
function highestV(study: Study, device: Device): number {
  const { network } = study.solved
  const component = network.component[network.nodeOf.get(terminalAt(study, device))!]!
  return study.highestIn(component)
}

/** Devices of one kind and rated voltage that stand over it, the highest first. */
function overVoltage(study: Study): { device: Device; reachesV: number }[][] {
  const groups = new Map<string, { device: Device; reachesV: number }[]>()
  for (const device of study.protection.devices) {
    const reachesV = highestV(study, device)
    if (reachesV <= deviceVolts(device) + 1e-9) continue
    const key = `${device.kind} ${device.type} ${deviceVolts(device)} ${fixed(reachesV, 2)}`
    groups.set(key, [...(groups.get(key) ?? []), { device, reachesV }])
  }
  return [...groups.values()]
}

export const fuseVoltage: Check = {
  id: 'fuse-voltage',
  severities: ['danger'],
  looksAt: 'the highest voltage at each fuse: charging, panels open in the cold; those of one class are one finding',
  title: 'Fuse used over its voltage',
  why: 'A fuse opens by drawing out an arc; over its rated voltage, on direct current, the arc does not go out.',
  source: "rated voltages of the fuse classes; a breaker's own",
  find: study =>
    overVoltage(study).map((group): Found => {
      const [{ device, reachesV }, ...others] = group as [(typeof group)[number], ...typeof group]
      const ratedV = deviceVolts(device)
      const ratedFor = `${asGiven(ratedV)} V`
      const rest = others.length ? ` The same holds for ${someNamed(others, o => deviceName(study, o.device))}.` : ''
      return {
        severity: 'danger',
        place: device.place,
        item: device.item,
        also: placesOf(others.map(o => o.device)).filter(p => p !== device.place),
        condition: null,
        title:
          `${volts(reachesV)} on ` +
          (others.length ? `${group.length} ${device.kind}s of ${ratedFor}` : anA(`${ratedFor} ${device.kind}`)),
        message:
          `Up to ${volts(reachesV)} stands over the ${deviceName(study, device)} when it opens; ` +
          `${device.ratedV === undefined ? 'its class' : 'it'} is made for ${ratedFor}.${rest}`,
        numbers: { reachesV, ratedV, ratedA: device.ratedA, devices: group.length },
      }
    }),
  fixes: (found, study) => {
    const group = overVoltage(study).find(g => isOf(found, g[0]!.device))
    const swaps = (group ?? []).map(({ device, reachesV }) =>
      otherClass(study, device, id => ratedVolts(fuseClass(id)) >= reachesV),
    )
    if (!swaps.length || swaps.some(s => s === null)) return []
    const all = swaps as Proposal[]
    return [
      all.length === 1
        ? all[0]!
        : {
            label: `Fuses in their places for ${volts(found.numbers.reachesV!)}`,
            patch: all.flatMap(s => s.patch),
          },
    ]
  },
}
