import type { Context } from 'hono';
import { HTTPException } from 'hono/http-exception';
import type { ContentfulStatusCode } from 'hono/utils/http-status';
import type { Problem as Fault } from '@hurrel/core';
import { troubleOf } from './db/trouble';

/** A field of a request that is wrong, at a JSON pointer (`/query/page`, `/settings/cutoff/value`). */
export type FieldError = Fault;

/** The same faults of a document that was sent as a part of a body. */
export const within = (prefix: string, errors: readonly FieldError[]): FieldError[] =>
  errors.map((e) => ({ ...e, pointer: `${prefix}${e.pointer === '/' ? '' : e.pointer}` }));

/** Does something with a document that was sent as a part of a body: its faults are told where the part stands. */
export async function withinBody<T>(prefix: string, act: () => Promise<T>): Promise<T> {
  try {
    return await act();
  } catch (error) {
    if (error instanceof Problem && error.errors.length > 0) {
      throw invalid(within(prefix, error.errors));
    }
    throw error;
  }
}

/** A refusal, told as a problem document (RFC 9457). */
export class Problem extends Error {
  constructor(
    readonly status: ContentfulStatusCode,
    readonly title: string,
    readonly detail: string,
    readonly errors: FieldError[] = [],
    readonly extra: Record<string, unknown> = {},
  ) {
    super(detail);
  }
}

export const notFound = (what: string, id: string): Problem =>
  new Problem(404, 'Not found', `There is no ${what} "${id}".`);

export function problemResponse(c: Context, problem: Problem): Response {
  const body = {
    type: 'about:blank',
    title: problem.title,
    status: problem.status,
    detail: problem.detail,
    ...(problem.errors.length > 0 ? { errors: problem.errors } : {}),
    ...problem.extra,
  };
  const { retryAfter } = problem.extra;
  return c.body(JSON.stringify(body), problem.status, {
    'content-type': 'application/problem+json',
    ...(retryAfter === undefined ? {} : { 'retry-after': String(retryAfter) }),
  });
}

/** Problem of a request that does not have the shape that was asked for. */
export function invalid(errors: FieldError[]): Problem {
  const first = errors[0]!;
  return new Problem(422, 'Invalid request', `${first.pointer}: ${first.message}`, errors);
}

/** Turns whatever was thrown into a problem document; only what nobody foresaw is a 500. */
export function onError(error: Error, c: Context): Response {
  if (error instanceof Problem) return problemResponse(c, error);
  if (error instanceof HTTPException) {
    const title = error.status === 400 ? 'Malformed request' : 'Refused';
    return problemResponse(
      c,
      new Problem(error.status as ContentfulStatusCode, title, error.message || title),
    );
  }
  const trouble = troubleOf(error);
  if (trouble) {
    const status = trouble.kind === 'full' ? 507 : 503;
    return problemResponse(c, new Problem(status, 'Not stored', trouble.says, [], { trouble }));
  }
  console.error(error);
  return problemResponse(
    c,
    new Problem(500, 'Internal error', 'The server made a mistake. Nothing was stored.'),
  );
}
