import { timingSafeEqual } from 'node:crypto';
import type { MiddlewareHandler } from 'hono';
import { secureHeaders } from 'hono/secure-headers';
import { isLoopback, type Config } from './config';
import { Problem } from './problem';

/** Only what the application itself brings may run, and nothing else may frame it. */
export const contentPolicy: MiddlewareHandler = secureHeaders({
  contentSecurityPolicy: {
    defaultSrc: ["'self'"],
    scriptSrc: ["'self'"],
    // Angular writes component styles into the page.
    styleSrc: ["'self'", "'unsafe-inline'"],
    imgSrc: ["'self'", 'data:', 'blob:'],
    workerSrc: ["'self'"],
    objectSrc: ["'none'"],
    baseUri: ["'self'"],
    formAction: ["'self'"],
    frameAncestors: ["'none'"],
  },
  strictTransportSecurity: false,
});

const hostName = (host: string): string => host.replace(/:\d+$/, '').replace(/^\[|\]$/g, '');

/**
 * Refuses requests that another page makes in the name of the person in front of the browser: a foreign Origin on a
 * write, and, while only this machine is served, a Host that is not this machine's.
 */
export function sameOrigin(config: Config): MiddlewareHandler {
  return async (c, next) => {
    const host = c.req.header('host') ?? '';
    if (isLoopback(config.host) && host !== '' && !isLoopback(hostName(host))) {
      throw new Problem(
        403,
        'Refused',
        `This server answers to this machine only, not to "${host}".`,
      );
    }
    const origin = c.req.header('origin');
    if (origin !== undefined && !['GET', 'HEAD'].includes(c.req.method)) {
      const from = /^https?:\/\/(.+)$/.exec(origin)?.[1];
      if (from !== host) {
        throw new Problem(403, 'Refused', `A page from "${origin}" may not change anything here.`);
      }
    }
    await next();
  };
}

const TRIES = 8;
const WAIT_MS = 60_000;

/** Asks for the passcode, and stops listening for a minute to an address that has failed too often. */
export function passcodeGate(passcode: string, now: () => number = Date.now): MiddlewareHandler {
  const failures = new Map<string, { count: number; since: number }>();
  const wanted = Buffer.from(passcode);
  return async (c, next) => {
    const address = addressOf(c.env);
    const failed = failures.get(address);
    if (failed && failed.count >= TRIES && now() - failed.since < WAIT_MS) {
      throw new Problem(429, 'Too many tries', 'Wait a minute before you try the passcode again.');
    }
    const given = Buffer.from(readPasscode(c.req.header('authorization')));
    if (given.length === wanted.length && timingSafeEqual(given, wanted)) {
      failures.delete(address);
      return next();
    }
    if (c.req.header('authorization')) {
      const stale = !failed || now() - failed.since >= WAIT_MS;
      failures.set(address, { count: stale ? 1 : failed.count + 1, since: now() });
    }
    c.header('WWW-Authenticate', 'Basic realm="Hurrel", charset="UTF-8"');
    return c.text('The passcode, please: any name, and the passcode as password.', 401);
  };
}

function readPasscode(header: string | undefined): string {
  const encoded = /^Basic (.+)$/.exec(header ?? '')?.[1];
  if (!encoded) return '';
  return Buffer.from(encoded, 'base64').toString('utf8').split(':').slice(1).join(':');
}

const addressOf = (env: unknown): string =>
  (env as { incoming?: { socket?: { remoteAddress?: string } } } | undefined)?.incoming?.socket
    ?.remoteAddress ?? 'unknown';
