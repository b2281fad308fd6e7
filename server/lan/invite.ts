import { renderUnicodeCompact } from 'uqr'
import { lan } from './lan'

/** Tells in the terminal how a phone comes in. */
export function invite(print: (line: string) => void) {
  const invitation = lan.invitation()
  if (!invitation) return print(`No phone can come in: ${lan.state().trouble}`)
  const { code, urls } = invitation
  print(renderUnicodeCompact(urls[0]!))
  print(`On a phone in the same net, within five minutes: ${urls.map(u => u.split('#')[0]).join(' or ')}, code ${code}`)
}
