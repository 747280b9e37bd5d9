import { beforeDoors, type Calls, callFaults, callsInOrder, songTimes } from './calls';
import { eveningSchema } from './schema';

const evening = (calls: Calls, songs: object[] = []) =>
  eveningSchema.parse({
    ...{ format: 'hurrel-set', version: 1, name: 'Skerrow Lock', calls },
    songs: songs.map((s, i) => ({ id: `s${i}`, name: `s${i}`, ...s })),
  });

describe('call times', () => {
  it.each<[string, Calls]>([
    ['none', {}],
    ['in their order', { loadIn: '16:00', soundCheck: '17:30', doors: '20:00', begins: '21:00' }],
    ['over midnight', { soundCheck: '18:00', doors: '23:00', begins: '00:30' }],
    ['two at the same time', { doors: '20:00', begins: '20:00' }],
  ])('hold: %s', (_, calls) => {
    expect(callFaults(calls)).toEqual([]);
    expect(callsInOrder(evening({ ...calls }).calls).map((c) => c.at)).toEqual(
      Object.values(calls),
    );
  });

  it('are told where they go round in a circle, and such a set is none', () => {
    const calls = { soundCheck: '17:30', doors: '17:00', begins: '21:00' };
    expect(callFaults(calls)).toEqual([
      { kind: 'begins', message: 'First song at 21:00 is before doors at 17:00.' },
    ]);
    const read = eveningSchema.safeParse({ ...evening({}), calls });
    expect(read.error?.issues.map((i) => i.path)).toEqual([['calls', 'begins']]);
    const late = eveningSchema.safeParse({ ...evening({}), calls: { doors: '24:00' } });
    expect(late.error?.issues[0]?.path).toEqual(['calls', 'doors']);
  });

  it('say how long there is before doors', () => {
    expect(beforeDoors({ soundCheck: '17:30', doors: '20:00' })).toBe(9000);
    expect(beforeDoors({ soundCheck: '23:30', doors: '00:15' })).toBe(2700);
    expect(beforeDoors({ doors: '20:00' })).toBeUndefined();
  });
});

describe('when songs begin', () => {
  const songs = [
    { seconds: 300, pause: 900 },
    { seconds: 240, pause: 60 },
    { seconds: 200, pause: 30, kind: 'reserve' },
    { seconds: 0, pause: 45 },
    { seconds: 100, pause: 60 },
  ];
  it('is counted from the first one, without what is in reserve, as far as lengths are known', () => {
    const times = songTimes(evening({ begins: '23:50' }, songs));
    expect([...times]).toEqual([
      ['s0', '23:50'],
      ['s1', '23:56'],
      // 6 min, then 240 s and 45 s: 10 min 45 s after the first.
      ['s3', '00:00'],
    ]);
  });

  it('is not known where nobody has said when the first does', () => {
    expect(songTimes(evening({ doors: '20:00' }, songs)).size).toBe(0);
  });
});
