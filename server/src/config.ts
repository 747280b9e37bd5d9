import { isIPv4, isIPv6 } from 'node:net';
import { resolve } from 'node:path';
import type { Secure } from './network/certificate';

export interface Config {
  port: number;
  host: string;
  database: string;
  demo: boolean;
  /** Asked of everyone when the server listens beyond this machine. */
  passcode?: string;
  /** HTTPS is wanted: with a certificate of one's own, or one that is made here. */
  wantsTls: false | 'made' | { key: string; cert: string };
  /** The certificate that is served with, once it is there. */
  tls?: Secure;
}

/** Settings that the environment states wrongly, told in one sentence. */
export class ConfigError extends Error {}

const LOOPBACK = /^(localhost|127\.\d+\.\d+\.\d+|::1)$/;

export const isLoopback = (host: string): boolean => LOOPBACK.test(host);

/** Reads PORT, HOST, HURREL_DB, HURREL_DEMO, HURREL_PASSCODE, HURREL_TLS, HURREL_KEY and HURREL_CERT (files in PEM). */
export function readConfig(env: NodeJS.ProcessEnv): Config {
  const port = Number(env.PORT ?? 4310);
  if (!Number.isInteger(port) || port < 0 || port > 65535) {
    throw new ConfigError(`PORT is "${env.PORT}": expected a whole number from 0 to 65535.`);
  }
  const host = env.HOST ?? '127.0.0.1';
  if (!isIPv4(host) && !isIPv6(host) && !/^[a-zA-Z0-9.-]+$/.test(host)) {
    throw new ConfigError(`HOST is "${host}": expected an address or a name.`);
  }
  const passcode = env.HURREL_PASSCODE;
  if (!isLoopback(host) && (passcode === undefined || passcode.length < 6)) {
    throw new ConfigError(
      `HOST is "${host}", which others can reach: set HURREL_PASSCODE to at least 6 characters.`,
    );
  }
  const [key, cert] = [env.HURREL_KEY, env.HURREL_CERT];
  if ((key === undefined) !== (cert === undefined))
    throw new ConfigError('HURREL_KEY and HURREL_CERT belong together: set both, or neither.');
  return {
    wantsTls: key && cert ? { key, cert } : env.HURREL_TLS === '1' && 'made',
    port,
    host,
    database: env.HURREL_DB ?? resolve(process.cwd(), 'data', 'hurrel.db'),
    demo: env.HURREL_DEMO !== '0',
    ...(passcode ? { passcode } : {}),
  };
}
