import { AsnConvert } from '@peculiar/asn1-schema'
import {
  GeneralName,
  GeneralSubtree,
  GeneralSubtrees,
  id_ce_nameConstraints,
  NameConstraints,
} from '@peculiar/asn1-x509'
import * as x509 from '@peculiar/x509'
import { webcrypto } from 'node:crypto'
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'

/**
 * Certificates made on this machine: an authority that a phone is told to trust once, and from it a certificate for
 * the addresses that the machine has today. The authority can vouch for addresses of local nets alone (RFC 5280
 * 4.2.1.10), so whoever steals its key cannot pose as any other site.
 */

x509.cryptoProvider.set(webcrypto as unknown as Crypto)

const ALGORITHM = { name: 'ECDSA', namedCurve: 'P-256', hash: 'SHA-256' } as const
const DAY_MS = 86_400_000
const AUTHORITY_DAYS = 3650
/** Some systems refuse certificates that hold longer than 825 days. */
const CERTIFICATE_DAYS = 397
/** Clocks of phones in a field may be behind. */
const BEFORE_MS = 2 * DAY_MS

interface Signed {
  certificate: x509.X509Certificate
  key: webcrypto.CryptoKeyPair
}

/** What a server needs to answer over TLS, as PEM. */
export interface ServerCertificate {
  cert: string
  key: string
  /** The authority that a phone trusts. */
  authority: string
  /** When it runs out. */
  until: Date
}

const PUBLIC = 'authority.pem'
const SECRET = 'authority-key.pem'

/** The authority of a folder, made where there is none or it has run out. */
async function authorityIn(folder: string, now: Date): Promise<Signed> {
  const [certPath, keyPath] = [join(folder, PUBLIC), join(folder, SECRET)]
  if (existsSync(certPath) && existsSync(keyPath)) {
    const certificate = new x509.X509Certificate(readFileSync(certPath, 'utf8'))
    if (certificate.notAfter.getTime() > now.getTime() + CERTIFICATE_DAYS * DAY_MS)
      return { certificate, key: await importedPair(certificate, readFileSync(keyPath, 'utf8')) }
  }
  const made = await newAuthority(now)
  mkdirSync(folder, { recursive: true, mode: 0o700 })
  writeFileSync(keyPath, await secretPem(made.key.privateKey), { mode: 0o600 })
  writeFileSync(certPath, `${made.certificate.toString('pem')}\n`)
  return made
}

async function newAuthority(now: Date): Promise<Signed> {
  const key = (await webcrypto.subtle.generateKey(ALGORITHM, true, ['sign', 'verify'])) as webcrypto.CryptoKeyPair
  const certificate = await x509.X509CertificateGenerator.createSelfSigned({
    name: 'CN=Wireman on this machine',
    keys: key as unknown as CryptoKeyPair,
    notBefore: new Date(now.getTime() - BEFORE_MS),
    notAfter: new Date(now.getTime() + AUTHORITY_DAYS * DAY_MS),
    signingAlgorithm: ALGORITHM,
    extensions: [
      new x509.BasicConstraintsExtension(true, 0, true),
      new x509.KeyUsagesExtension(x509.KeyUsageFlags.keyCertSign, true),
      await x509.SubjectKeyIdentifierExtension.create(key.publicKey as unknown as CryptoKey),
      new x509.Extension(id_ce_nameConstraints, true, AsnConvert.serialize(localOnly())),
    ],
  })
  return { certificate, key }
}

/** Nets that the authority may vouch for (RFC 1918, 3927; 192.0.2.0/24 of RFC 5737 is nobody's). */
const NETS = ['10.0.0.0/8', '127.0.0.0/8', '169.254.0.0/16', '172.16.0.0/12', '192.168.0.0/16', '192.0.2.0/24']

function localOnly(): NameConstraints {
  const nets = NETS.map(iPAddress => new GeneralName({ iPAddress }))
  const names = ['local', 'localhost'].map(dNSName => new GeneralName({ dNSName }))
  const permitted = [...nets, ...names].map(base => new GeneralSubtree({ base }))
  return new NameConstraints({ permittedSubtrees: new GeneralSubtrees(permitted) })
}

/** A certificate for a machine's addresses and names, of the folder's authority. */
export async function signedFor(
  folder: string,
  { addresses, names }: { addresses: readonly string[]; names: readonly string[] },
  now: Date,
): Promise<ServerCertificate> {
  const authority = await authorityIn(folder, now)
  const key = (await webcrypto.subtle.generateKey(ALGORITHM, true, ['sign', 'verify'])) as webcrypto.CryptoKeyPair
  const certificate = await x509.X509CertificateGenerator.create({
    subject: 'CN=Wireman',
    issuer: authority.certificate.subject,
    notBefore: new Date(now.getTime() - BEFORE_MS),
    notAfter: new Date(now.getTime() + CERTIFICATE_DAYS * DAY_MS - BEFORE_MS),
    publicKey: key.publicKey as unknown as CryptoKey,
    signingKey: authority.key.privateKey as unknown as CryptoKey,
    signingAlgorithm: ALGORITHM,
    extensions: [
      new x509.BasicConstraintsExtension(false, undefined, true),
      new x509.KeyUsagesExtension(x509.KeyUsageFlags.digitalSignature, true),
      new x509.ExtendedKeyUsageExtension([x509.ExtendedKeyUsage.serverAuth]),
      await x509.AuthorityKeyIdentifierExtension.create(authority.key.publicKey as unknown as CryptoKey),
      new x509.SubjectAlternativeNameExtension([
        ...addresses.map(value => ({ type: 'ip' as const, value })),
        ...names.map(value => ({ type: 'dns' as const, value })),
      ]),
    ],
  })
  return {
    cert: certificate.toString('pem'),
    key: await secretPem(key.privateKey),
    authority: authority.certificate.toString('pem'),
    until: certificate.notAfter,
  }
}

async function secretPem(key: webcrypto.CryptoKey): Promise<string> {
  return `${x509.PemConverter.encode(await webcrypto.subtle.exportKey('pkcs8', key), 'PRIVATE KEY')}\n`
}

async function importedPair(certificate: x509.X509Certificate, pem: string): Promise<webcrypto.CryptoKeyPair> {
  const bytes = x509.PemConverter.decodeFirst(pem)
  const privateKey = await webcrypto.subtle.importKey('pkcs8', bytes, ALGORITHM, true, ['sign'])
  return { privateKey, publicKey: (await certificate.publicKey.export()) as unknown as webcrypto.CryptoKey }
}
