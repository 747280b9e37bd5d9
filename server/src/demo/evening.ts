import { type Evening, eveningSchema } from '@hurrel/core';

/**
 * The three nights: the first with longer breaks, the second with one that cannot be met as printed, the third after what was
 * learned there: the Estuary's sounds are stored before.
 */
export function demoEvenings(idOf: (patch: string) => string): Evening[] {
  const second = secondNight(idOf);
  return [
    {
      ...second,
      name: 'Skerrow Lock, the first night',
      place: 'Skerrow Lock, in the chamber',
      date: '2026-12-11',
      calls: { soundCheck: '17:00', doors: '19:00', begins: '19:45' },
      about: 'The lock is filled between the songs: nobody is in a hurry.',
      songs: second.songs.map((song, i) =>
        i === 0 ? song : { ...song, pause: 2 * song.pause + 60 },
      ),
    },
    second,
    {
      ...second,
      name: 'Tamsin Weir, the third night',
      place: 'Tamsin Weir, below the fall',
      date: '2026-12-13',
      about: 'As at Hallow Staithe, but for what was too quick there.',
      panels: second.panels.map((panel) =>
        panel.id === 'estuary' ? { ...panel, places: ['D13', 'D14', 'D15', 'D16'] } : panel,
      ),
    },
  ];
}

/** Twelve songs on seven panels, one in reserve. */
function secondNight(idOf: (patch: string) => string): Evening {
  const song = (
    id: string,
    name: string,
    pause: number,
    plays: Record<string, string>,
    more: { fixed?: true; note?: string; seconds?: number; kind?: 'reserve' } = {},
  ) => ({
    id,
    name,
    pause,
    plays: Object.entries(plays).map(([panel, patch]) => ({ panel, patch: idOf(patch) })),
    ...more,
  });
  return eveningSchema.parse({
    format: 'hurrel-set',
    version: 1,
    name: 'Hallow Staithe, the second night',
    place: 'Hallow Staithe, the upper deck',
    date: '2026-12-12',
    calls: { loadIn: '15:30', soundCheck: '17:30', doors: '20:00', begins: '21:00' },
    about: 'Doors at eight. The ferry leaves at midnight: no encore after that.',
    people: [
      { id: 'low', name: 'low keys', stands: 'stage left' },
      { id: 'high', name: 'high keys', stands: 'stage right' },
      { id: 'drums', name: 'boxes', stands: 'in the middle, behind the boxes' },
      { id: 'voice', name: 'voice' },
      { id: 'hands', name: 'stage hand', stands: 'behind the cabinet' },
    ],
    panels: [
      { id: 'sluice', name: 'Sluice', atStart: true, instrument: 'oxbow-sluice', by: 'low' },
      { id: 'reedbed', name: 'Reedbed', atStart: true, instrument: 'marram-reedbed', by: 'high' },
      { id: 'curlew', name: 'Curlew', atStart: true, instrument: 'staithe-curlew', by: 'drums' },
      {
        id: 'curlew-2',
        name: 'Curlew of the ferry',
        atStart: true,
        instrument: 'staithe-curlew',
        by: 'drums',
      },
      {
        id: 'shoal',
        name: 'Shoal',
        atStart: true,
        instrument: 'marram-shoal',
        by: 'drums',
        places: ['H15', 'H16'],
      },
      { id: 'estuary', name: 'Estuary', atStart: true, instrument: 'marram-estuary', by: 'high' },
      {
        id: 'lockgate',
        name: 'Lockgate',
        atStart: true,
        instrument: 'oxbow-lockgate',
        by: 'hands',
      },
    ],
    songs: [
      song(
        'winch',
        'Winch Room',
        1500,
        { sluice: 'Winch Room bass', curlew: 'Winch Room kit, kick', shoal: 'Winch Room riser' },
        { fixed: true, note: 'Begins in the dark: the kick alone for eight bars.' },
      ),
      song('boards', 'Winch Room, boards', 150, { sluice: 'Winch Room boards' }, { seconds: 210 }),
      song('gate', 'Night Lock, the gates', 60, {
        reedbed: 'Night Lock gates',
        curlew: 'Night Lock paddle',
      }),
      song('call', 'Night Lock, the call', 40, { estuary: 'Night Lock call' }),
      song('oars', 'Night Lock, oars', 20, {
        estuary: 'Night Lock oars',
        curlew: 'Winch Room, one voice',
      }),
      song(
        'loom',
        'Low Tide, the loom',
        300,
        { lockgate: 'Low Tide loom' },
        { seconds: 420, note: 'The cabinet plays by itself: everybody has both hands.' },
      ),
      song('surge', 'Winch Room, surge', 45, {
        shoal: 'Winch Room surge',
        curlew: 'Winch Room elbow',
      }),
      song('horn', 'Fog Signal', 90, { sluice: 'Fog Signal horn' }),
      song('bare', 'Fog Signal, the filter', 30, { curlew: 'Fog Signal, bare filter' }),
      song('numbers', 'Night Lock, numbers', 120, { estuary: 'Night Lock numbers' }),
      song('bellows', 'Night Lock, bellows', 90, { estuary: 'Night Lock bellows' }),
      song(
        'last',
        'Winch Room, once more',
        240,
        { sluice: 'Winch Room bass', shoal: 'Winch Room riser' },
        { fixed: true },
      ),
      song(
        'ferry',
        'Eel Run, if the ferry is late',
        60,
        { estuary: 'Eel Run glass' },
        { kind: 'reserve' },
      ),
    ],
  });
}
