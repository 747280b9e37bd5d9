import { inject } from '@angular/core';
import { useShortcuts } from '../keys/shortcuts';
import { CompareService } from '../listen/compare.service';
import { TransportService } from '../transport/transport.service';
import { InstrumentDesk } from './instrument-desk';
import { TrialDesk } from './trial-desk';

/** Keys of a panel that is tried by ear: play, the other sound, and the chosen control up and down. */
export function trialKeys(): void {
  const [desk, trial] = [inject(InstrumentDesk), inject(TrialDesk)];
  const [transport, compare] = [inject(TransportService), inject(CompareService)];
  useShortcuts('Sound', [
    {
      keys: 'Space',
      says: 'Play, or stop',
      when: () => trial.on(),
      act: () => transport.toggle(),
    },
    {
      keys: 'F6',
      says: 'Hear the other sound, and back',
      when: () => trial.on(),
      act: () => compare.swap(),
    },
    ...[
      { keys: 'ArrowUp', says: 'Turn the control up', steps: 1 },
      { keys: 'ArrowDown', says: 'Turn the control down', steps: -1 },
    ].map(({ steps, ...key }) => ({
      ...key,
      when: () => trial.on() && desk.chosen() !== null,
      act: (event: KeyboardEvent) => {
        event.preventDefault();
        trial.nudge(steps);
      },
    })),
  ]);
}
