import {
  byId,
  type Choose,
  type Difference,
  entryDifferences,
  fieldDifferences,
  type Keyed,
  type Merge,
  mergeDocuments,
  type ToldField,
} from '../document';
import { callNames, callsInOrder } from './calls';
import type { Evening, Song, StagePanel } from './schema';

const FIELDS: ToldField<Evening>[] = [
  ['name', 'Name', (s) => s.name],
  ['place', 'Place', (s) => s.place],
  ['date', 'Date', (s) => s.date ?? ''],
  ['calls', 'Call times', (s) => sayCalls(s)],
  ['about', 'About', (s) => s.about],
  ['people', 'People', (s) => s.people.map((p) => p.name).join(', ')],
];

const sayCalls = ({ calls }: Evening): string =>
  callsInOrder(calls)
    .map(({ kind, at }) => `${callNames[kind]} ${at}`)
    .join(', ');

const sayPanel = ({ name, by, also, side, unit }: StagePanel): string =>
  `${name}, moved by ${by ?? 'the first'}` +
  (unit ? ', a unit of its own' : '') +
  (also.length > 0
    ? `, ${also.map((a) => `${a.by} may help in ${a.walk} s${a.beside ? ', at the same time too' : ''}`).join(', ')}`
    : '') +
  (side ? `, at the ${side} hand` : '');

const saySong = (song: Song | undefined, at: number): string =>
  song
    ? `${at + 1}, ${song.plays.length} ${song.plays.length === 1 ? 'panel' : 'panels'}, ${song.pause} s before it${song.wished ? ', wished for' : ''}${song.fixed ? ', stays' : ''}`
    : 'none';

/** Differences from one state of a set to another: its fields, then panel by panel and song by song. */
export function eveningDifferences(before: Evening, after: Evening): Difference[] {
  const [songs, panels] = [
    byId([...before.songs, ...after.songs]),
    byId([...before.panels, ...after.panels]),
  ];
  const places = ({ songs: all }: Evening): Record<string, { song: Song; at: number }> =>
    Object.fromEntries(all.map((song, at) => [song.id, { song, at }]));
  return [
    ...fieldDifferences(FIELDS, before, after),
    ...entryDifferences(
      'panels',
      byId(before.panels),
      byId(after.panels),
      (id) => `Panel ${panels[id]?.name ?? id}`,
      (panel) => (panel ? sayPanel(panel) : 'none'),
    ),
    ...entryDifferences(
      'songs',
      places(before),
      places(after),
      (id) => `Song ${songs[id]?.name ?? id}`,
      (one) => saySong(one?.song, one?.at ?? 0),
    ),
  ];
}

const KEYED: Keyed<Evening> = {
  people: (person: { id: string }) => person.id,
  panels: (panel: { id: string }) => panel.id,
  songs: (song: { id: string }) => song.id,
};

/** Merges two changes of one set, song by song. */
export const mergeEvenings = (
  base: Evening | null,
  mine: Evening,
  theirs: Evening,
  choose?: Choose,
): Merge<Evening> => mergeDocuments(KEYED, base, mine, theirs, choose);
