import { createHash } from 'node:crypto'

/** What every answer says of itself: what may run in a page, and that nobody may frame it or guess what it is. */
const HEADERS = {
  'x-content-type-options': 'nosniff',
  'referrer-policy': 'no-referrer',
  'x-frame-options': 'DENY',
}

/** Scripts of this server alone; the styles that components write into the page, as they come. */
const policyOf = (scripts: readonly string[]) =>
  [
    "default-src 'self'",
    ['script-src', "'self'", ...scripts].join(' '),
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "font-src 'self' data:",
    "worker-src 'self' blob:",
    "connect-src 'self'",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'none'",
    "frame-ancestors 'none'",
  ].join('; ')

const INLINE = /<script(?![^>]*\bsrc=)([^>]*)>([^]*?)<\/script>/g

/** The page's own inline scripts, by what they say: others do not run. */
const hashesIn = (html: string) =>
  [...html.matchAll(INLINE)]
    .filter(([, attributes]) => !/type="application\/json"/.test(attributes!))
    .map(([, , text]) => `'sha256-${createHash('sha256').update(text!).digest('base64')}'`)

export default defineNitroPlugin(nitro => {
  nitro.hooks.hook('request', event => setResponseHeaders(event, HEADERS))
  nitro.hooks.hook('render:response', (response, { event }) => {
    const html = typeof response.body === 'string' ? response.body : ''
    setResponseHeader(event, 'content-security-policy', policyOf(hashesIn(html)))
    if (response.headers) delete response.headers['x-powered-by']
    removeResponseHeader(event, 'x-powered-by')
  })
})
