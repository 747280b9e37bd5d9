import { X509Certificate } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { type Certificate, createCA, createCert } from 'mkcert';

/** Days that devices trust what was made here, and that a server's own certificate holds: browsers take no longer ones. */
const AUTHORITY_DAYS = 3650;
const SERVER_DAYS = 397;
/** A certificate that ends within so many days is made anew. */
const SOON_DAYS = 30;
const DAY_MS = 86_400_000;

export interface Secure {
  key: string;
  cert: string;
  /** What a device has to trust; absent where one's own certificate is used. */
  authority?: string;
}

/**
 * The certificate of this server for these names: signed by an authority that is made once and kept, so that a device that
 * trusts it goes on when the addresses change.
 *
 * @param folder where both are kept
 */
export async function secureFor(folder: string, names: readonly string[]): Promise<Secure> {
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const authority = await kept(
    folder,
    'authority',
    (cert) => endsLater(cert),
    () =>
      createCA({
        organization: 'Hurrel on this machine',
        countryCode: 'XX',
        state: 'here',
        locality: 'here',
        validity: AUTHORITY_DAYS,
      }),
  );
  const server = await kept(
    folder,
    'server',
    (cert) => endsLater(cert) && holds(cert, names) && cert.verify(publicKeyOf(authority)),
    () => createCert({ domains: [...names], validity: SERVER_DAYS, ca: authority }),
  );
  return { ...server, authority: authority.cert };
}

const publicKeyOf = ({ cert }: Certificate) => new X509Certificate(cert).publicKey;

const endsLater = (cert: X509Certificate): boolean =>
  Date.parse(cert.validTo) > Date.now() + SOON_DAYS * DAY_MS;

const holds = (cert: X509Certificate, names: readonly string[]): boolean =>
  names.every((name) =>
    /^[\d.]+$/.test(name) ? cert.checkIP(name) !== undefined : cert.checkHost(name) !== undefined,
  );

async function kept(
  folder: string,
  name: string,
  good: (cert: X509Certificate) => boolean,
  make: () => Promise<Certificate>,
): Promise<Certificate> {
  const [keyFile, certFile] = [join(folder, `${name}.key`), join(folder, `${name}.pem`)];
  if (existsSync(keyFile) && existsSync(certFile)) {
    const there = { key: readFileSync(keyFile, 'utf8'), cert: readFileSync(certFile, 'utf8') };
    if (isGood(there.cert, good)) return there;
  }
  const made = await make();
  writeFileSync(keyFile, made.key, { mode: 0o600 });
  writeFileSync(certFile, made.cert);
  return made;
}

function isGood(cert: string, good: (cert: X509Certificate) => boolean): boolean {
  try {
    return good(new X509Certificate(cert));
  } catch {
    // Cut short, or something else: it is made anew.
    return false;
  }
}
