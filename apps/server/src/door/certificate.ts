import { X509Certificate, createPrivateKey } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { isIP } from 'node:net';
import { join } from 'node:path';
import { generate } from 'selfsigned';

export interface Certificate {
  cert: string;
  key: string;
  /** SHA-256 of the certificate, as browsers show it */
  fingerprint: string;
}

/** A certificate that ends within this is made anew, ms. */
const renewBefore = 30 * 24 * 3600_000;
/** Browsers take no longer ones. */
const lives = 397 * 24 * 3600_000;

const fingerprintOf = (cert: string): string => new X509Certificate(cert).fingerprint256;

/** @throws Error with a sentence when they cannot be read, or the key is another certificate's */
export function ownCertificate(certFile: string, keyFile: string): Certificate {
  const [cert, key] = [certFile, keyFile].map((f) => {
    try {
      return readFileSync(f, 'utf8');
    } catch {
      throw new Error(`The file ${f} cannot be read: it should hold the certificate or its key.`);
    }
  }) as [string, string];
  if (!new X509Certificate(cert).checkPrivateKey(createPrivateKey(key)))
    throw new Error(`The key in ${keyFile} does not belong to the certificate in ${certFile}.`);
  return { cert, key, fingerprint: fingerprintOf(cert) };
}

/** Whether a certificate still serves for these names. */
function serves(cert: string, names: readonly string[]): boolean {
  const x = new X509Certificate(cert);
  const knows = (name: string) => (isIP(name) ? x.checkIP(name) : x.checkHost(name)) !== undefined;
  return new Date(x.validTo).getTime() - Date.now() > renewBefore && names.every(knows);
}

/** The certificate this server made for itself, kept in a folder; made anew when it ends or the names have changed. */
export async function selfMadeCertificate(folder: string, names: readonly string[]): Promise<Certificate> {
  mkdirSync(folder, { recursive: true });
  const files = { cert: join(folder, 'certificate.pem'), key: join(folder, 'certificate-key.pem') };
  if (existsSync(files.cert) && existsSync(files.key)) {
    const cert = readFileSync(files.cert, 'utf8');
    if (serves(cert, names)) return { cert, key: readFileSync(files.key, 'utf8'), fingerprint: fingerprintOf(cert) };
  }
  const now = Date.now();
  const made = await generate([{ name: 'commonName', value: 'Yare Pilot' }], {
    keyType: 'ec',
    algorithm: 'sha256',
    notBeforeDate: new Date(now - 24 * 3600_000),
    notAfterDate: new Date(now + lives - 24 * 3600_000),
    extensions: [
      { name: 'basicConstraints', cA: false },
      { name: 'keyUsage', digitalSignature: true },
      { name: 'extKeyUsage', serverAuth: true },
      { name: 'subjectAltName', altNames: names.map((n) => (isIP(n) ? { type: 7 as const, ip: n } : { type: 2 as const, value: n })) },
    ],
  });
  writeFileSync(files.key, made.private, { mode: 0o600 });
  writeFileSync(files.cert, made.cert);
  return { cert: made.cert, key: made.private, fingerprint: fingerprintOf(made.cert) };
}
