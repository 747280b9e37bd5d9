import { effect, inject, untracked } from '@angular/core';
import { MidiInService } from './midi-in.service';

/**
 * Hears which controllers are moved from now on, where the browser has been told that it may. In an injection context.
 * @param moved called with the controller number and 0..127
 */
export function hearKnobs(moved: (cc: number, sent: number) => void): void {
  const midi = inject(MidiInService);
  void midi.connectIfAllowed();
  // What was moved before is nothing that happens here.
  let known = untracked(midi.moved);
  effect(() => {
    const last = midi.moved();
    if (!last || last === known) return;
    known = last;
    untracked(() => moved(last.cc, last.sent));
  });
}
