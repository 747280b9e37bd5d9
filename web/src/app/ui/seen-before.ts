/** Whether something was shown on this device before; from now on it was. A device that keeps nothing shows it each time. */
export function seenBefore(what: string): boolean {
  const key = `hurrel-seen-${what}`;
  try {
    const seen = localStorage.getItem(key) !== null;
    if (!seen) localStorage.setItem(key, 'yes');
    return seen;
  } catch {
    return false;
  }
}
