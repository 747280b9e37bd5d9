import { OpenAPIHono, z } from '@hono/zod-openapi';
import { type Instrument, type Patch, patchSchema, type Skeleton } from '@hurrel/core';
import { checkPatch, panelOf, schemaFaults } from '@hurrel/core';
import type { Context, MiddlewareHandler } from 'hono';
import { getCookie } from 'hono/cookie';
import { invalid, Problem, within, withinBody } from '../problem';
import { addressOf, DEVICE_COOKIE } from '../security';
import type { WaitingParcels } from '../parcel/waiting';
import { standingOn } from '../store/instruments';
import type { Carrying } from '../store/carrying';
import type { Expected } from '../store/document-store';
import type { DeviceStore } from '../store/devices';
import type { ProgressStore } from '../store/progress';
import type { ShownStore } from '../store/shown';
import type { Stores } from '../store/stores';
import type { WalkStore } from '../store/walks';
import type { Asked, Work } from '../work/work';

/** What every route works with. */
export interface Services extends Stores {
  /** Circuits to begin from. */
  skeletons: readonly Skeleton[];
  carrying: Carrying;
  progress: ProgressStore;
  shown: ShownStore;
  walks: WalkStore;
  devices: DeviceStore;
  parcels: WaitingParcels;
  work: Work;
}

/** Who asks for a job, and for how long: a device that was let in by its token, any other by its address. */
export const askedBy = (c: Context): Asked => ({
  who: getCookie(c, DEVICE_COOKIE) ?? addressOf(c.env),
  gone: c.req.raw.signal,
});

/** A router whose validation failures are problems that name the field. */
export const router = (): OpenAPIHono =>
  new OpenAPIHono({
    defaultHook: (result) => {
      if (result.success) return;
      const prefix = result.target === 'json' ? '' : `/${result.target}`;
      throw invalid(schemaFaults(result.error as z.ZodError, prefix));
    },
  });

export const problemSchema = z
  .object({
    type: z.string(),
    title: z.string(),
    status: z.number(),
    detail: z.string(),
    errors: z.array(z.object({ pointer: z.string(), message: z.string() })).optional(),
  })
  .openapi('Problem');

/** What any route may answer instead, a problem document that names what is wrong. */
const refusals = {
  '4XX': {
    description: 'Refused; the problem names the field',
    content: { 'application/problem+json': { schema: problemSchema } },
  },
} as unknown as Record<never, never>;

export const json = <T extends z.ZodType>(schema: T, description: string) => ({
  200: { description, content: { 'application/json': { schema } } },
  ...refusals,
});

export const created = <T extends z.ZodType>(schema: T, description: string) => ({
  201: { description, content: { 'application/json': { schema } } },
  ...refusals,
});

/** An answer that is a file. */
export const fileOf = (type: string, description: string) => ({
  200: {
    description,
    content: { [type]: { schema: z.string().openapi({ format: 'binary' }) } },
  },
  ...refusals,
});

export const body = <T extends z.ZodType>(schema: T) => ({
  content: { 'application/json': { schema } },
  required: true,
});

export const idParam = z.object({ id: z.string().regex(/^[A-Za-z0-9-]{1,64}$/, 'not an id') });
export const paging = {
  page: z.coerce.number().int().min(1).max(100000).default(1),
  size: z.coerce.number().int().min(1).max(200).default(100),
};
export const page = <T extends z.ZodType>(item: T) =>
  z.object({ items: z.array(item), total: z.number(), page: z.number(), size: z.number() });

export const instrumentDocument = z.custom<Instrument>().openapi({
  type: 'object',
  description: 'An instrument, see /api/v1/schemas/instrument.json',
});
export const patchDocument = patchSchema.openapi('Patch');

export const ifMatchHeader = z.object({
  'if-match': z
    .string()
    .optional()
    .openapi({ description: 'Version that was read, as its ETag: "7"', example: '"7"' }),
});

/** The version a writer has read; a write without one is refused. */
export function expectedVersion(header: string | undefined): Expected {
  if (header === undefined) {
    throw new Problem(
      428,
      'Which version?',
      'Send If-Match with the ETag of the version that was read, so that nobody else is overwritten.',
      [{ pointer: '/header/if-match', message: 'missing' }],
    );
  }
  if (header.trim() === '*') return '*';
  // A compressed answer carries its ETag as a weak one (RFC 9110, 8.8.1): the version is the same.
  const number = /^(?:W\/)?"(\d{1,9})"$/.exec(header.trim())?.[1];
  if (number === undefined) {
    throw invalid([{ pointer: '/header/if-match', message: 'expected an ETag as "7"' }]);
  }
  return Number(number);
}

export const etag = (version: number): string => `"${version}"`;

/** A patch named by its id, or sent along. */
export const subjectSchema = z
  .object({ patchId: z.string().max(64).optional(), patch: patchDocument.optional() })
  .refine(
    (s) => (s.patchId === undefined) !== (s.patch === undefined),
    'expected patchId or patch',
  );

export interface Subject {
  patch: Patch;
  instrument: Instrument;
}

/** Finds what a request speaks of, and checks a patch that was sent along against its instrument. */
export async function resolveSubject(
  services: Services,
  source: { patchId?: string | undefined; patch?: Patch | undefined },
  pointer = '',
): Promise<Subject> {
  if (source.patch === undefined) {
    const { patch } = await services.patches.get(source.patchId!);
    return { patch, instrument: panelOf(await services.instruments.of(patch), patch) };
  }
  const instrument = await withinBody(`${pointer}/patch`, () =>
    standingOn(services.instruments, source.patch!),
  );
  const faults = checkPatch(source.patch, instrument);
  if (faults.length > 0) {
    throw invalid(within(`${pointer}/patch`, faults));
  }
  return { patch: source.patch, instrument: panelOf(instrument, source.patch) };
}

/** Writes speak JSON: anything else is refused before it is read. */
export const jsonOnly: MiddlewareHandler = async (c, next) => {
  if (['POST', 'PUT', 'PATCH'].includes(c.req.method)) {
    const length = c.req.header('content-length');
    const hasBody = (length !== undefined && length !== '0') || c.req.header('transfer-encoding');
    const type = c.req.header('content-type') ?? '';
    if (hasBody && !/^application\/([\w.-]+\+)?json\b/i.test(type)) {
      throw new Problem(
        415,
        'Not JSON',
        `Send application/json, not "${type || 'nothing stated'}".`,
      );
    }
  }
  await next();
};
