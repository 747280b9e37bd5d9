import fc from 'fast-check';
import { anySteps } from '../testing/patterns';
import { patternSchema } from '../pattern/pattern';
import { patternCsv } from './csv';
import { formatSteps, parseSteps } from './text';

const read = (text: string) => {
  const reading = parseSteps(text, 36);
  if (!reading.ok) throw new Error(reading.error.message);
  return reading.steps;
};

describe('typed steps', () => {
  it('are notes, ties, rests and marks', () => {
    expect(read("c2 - . d#2'")).toEqual([
      { notes: [36] },
      { tie: true },
      {},
      { notes: [39], accent: true },
    ]);
    expect(read("c2~ d'~ | bb1 x:90*2?30% c3+e+g>0.2 x<0.1?2/4")).toEqual([
      { notes: [36], slide: true },
      { notes: [38], accent: true, slide: true },
      { notes: [34] },
      { notes: [36], velocity: 90, length: 2, condition: '30%' },
      { notes: [48, 52, 55], micro: 0.2 },
      { notes: [36], micro: -0.1, condition: '2/4' },
    ]);
  });

  it.each([
    ['c2 h2', 3, /"h2" is none of/],
    ['. -', 2, /no note to hold on/],
    ['c', 0, /needs an octave/],
    ['c2 '.repeat(65), 192, /64 steps/],
    ['c2 d2:200', 3, /velocities go from 1 to 127/],
    ['c2?5/4', 0, /round among its rounds/],
    ['c2?often', 0, /expected fill/],
    ['c2!', 0, /is none of/],
  ])('%s is refused at the place, with what was expected', (text, at, message) => {
    const reading = parseSteps(text);
    expect(reading.ok).toBe(false);
    if (reading.ok) return;
    expect(reading.error.at).toBe(at);
    expect(reading.error.message).toMatch(message);
  });

  it('never throw, whatever is typed', () => {
    fc.assert(fc.property(fc.string(), (text) => void parseSteps(text)));
  });

  it('are written as they are read', () => {
    fc.assert(
      fc.property(anySteps({ ownValues: false }), (steps) =>
        expect(read(formatSteps(steps))).toEqual(steps),
      ),
    );
  });
});

describe('a table of steps', () => {
  it('has a line for each step that holds something', () => {
    const pattern = patternSchema.parse({
      id: 'a',
      name: 'A',
      tracks: [
        {
          id: 'k',
          name: 'kick, low',
          steps: [
            { notes: [48] },
            {},
            { notes: [48, 50], ownValues: { decay: 0.4 }, condition: 'fill' },
          ],
        },
        { id: 'r', name: 'row', length: 2, rows: { up: [1, 2.5] } },
      ],
    });
    expect(patternCsv(pattern).split('\r\n')).toEqual([
      'track,step,notes,tie,velocity,length,accent,slide,condition,micro,own values,volts',
      '"kick, low",1,C3,,,,,,,,,',
      '"kick, low",3,C3 D3,,,,,,fill,,decay=0.4,',
      'row,1,,,,,,,,,,up=1',
      'row,2,,,,,,,,,,up=2.5',
      '',
    ]);
  });
});
