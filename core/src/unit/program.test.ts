import fc from 'fast-check';
import type { Memory } from '../instrument/memory';
import { runs } from '../testing/runs';
import { placeOfProgram, type Program } from './program';

type Slots = Extract<Memory, { kind: 'slots' }>;
const memory = (banks: number, slots: number, programs?: Slots['programs']): Slots => ({
  ...{ kind: 'slots', banks, slots, nameLength: 0 },
  ...(programs ? { programs } : {}),
});
const through = { counted: 'through', select: 'coarse' } as const;
const byBank = { counted: 'bank', select: 'fine' } as const;

describe('the place that a program stands for', () => {
  it.each<[string, Slots, Program, { bank: number; slot: number } | undefined]>([
    ['the first', memory(4, 16, through), { program: 0 }, { bank: 1, slot: 1 }],
    ['the last of a bank', memory(4, 16, through), { program: 15 }, { bank: 1, slot: 16 }],
    ['the next bank', memory(4, 16, through), { program: 16 }, { bank: 2, slot: 1 }],
    ['none behind the last', memory(4, 16, through), { program: 64 }, undefined],
    [
      'a second bank of MIDI',
      memory(10, 20, through),
      { program: 2, coarse: 1 },
      { bank: 7, slot: 11 },
    ],
    ['a bank of its own', memory(4, 16, byBank), { program: 3, fine: 2 }, { bank: 3, slot: 4 }],
    [
      'the first bank before one is selected',
      memory(4, 16, byBank),
      { program: 3 },
      { bank: 1, slot: 4 },
    ],
    [
      'what the other half says is left out',
      memory(4, 16, byBank),
      { program: 3, coarse: 2 },
      { bank: 1, slot: 4 },
    ],
    ['none beyond a bank', memory(4, 16, byBank), { program: 16, fine: 0 }, undefined],
    ['none of an instrument that does not tell', memory(4, 16), { program: 0 }, undefined],
  ])('is %s', (_, slots, program, place) => {
    expect(placeOfProgram(slots, program)).toEqual(place);
  });

  it('is none without a memory', () => {
    expect(placeOfProgram({ kind: 'none' }, { program: 0 })).toBeUndefined();
  });

  it('is each place once, as many as 128 banks of MIDI tell', () => {
    const sizes = {
      banks: fc.integer({ min: 1, max: 16 }),
      slots: fc.integer({ min: 1, max: 200 }),
    };
    fc.assert(
      fc.property(
        fc.record(sizes),
        fc.constantFrom(through, byBank),
        ({ banks, slots }, programs) => {
          const places = new Set<string>();
          for (let bank = 0; bank < 128; bank++)
            for (let program = 0; program < 128; program++) {
              const place = placeOfProgram(memory(banks, slots, programs), {
                program,
                [programs.select]: bank,
              });
              if (!place) continue;
              const name = `${place.bank}.${place.slot}`;
              const there = place.bank >= 1 && place.bank <= banks && place.slot >= 1;
              // One question a place: there are sixteen thousand.
              if (!there || place.slot > slots || places.has(name)) {
                throw new Error(`${name} is none of its places, or was there before.`);
              }
              places.add(name);
            }
          const told = programs.counted === 'bank' ? Math.min(slots, 128) : slots;
          expect(places.size).toBe(banks * told);
        },
      ),
      { numRuns: runs(10) },
    );
  });
});
