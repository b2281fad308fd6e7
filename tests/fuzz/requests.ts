import type { Random } from '../../core/chance/random'
import { brokenJson, brokenText, NASTY, pick } from './mutate'

/** Requests that no page would send, to every route there is. */

export interface Asked {
  method: string
  path: string
  body?: string
  headers: Record<string, string>
}

/** What an address can have: a half of a letter it cannot. */
const SPELLED = NASTY.filter(s => !/[\uD800-\uDFFF]/.test(s))
const METHODS = ['GET', 'POST', 'PUT', 'DELETE', 'PATCH', 'OPTIONS'] as const
const PLACES = [
  '',
  '/ID',
  '/ID/log',
  '/ID/noise',
  '/ID/hours',
  '/ID/revisions',
  '/ID/revisions/1',
  '/ID/restore',
  '/ID/instruments',
  '/deleted',
] as const
const ELSEWHERE = [
  '/api/shelf',
  '/api/cures',
  '/api/lan',
  '/api/lan/code',
  '/api/lan/devices/ID',
  '/api/me',
  '/api/backup',
  '/api/nowhere',
  '/api',
  '/api/instruments/commands',
] as const
const TYPES = ['application/json', 'text/plain', 'application/json; charset=utf-7', ''] as const

/** @param bodies of requests that are well */
export function brokenRequest(random: Random, id: string, bodies: readonly string[]): Asked {
  const ids = [
    id,
    id,
    id,
    'nowhere',
    encodeURIComponent(pick(random, SPELLED).slice(0, 100)),
    '%00',
    '..%2f..',
    '-1',
    '1e99',
  ]
  const place = random.uniform() < 0.7 ? `/api/stations${pick(random, PLACES)}` : pick(random, ELSEWHERE)
  const path = place.replace('ID', () => pick(random, ids)) + (random.uniform() < 0.1 ? '?a[]=1&__proto__=x' : '')
  const method = pick(random, METHODS)
  const isBroken = random.uniform() < 0.85
  const whole = pick(random, bodies)
  const break_ = random.uniform() < 0.6 ? brokenJson : brokenText
  const sent = isBroken ? break_(whole, random) : whole
  const hasBody = method !== 'GET' && method !== 'OPTIONS'
  const type = random.uniform() < 0.9 ? 'application/json' : pick(random, TYPES)
  return { method, path, headers: type ? { 'content-type': type } : {}, ...(hasBody && { body: sent }) }
}
