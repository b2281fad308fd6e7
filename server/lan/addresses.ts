import { hostname, networkInterfaces } from 'node:os'

/** Addresses that a home's or a field's own net gives out (RFC 1918, RFC 3927). */
const LOCAL = /^(10\.|192\.168\.|172\.(1[6-9]|2\d|3[01])\.|169\.254\.)/
/** What a router's own name service, or one on this machine, may know it by. */
const NAME = /^[a-z0-9-]{1,63}$/i

/** This machine's addresses on its own nets; WIREMAN_LAN_ADDRESS names one where there are several, or another. */
export function localAddresses(nets = networkInterfaces(), wanted = process.env.WIREMAN_LAN_ADDRESS): string[] {
  if (wanted) return [wanted]
  return Object.values(nets)
    .flatMap(net => net ?? [])
    .filter(a => a.family === 'IPv4' && !a.internal && LOCAL.test(a.address))
    .map(a => a.address)
    .sort()
}

/** "shed.local", as many nets know a machine; empty where its name makes none. */
export function localName(name = hostname()): string[] {
  const first = name.split('.')[0]!
  return NAME.test(first) ? [`${first.toLowerCase()}.local`] : []
}
