import type { ServerCertificate } from './authority'

/** What a server needs for the addresses and names of this machine. */
export type { ServerCertificate }

/**
 * Loaded when it is wanted first: most starts want no certificate, and the library wants its polyfill before it, which
 * bundled imports do not promise.
 */
export async function certificateFor(
  folder: string,
  names: { addresses: readonly string[]; names: readonly string[] },
  now: Date,
): Promise<ServerCertificate> {
  await import('reflect-metadata')
  const { signedFor } = await import('./authority')
  return signedFor(folder, names, now)
}
