import type { Jack, JackSignal } from '../instrument/jack';
import { box, circle, line, type Shape } from './shape';

/** Radius of a jack's ring in panel units. */
export const jackRadius = (jack: Jack): number => Math.max(5, jack.place.size / 2);

/**
 * The mark of a kind of signal, around a middle: a disc for audio, a triangle for pitch, a ring for modulation, a square
 * for a gate, a square with a bar across it for an S-trigger, a lozenge for a clock. The same stands on the ends of cables.
 */
export function signalMark(signal: JackSignal, x: number, y: number, r: number): string {
  switch (signal) {
    case 'audio':
      return circle(x, y, r * 0.8);
    case 'pitch':
      return `M${x - r} ${y + r * 0.75}L${x} ${y - r}L${x + r} ${y + r * 0.75}Z`;
    case 'modulation':
      return `${circle(x, y, r * 0.9)}${circle(x, y, r * 0.4)}`;
    case 'gate':
      return box(x - r * 0.75, y - r * 0.75, r * 1.5, r * 1.5);
    case 's-trigger':
      return `${box(x - r * 0.75, y - r * 0.75, r * 1.5, r * 1.5)}${line(x - r * 1.2, y + r * 1.2, x + r * 1.2, y - r * 1.2)}`;
    case 'clock':
      return `M${x} ${y - r}L${x + r} ${y}L${x} ${y + r}L${x - r} ${y}Z`;
  }
}

export const SMALLEST_JACK_NAME = 10.5;
/** A larger one would reach into the frame of an output. */
export const LARGEST_JACK_NAME = 14.2;

/** Where the line stands on which a jack's name is written. */
export const jackNameAt = (jack: Jack): { x: number; y: number } => ({
  x: jack.place.x,
  y: jack.place.y + jackRadius(jack) + 16,
});

/** A jack: its ring (a frame around it for what gives a signal), the mark of its signal, its name. */
export function drawJack(jack: Jack, size = SMALLEST_JACK_NAME): Shape[] {
  const { x, y } = jack.place;
  const r = jackRadius(jack);
  const shapes: Shape[] = [{ kind: 'path', pen: 'jack', d: circle(x, y, r) }];
  if (jack.direction === 'out') {
    shapes.unshift({
      kind: 'path',
      pen: 'jack-out',
      d: box(x - r - 4, y - r - 4, 2 * r + 8, 2 * r + 8),
    });
  }
  shapes.push({
    kind: 'path',
    pen: `mark-${jack.signal}`,
    d: signalMark(jack.signal, x, y, r * 0.52),
  });
  shapes.push({ kind: 'text', lettering: 'name', ...jackNameAt(jack), size, text: jack.name });
  return shapes;
}

/** What a jack covers on the panel, name included. */
export function jackBox(jack: Jack): { x: number; y: number; width: number; height: number } {
  const r = jackRadius(jack);
  const half = Math.max(r + 5, 19);
  return { x: jack.place.x - half, y: jack.place.y - r - 5, width: 2 * half, height: 2 * r + 25 };
}
