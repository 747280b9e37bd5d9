import { allocate, type NoteRule } from '../../sequence/allocate';
import type { TimedNote } from '../../sequence/phrase';
import { midiToVolts } from '../../theory/pitch';
import type { Kernel, KernelContext } from '../kernel';
import { numberOf } from '../kernel';
import { SETTLED } from './envelope';

interface KeyEvent {
  sample: number;
  down: boolean;
  note: number;
  velocity: number;
}

/** Strokes and releases in order of time; at the same sample releases go first, so that a repeated key strikes anew. */
function keyEvents(notes: readonly TimedNote[], sampleRate: number): KeyEvent[] {
  return notes
    .flatMap((n) => {
      const start = Math.round(n.start * sampleRate);
      const end = Math.max(start + 1, Math.round((n.start + n.duration) * sampleRate));
      return [
        { sample: start, down: true, note: n.note, velocity: n.velocity },
        { sample: end, down: false, note: n.note, velocity: 0 },
      ];
    })
    .sort((a, b) => a.sample - b.sample || Number(a.down) - Number(b.down));
}

/**
 * The keys: who gets which note, gate and trigger, glide. `strokes: legato` gives no new trigger while another key is held.
 * Glide approaches each new pitch exponentially and has 1 % of the way left after its time.
 */
export function keyboard(context: KernelContext): Kernel {
  const rule = String(context.params.rule) as NoteRule;
  const legato = context.params.strokes === 'legato';
  const tune = numberOf(context, 'tune') / 1200;
  const glide = numberOf(context, 'glide');
  const slide = glide > 0 ? SETTLED ** (1 / Math.max(1, glide * context.sampleRate)) : 0;
  const pitches = [context.output('pitch1'), context.output('pitch2')];
  const gate = context.output('gate');
  const trigger = context.output('trigger');
  const velocityOut = context.output('velocity');
  const events = keyEvents(context.notes, context.sampleRate);
  const held: number[] = [];
  const goal = [tune, tune];
  const volts = [NaN, NaN];
  let next = 0;
  let now = 0;
  let velocity = 0;

  function take(event: KeyEvent): boolean {
    const at = held.indexOf(event.note);
    if (at >= 0) held.splice(at, 1);
    if (event.down) held.push(event.note);
    const voices = allocate(held, rule, 2);
    for (let v = 0; v < 2; v++) {
      const note = voices[v];
      if (note === null || note === undefined) continue;
      goal[v] = midiToVolts(note) + tune;
      // The first note of all is not glided to: there is nowhere to come from.
      if (Number.isNaN(volts[v])) volts[v] = goal[v]!;
    }
    if (event.down) velocity = (5 * event.velocity) / 127;
    return event.down && (held.length === 1 || !legato);
  }

  return {
    process(n) {
      for (let i = 0; i < n; i++, now++) {
        let stroke = false;
        while (next < events.length && events[next]!.sample <= now) {
          if (take(events[next++]!)) stroke = true;
        }
        for (let v = 0; v < 2; v++) {
          const distance = volts[v]! - goal[v]!;
          volts[v] =
            slide > 0 && Math.abs(distance) > 1e-7 ? goal[v]! + distance * slide : goal[v]!;
          pitches[v]![i] = volts[v]!;
        }
        gate[i] = held.length > 0 ? 5 : 0;
        trigger[i] = stroke ? 5 : 0;
        velocityOut[i] = velocity;
      }
    },
  };
}
