import { InjectionToken } from '@angular/core';
import type { Patch } from '@hurrel/core';
import type { Router } from '@hurrel/server';
import { hc, type InferResponseType } from 'hono/client';
import { fetchKeepingLastRead } from './last-read';

/** All that either of them has. */
type All<T> = (T extends unknown ? (x: T) => void : never) extends (x: infer A) => void ? A : never;
type ClientOf<R> = R extends Router ? ReturnType<typeof hc<R>> : never;
export type ApiClient = All<ClientOf<Router>>;

/** The HTTP interface, typed from the server's own routes. */
export const API = new InjectionToken<ApiClient>('api', {
  factory: () => hc('/api/v1', { fetch: fetchKeepingLastRead }) as unknown as ApiClient,
});

export interface StoredPatch {
  id: string;
  version: number;
  createdAt: string;
  updatedAt: string;
  patch: Patch;
}
export type PatchSummary = InferResponseType<ApiClient['patches']['$get'], 200>['items'][number];
export type InstrumentSummary = InferResponseType<
  ApiClient['instruments']['$get'],
  200
>['items'][number];

/** What the server refused, or that it could not be reached. */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly body: { current?: unknown; errors?: { pointer: string; message: string }[] } = {},
  ) {
    super(message);
  }

  /** The request never arrived, or the answer never came back. */
  get offline(): boolean {
    return this.status === 0;
  }
}

/** Reads an answer, or throws what the server's problem document says. */
export async function answer<T>(
  request: Promise<{ ok: boolean; status: number; json(): Promise<unknown> }>,
): Promise<T> {
  let response;
  try {
    response = await request;
  } catch {
    throw new ApiError(0, 'The server does not answer.');
  }
  if (response.ok) return (await response.json()) as T;
  let problem: { detail?: string } & ApiError['body'] = {};
  try {
    problem = (await response.json()) as typeof problem;
  } catch {
    // Not one of ours: a proxy's page, say. The status tells enough.
    if (response.status === 504) throw new ApiError(0, 'The server does not answer.');
  }
  if (response.status === 401) askForPasscode();
  throw new ApiError(
    response.status,
    problem.detail ?? `The server answered ${response.status}.`,
    problem,
  );
}

/** To the door of a server that does not let this device in, and back to the page that wanted something. */
function askForPasscode(): void {
  const { pathname, search } = location;
  if (pathname === '/enter') return;
  location.assign(`/enter?back=${encodeURIComponent(pathname + search)}`);
}
