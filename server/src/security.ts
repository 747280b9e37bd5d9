import { timingSafeEqual } from 'node:crypto';
import type { Context, MiddlewareHandler } from 'hono';
import { getCookie } from 'hono/cookie';
import { secureHeaders } from 'hono/secure-headers';
import { isLoopback, type Config } from './config';
import { Problem } from './problem';
import type { DeviceStore } from './store/devices';

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

/** Under this name a device keeps its token. */
export const DEVICE_COOKIE = 'hurrel-device';

/** Who comes in with a passcode, and who has guessed too often. */
export interface Door {
  /** Whether a passcode is right; throws for a minute to an address that has failed too often. */
  opens(c: Context, given: string): boolean;
}

export function doorOf(passcode: string, now: () => number = Date.now): Door {
  const failures = new Map<string, { count: number; since: number }>();
  const wanted = Buffer.from(passcode);
  return {
    opens(c, text) {
      const address = addressOf(c.env);
      const failed = failures.get(address);
      if (failed && failed.count >= TRIES && now() - failed.since < WAIT_MS) {
        throw new Problem(
          429,
          'Too many tries',
          'Wait a minute before you try the passcode again.',
          [],
          { retryAfter: Math.ceil((failed.since + WAIT_MS - now()) / 1000) },
        );
      }
      const given = Buffer.from(text);
      if (given.length === wanted.length && timingSafeEqual(given, wanted)) {
        failures.delete(address);
        return true;
      }
      const stale = !failed || now() - failed.since >= WAIT_MS;
      failures.set(address, { count: stale ? 1 : failed.count + 1, since: now() });
      return false;
    },
  };
}

/** What is open to everybody: the door itself. */
const OPEN = new Set(['POST /api/v1/devices', 'GET /api/v1/authority.pem']);

/** Lets in devices that show their token, and programs that send the passcode with each request. */
export function doorGate(door: Door, devices: Pick<DeviceStore, 'knows'>): MiddlewareHandler {
  return async (c, next) => {
    if (OPEN.has(`${c.req.method} ${c.req.path}`)) return next();
    const token = getCookie(c, DEVICE_COOKIE);
    if (token && (await devices.knows(token))) return next();
    const given = readPasscode(c.req.header('authorization'));
    if (given !== '' && door.opens(c, given)) return next();
    throw new Problem(
      401,
      'Not let in',
      'This device is not let in, or no more: give the passcode of this server.',
    );
  };
}

function readPasscode(header: string | undefined): string {
  const encoded = /^Basic (.+)$/.exec(header ?? '')?.[1];
  if (!encoded) return '';
  return Buffer.from(encoded, 'base64').toString('utf8').split(':').slice(1).join(':');
}

export const addressOf = (env: unknown): string =>
  (env as { incoming?: { socket?: { remoteAddress?: string } } } | undefined)?.incoming?.socket
    ?.remoteAddress ?? 'unknown';
