import { deviceKey, plainDevice, type Device } from '../graph/device'
import { reach } from '../graph/walk'
import { isLoad, kindOf } from '../kinds/index'
import { partIdOf } from '../plan/find'
import { otherEnd, type ShortNetwork } from './network'
import type { Opening, Short } from './study'

/**
 * Whether the nearest device is sure to open before any other in the way that takes more off the air, and which others
 * may open with it.
 */
export function selectivity(
  network: ShortNetwork,
  [nearest, ...others]: readonly Opening[],
): Pick<Short, 'selective' | 'opensWith'> {
  if (!nearest || !others.length) return { selective: null, opensWith: [] }
  const mayOpen = (d: Opening) => d.fastestS !== null && (nearest.slowestS === null || d.fastestS <= nearest.slowestS)
  const opensWith = others.filter(d => mayOpen(d) && takesMoreOff(network, d, nearest)).map(plainDevice)
  return { selective: opensWith.length === 0, opensWith }
}

/**
 * Whether one device opening takes more off the air than another: some load, or something that changes power for loads,
 * has no way left to a source that it would still have with the other open. Two fuses at both ends of a link do not.
 */
function takesMoreOff(network: ShortNetwork, upstream: Device, nearest: Device): boolean {
  const without = fedWithout(network, upstream)
  const beside = fedWithout(network, nearest)
  return usersOf(network).some(node => beside.has(node) && !without.has(node))
}

function fedWithout(network: ShortNetwork, device: Device): Set<number> {
  const key = deviceKey(device)
  const open = network.branches.findIndex(b => b.device && deviceKey(b.device) === key)
  return reach(
    network.feeds.map(f => f.node),
    v => network.branchesAt[v]!.filter(i => i !== open).map(i => otherEnd(network.branches[i]!, v)),
  )
}

/** Terminals of what uses the power, or changes it for others. */
function usersOf({ plan, places }: ShortNetwork): number[] {
  const uses = new Set(plan.parts.filter(p => isLoad(p) || kindOf(p).transfers).map(p => p.id))
  return places.filter(p => p.kind === 'terminal' && uses.has(partIdOf(p.at))).map(p => p.node)
}
