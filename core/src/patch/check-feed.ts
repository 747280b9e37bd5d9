import { bareFace } from '../instrument/panel-of';
import type { Instrument } from '../instrument/schema';
import type { Patch } from './schema';

type Report = (pointer: string, message: string) => void;

/** Checks that a recording is fed into an input that is there. */
export function checkFeed(patch: Patch, definition: Instrument, report: Report): void {
  const { feed } = patch;
  if (!feed) return;
  const face = bareFace(definition, patch);
  const jack = face.jacks.find((j) => j.id === feed.jack);
  if (jack?.direction !== 'in') report('/feed/jack', `${face.name} has no input "${feed.jack}".`);
}
