/** What this page has read, as path and query; a service worker that rules later has not seen the first of it. */
export const readSoFar = new Set<string>();

/** Takes down that something is read and wanted again with no server. */
export function noteRead(url: string): void {
  readSoFar.add(url);
}

const pathOf = (input: RequestInfo | URL): string => {
  const url = new URL(
    typeof input === 'object' && 'url' in input ? input.url : input,
    location.href,
  );
  return url.pathname + url.search;
};

/**
 * Requests of an application that a service worker keeps for when there is no server. It keeps what was read last, but lets
 * go of it at a write, also one that fails: so writes go past it, and what was written is read once more for it to keep.
 */
export async function fetchKeepingLastRead(
  input: RequestInfo | URL,
  init: RequestInit = {},
): Promise<Response> {
  const method = init.method ?? 'GET';
  if (method === 'GET') {
    noteRead(pathOf(input));
    return fetch(input, init);
  }
  const headers = new Headers(init.headers);
  headers.set('ngsw-bypass', 'true');
  const response = await fetch(input, { ...init, headers });
  if (response.ok && method === 'PUT' && navigator.serviceWorker?.controller) {
    // It stands for nothing that is shown: fails it, the copy is older.
    fetch(input).catch(() => undefined);
  }
  return response;
}
