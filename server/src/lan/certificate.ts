import 'reflect-metadata';
import { createPrivateKey, webcrypto, X509Certificate } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { isIP } from 'node:net';
import { hostname, networkInterfaces } from 'node:os';
import { join } from 'node:path';
import * as x509 from '@peculiar/x509';

/** What a server shows over TLS; `authority` is what devices are told to trust, null where the certificate was given. */
export interface Tls {
  key: string;
  cert: string;
  authority: string | null;
}

const CURVE = { name: 'ECDSA', namedCurve: 'P-256', hash: 'SHA-256' } as const;
const DAY_MS = 86_400_000;
const AUTHORITY_DAYS = 3_650;
/** Browsers refuse certificates of servers that live longer than 398 days. */
const SERVER_DAYS = 397;
const RENEW_DAYS = 30;
/** Clocks of phones may be behind. */
const BEFORE_MS = DAY_MS;

/** The addresses under which this machine is found on the local network, its name among them. */
export function lanAddresses(): string[] {
  const all = Object.values(networkInterfaces()).flatMap(i => i ?? []);
  const outside = all.filter(a => !a.internal && a.family === 'IPv4').map(a => a.address);
  return [...new Set([...outside, hostname()])];
}

/** A certificate that was made elsewhere, from its files; refused with why when they do not belong together. */
export function givenCertificate(certFile: string, keyFile: string): Tls {
  const [cert, key] = [certFile, keyFile].map(file => {
    if (!existsSync(file)) throw new Error(`The file ${file} is not there. Give the path of a PEM file.`);
    return readFileSync(file, 'utf8');
  }) as [string, string];
  if (!new X509Certificate(cert).checkPrivateKey(createPrivateKey(key)))
    throw new Error(
      `The key in ${keyFile} is not that of the certificate in ${certFile}. Give the two that belong together.`,
    );
  return { cert, key, authority: null };
}

/**
 * The certificate of this house for its addresses, signed by the house's own authority. Both are made once and kept in `folder`, readable
 * by nobody else; the server's is made anew when the addresses change or 30 days before it ends, the authority's never, so that a
 * device trusts it once.
 */
export async function houseCertificate(
  folder: string,
  addresses: readonly string[],
  now: Date,
): Promise<Tls & { authority: string }> {
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const authority = await kept(
    folder,
    'authority',
    () => true,
    async keys =>
      x509.X509CertificateGenerator.createSelfSigned({
        serialNumber: serial(),
        name: 'CN=Auk of this house',
        notBefore: new Date(now.getTime() - BEFORE_MS),
        notAfter: new Date(now.getTime() + AUTHORITY_DAYS * DAY_MS),
        signingAlgorithm: CURVE,
        keys,
        extensions: [
          new x509.BasicConstraintsExtension(true, 0, true),
          new x509.KeyUsagesExtension(x509.KeyUsageFlags.keyCertSign | x509.KeyUsageFlags.cRLSign, true),
          await x509.SubjectKeyIdentifierExtension.create(keys.publicKey),
        ],
      }),
  );
  const names = ['localhost', '127.0.0.1', ...addresses].map(toName);
  const signer = new x509.X509Certificate(authority.cert);
  const stillGood = (cert: x509.X509Certificate) =>
    cert.issuer === signer.subject &&
    cert.notAfter.getTime() - now.getTime() > RENEW_DAYS * DAY_MS &&
    namesOf(cert) === JSON.stringify(names);
  const server = await kept(folder, 'server', stillGood, async keys =>
    x509.X509CertificateGenerator.create({
      serialNumber: serial(),
      subject: `CN=${addresses[0] ?? 'localhost'}`,
      issuer: signer.subject,
      notBefore: new Date(now.getTime() - BEFORE_MS),
      notAfter: new Date(now.getTime() + SERVER_DAYS * DAY_MS),
      signingAlgorithm: CURVE,
      publicKey: keys.publicKey,
      signingKey: await privateKey(authority.key),
      extensions: [
        new x509.BasicConstraintsExtension(false, undefined, true),
        new x509.KeyUsagesExtension(x509.KeyUsageFlags.digitalSignature, true),
        new x509.ExtendedKeyUsageExtension([x509.ExtendedKeyUsage.serverAuth]),
        new x509.SubjectAlternativeNameExtension(names),
        await x509.AuthorityKeyIdentifierExtension.create(signer.publicKey),
      ],
    }),
  );
  return { ...server, authority: authority.cert };
}

/** A key and its certificate as they are kept; made where there is none, or where what is there will not do any more. */
async function kept(
  folder: string,
  name: string,
  good: (cert: x509.X509Certificate) => boolean,
  make: (keys: webcrypto.CryptoKeyPair) => Promise<x509.X509Certificate>,
): Promise<{ key: string; cert: string }> {
  const [keyFile, certFile] = [join(folder, `${name}.key`), join(folder, `${name}.crt`)];
  if (existsSync(keyFile) && existsSync(certFile)) {
    const cert = readFileSync(certFile, 'utf8');
    if (good(new x509.X509Certificate(cert))) return { key: readFileSync(keyFile, 'utf8'), cert };
  }
  const keys = await webcrypto.subtle.generateKey(CURVE, true, ['sign', 'verify']);
  const cert = (await make(keys)).toString('pem');
  const key = x509.PemConverter.encode(
    await webcrypto.subtle.exportKey('pkcs8', keys.privateKey),
    'PRIVATE KEY',
  );
  writeFileSync(keyFile, key, { mode: 0o600 });
  writeFileSync(certFile, cert);
  return { key, cert };
}

const privateKey = (pem: string) =>
  webcrypto.subtle.importKey('pkcs8', x509.PemConverter.decodeFirst(pem), CURVE, false, ['sign']);

const toName = (value: string): x509.JsonGeneralName => ({ type: isIP(value) ? 'ip' : 'dns', value });

const namesOf = (cert: x509.X509Certificate): string =>
  JSON.stringify(cert.getExtension(x509.SubjectAlternativeNameExtension)?.names.toJSON() ?? []);

/** A serial number of 16 random bytes, positive. */
function serial(): string {
  const bytes = webcrypto.getRandomValues(new Uint8Array(16));
  bytes[0]! &= 0x7f;
  bytes[0]! |= 0x01;
  return Buffer.from(bytes).toString('hex');
}
