import { inject, untracked } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { type Instrument, placeOfProgram } from '@hurrel/core';
import { MidiInService } from './midi-in.service';
import { PanelInputs } from './panel-inputs';

/**
 * Asks whether it is this panel, of which a place of its memory was chosen where nobody knows what is heard there. Of what is
 * known all is heard by itself. In an injection context.
 */
export function askPlaces(panel: () => string, instrument: () => Instrument | undefined): void {
  const midi = inject(MidiInService);
  const inputs = inject(PanelInputs);
  midi.chosen.pipe(takeUntilDestroyed()).subscribe((chosen) =>
    untracked(() => {
      const memory = instrument()?.memory;
      if (!panel() || !memory || !placeOfProgram(memory, chosen)) return;
      if (inputs.isHeard(panel(), chosen) === 'unknown')
        inputs.asked.set({ panel: panel(), chosen });
    }),
  );
}
