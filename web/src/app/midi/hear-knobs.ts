import { effect, inject, untracked } from '@angular/core';
import { type Control, controlHeard, type Heard } from '@hurrel/core';
import { MidiInService } from './midi-in.service';
import { PanelInputs } from './panel-inputs';

/**
 * Hears which controls of a panel are moved from now on, where the browser has been told that it may. What comes from where
 * nobody knows what is heard there waits for somebody to say it. In an injection context.
 */
export function hearKnobs(
  panel: () => string,
  controls: () => readonly Control[],
  moved: (heard: Heard) => void,
): void {
  const midi = inject(MidiInService);
  const inputs = inject(PanelInputs);
  void midi.connectIfAllowed();
  // What was moved before is nothing that happens here.
  let taken = untracked(midi.moved);
  effect(() => {
    const [last, of] = [midi.moved(), panel()];
    if (!last || last === taken) return;
    const heard = controlHeard(untracked(controls), last.cc, last.sent);
    const whose = heard ? inputs.isHeard(of, last) : 'no';
    if (whose === 'unknown') {
      untracked(() => inputs.asked.set({ panel: of, place: last, heard: heard! }));
      return;
    }
    taken = last;
    if (whose === 'yes') untracked(() => moved(heard!));
  });
}
