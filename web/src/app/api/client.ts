import { InjectionToken } from '@angular/core';
import type { Patch } from '@hurrel/core';
import type { Routers } from '@hurrel/server';
import { hc, type InferResponseType } from 'hono/client';
import { fetchKeepingLastRead } from './last-read';

type Client<Of extends keyof Routers> = ReturnType<typeof hc<Routers[Of]>>;
// Each by itself: as one type they are more than the compiler takes, which of them it meets first decides whether it says so.
/* oxlint-disable typescript/no-empty-object-type */
interface InstrumentClient extends Client<'instrument'> {}
interface CarryingClient extends Client<'carrying'> {}
interface PatchClient extends Client<'patch'> {}
interface ComputeClient extends Client<'compute'> {}
interface ProgressClient extends Client<'progress'> {}
interface ShownClient extends Client<'shown'> {}
interface SheetClient extends Client<'sheet'> {}
interface UnitClient extends Client<'unit'> {}
interface SessionClient extends Client<'session'> {}
interface EveningClient extends Client<'evening'> {}
interface BookletClient extends Client<'booklet'> {}
interface WalkClient extends Client<'walk'> {}
interface TakeClient extends Client<'take'> {}
interface RemovedClient extends Client<'removed'> {}
interface PictureClient extends Client<'picture'> {}
interface ParcelClient extends Client<'parcel'> {}
interface DeviceClient extends Client<'device'> {}
/* oxlint-enable typescript/no-empty-object-type */
export type ApiClient = InstrumentClient &
  CarryingClient &
  PatchClient &
  ComputeClient &
  ProgressClient &
  ShownClient &
  SheetClient &
  UnitClient &
  SessionClient &
  EveningClient &
  BookletClient &
  WalkClient &
  TakeClient &
  RemovedClient &
  PictureClient &
  ParcelClient &
  DeviceClient;

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
    readonly body: {
      current?: unknown;
      damage?: unknown;
      errors?: { pointer: string; message: string }[];
    } = {},
  ) {
    super(message);
  }

  /** The request never arrived, or the answer never came back. */
  get offline(): boolean {
    return this.status === 0;
  }
}

/** Whether an error says nothing of what was asked for: the server is away, wants a passcode, or has too much to do. */
export const saysNothing = (error: unknown): boolean =>
  error instanceof ApiError && [0, 401, 429, 503].includes(error.status);

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
