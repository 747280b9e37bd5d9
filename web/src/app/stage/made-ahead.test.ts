import { jest } from '@jest/globals';
import { Injectable } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { blankPatch, instrumentSchema, unitFace, type Work } from '@hurrel/core';
import curlewFile from '../../../../library/instruments/staithe-curlew.json';
import { workerOver } from '../../testing/worker';
import { MadeAhead } from './made-ahead';
import type { Sound, StageWorker, Telling, TellRequest } from './messages';

const face = instrumentSchema.parse(curlewFile);
const request = (id: string): TellRequest => ({
  face,
  patch: blankPatch(face, 'tried'),
  steps: [{ kind: 'movement', id } as Work],
});
/** Notes in the order in which they were asked for, each answered when it is let go. */
const asked: { id: string; answer: (note: Telling) => void; fail: () => void }[] = [];
const jobs: Pick<StageWorker, 'tell' | 'sound'> = {
  tell: ({ steps }) =>
    new Promise((answer, failed) =>
      asked.push({ id: steps[0]!.id, answer, fail: () => failed(new Error('gone')) }),
    ),
  sound: ({ note }) =>
    new Promise((answer, failed) =>
      asked.push({
        id: `key ${note}`,
        answer: (made) => answer(made.sound),
        fail: () => failed(new Error('gone')),
      }),
    ),
};
/** How many workers were started: one for each note, before it is asked for. */
let started = 0;
@Injectable()
class Tried extends MadeAhead {
  override start = () => {
    started++;
    return workerOver(jobs).fake;
  };
}
const note = (n: number): Telling => ({
  note: n,
  heard: [],
  unheard: [],
  hiding: [],
  sound: { channels: [], sampleRate: 48000 },
});
const askedFor = async (count: number): Promise<string[]> => {
  while (asked.length < count) await new Promise((on) => setTimeout(on, 1));
  return asked.map((a) => a.id);
};

beforeEach(() => {
  asked.length = 0;
  started = 0;
  TestBed.configureTestingModule({ providers: [Tried] });
});
afterEach(() => jest.useRealTimers());

describe('notes that tell most', () => {
  it('are worked out ahead, one after the other, and each once', async () => {
    const made = TestBed.inject(Tried);
    made.ahead([request('a'), request('b')]);
    expect(await askedFor(1)).toEqual(['a']);
    asked[0]!.answer(note(40));
    expect(await askedFor(2)).toEqual(['a', 'b']);
    asked[1]!.answer(note(41));
    expect((await made.tell(request('a'))).note).toBe(40);
    expect((await made.tell(request('b'))).note).toBe(41);
    expect(asked).toHaveLength(2);
  });

  it('wait for a hand to rest, but not where one asks for them', async () => {
    jest.useFakeTimers();
    const made = TestBed.inject(Tried);
    made.moved();
    made.ahead([request('a')]);
    void made.tell(request('b'));
    await jest.advanceTimersByTimeAsync(300);
    expect(started).toBe(1);
    made.moved();
    await jest.advanceTimersByTimeAsync(399);
    expect(started).toBe(1);
    await jest.advanceTimersByTimeAsync(1);
    expect(started).toBe(2);
    // What a worker is told comes by a port of its own, in real time.
    jest.useRealTimers();
    expect((await askedFor(2)).sort()).toEqual(['a', 'b']);
  });

  it('do not wait for those to come when they are asked for', async () => {
    const made = TestBed.inject(Tried);
    made.ahead([request('a'), request('b')]);
    await askedFor(1);
    const wanted = made.tell(request('c'));
    expect(await askedFor(2)).toEqual(['a', 'c']);
    asked[1]!.answer(note(50));
    expect((await wanted).note).toBe(50);
  });

  it('are tried again where one could not be worked out', async () => {
    const made = TestBed.inject(Tried);
    made.ahead([request('a'), request('b')]);
    await askedFor(1);
    asked[0]!.fail();
    expect(await askedFor(2)).toEqual(['a', 'b']);
    const again = made.tell(request('a'));
    await askedFor(3);
    asked[2]!.answer(note(60));
    expect((await again).note).toBe(60);
  });

  it('are made in one row with keys that are only heard, each of its own', async () => {
    const made = TestBed.inject(Tried);
    const { face, patch } = request('a');
    const key = { face, patch, note: 45 };
    made.ahead([key, request('a'), { ...key, note: 46 }]);
    expect(await askedFor(1)).toEqual(['key 45']);
    asked[0]!.answer({ ...note(0), sound: { channels: [new Float32Array(3)], sampleRate: 8000 } });
    expect(await askedFor(2)).toEqual(['key 45', 'a']);
    asked[1]!.answer(note(40));
    expect(await askedFor(3)).toEqual(['key 45', 'a', 'key 46']);
    const heard: Sound = await made.sound(key);
    expect([heard.sampleRate, heard.channels[0]!.length]).toEqual([8000, 3]);
    expect(asked).toHaveLength(3);
  });

  it('are another for a unit whose dials come to something else', async () => {
    const made = TestBed.inject(Tried);
    const key = { face, patch: request('a').patch, note: 45 };
    const points = [{ at: 0.5, value: 900, against: 'tuner' as const }];
    const unit = unitFace(face, { calibration: { cutoff: points } });
    void made.sound(key);
    void made.sound({ ...key, face: unit });
    void made.sound({ ...key, face: { ...unit } });
    expect(await askedFor(2)).toEqual(['key 45', 'key 45']);
    expect(asked).toHaveLength(2);
  });
});
