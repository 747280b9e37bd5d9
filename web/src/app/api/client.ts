import { InjectionToken } from '@angular/core';
import type { Patch } from '@hurrel/core';
import type { Api, PanelsApi } from '@hurrel/server';
import { hc, type InferResponseType } from 'hono/client';
import { fetchKeepingLastRead } from './last-read';

const options = { fetch: fetchKeepingLastRead };
const client = () => hc<Api>('/api/v1', options);
const panels = () => hc<PanelsApi>('/api/v1', options);
export type ApiClient = ReturnType<typeof client>;
export type PanelsClient = ReturnType<typeof panels>;

/** The HTTP interface, typed from the server's own routes. */
export const API = new InjectionToken<ApiClient>('api', { factory: client });
/** That part of it that speaks of instruments and their versions. */
export const PANELS = new InjectionToken<PanelsClient>('panels', { factory: panels });

export interface StoredPatch {
  id: string;
  version: number;
  createdAt: string;
  updatedAt: string;
  patch: Patch;
}
export type PatchSummary = InferResponseType<ApiClient['patches']['$get'], 200>['items'][number];
export type InstrumentSummary = InferResponseType<
  PanelsClient['instruments']['$get'],
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
  throw new ApiError(
    response.status,
    problem.detail ?? `The server answered ${response.status}.`,
    problem,
  );
}
