import { type Session, sessionSchema } from '@hurrel/core';

/** The demo session: Eel Run in six passes, one instrument after the other. */
export function demoSession(idOf: (patch: string) => string): Session {
  const all = { intro: '', build: '', drop: '', out: '' };
  const { intro: _, ...later } = all;
  return sessionSchema.parse({
    format: 'hurrel-session',
    version: 1,
    name: 'Eel Run, for Skerrow Lock',
    song: 'Eel Run',
    tempo: 126,
    about:
      'Recorded in the wheelhouse the day before: drums first, then the line, the figure of eight, and glass on top.',
    parts: [
      { id: 'intro', name: 'introduction', bars: 4 },
      { id: 'build', name: 'build', bars: 4 },
      { id: 'drop', name: 'drop', bars: 8 },
      { id: 'out', name: 'out', bars: 4 },
    ],
    passes: [
      {
        id: 'kit',
        name: 'kit',
        patch: idOf('Eel Run kit'),
        pattern: 'run',
        plays: later,
        level: -3,
      },
      {
        id: 'turn',
        name: 'kit, turning',
        patch: idOf('Eel Run kit'),
        pattern: 'turn',
        plays: { intro: '' },
        level: -6,
      },
      {
        id: 'line',
        name: 'bass line',
        patch: idOf('Eel Run line'),
        pattern: 'bar-1',
        plays: later,
        level: -4,
      },
      {
        id: 'eight',
        name: 'figure of eight',
        patch: idOf('Eel Run eight'),
        pattern: 'eight',
        plays: { build: '', drop: '' },
        level: -9,
        pan: -0.4,
      },
      {
        id: 'glass',
        name: 'glass',
        patch: idOf('Eel Run glass'),
        pattern: 'glass',
        plays: { intro: '', drop: '', out: '' },
        level: -8,
        pan: 0.3,
      },
      {
        id: 'spark',
        name: 'spark',
        patch: idOf('Eel Run spark'),
        pattern: 'spark',
        plays: { drop: '' },
        level: -12,
        pan: 0.5,
      },
    ],
  });
}
