/** Seconds as minutes and seconds: 98 is `1:38`. */
export function formatDuration(seconds: number): string {
  const whole = Math.round(seconds);
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`;
}

/** The seconds that somebody wrote: `2:30`, `45`, `45 s`, `1:02:00`; null for anything else. */
export function readDuration(text: string): number | null {
  const [, hours, minutes, seconds] =
    /^\s*(?:(?:(\d+):)?(\d+):)?(\d+(?:[.,]\d+)?)\s*s?\s*$/.exec(text) ?? [];
  if (seconds === undefined) return null;
  return Number(hours ?? 0) * 3600 + Number(minutes ?? 0) * 60 + Number(seconds.replace(',', '.'));
}
