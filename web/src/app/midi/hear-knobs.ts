import { inject, untracked } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { type Control, controlHeard, type Heard } from '@hurrel/core';
import { MidiInService } from './midi-in.service';
import { PanelInputs } from './panel-inputs';

/**
 * Hears which controls of a panel are moved from now on, where the browser has been told that it may. What comes from where
 * nobody knows what is heard there is asked of. In an injection context.
 * @param panel empty where it is not told apart from another: then nothing is believed
 */
export function hearKnobs(
  panel: () => string,
  controls: () => readonly Control[],
  moved: (heard: Heard) => void,
): void {
  const midi = inject(MidiInService);
  const inputs = inject(PanelInputs);
  void midi.connectIfAllowed();
  midi.moved.pipe(takeUntilDestroyed()).subscribe((last) =>
    untracked(() => {
      const heard = controlHeard(controls(), last.cc, last.sent);
      const whose = heard && panel() ? inputs.isHeard(panel(), last) : 'no';
      if (whose === 'unknown') inputs.asked.set({ panel: panel(), moved: last });
      if (whose === 'yes') moved(heard!);
    }),
  );
}
