const told = new Set<string>();

/** Reads something stored; what cannot be read is told in the log once, and takes nothing else with it. */
export function readOrTell<T>(what: string, read: () => T): T | undefined {
  try {
    return read();
  } catch (error) {
    if (!told.has(what)) console.error(`The ${what} cannot be read: ${(error as Error).message}`);
    told.add(what);
    return undefined;
  }
}
