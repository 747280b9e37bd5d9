import { Injectable } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { blankPatch, instrumentSchema, type Work } from '@hurrel/core';
import curlewFile from '../../../../library/instruments/staithe-curlew.json';
import { workerOver } from '../../testing/worker';
import type { StageWorker, Telling, TellRequest } from './messages';
import { Tellings } from './tellings';

const face = instrumentSchema.parse(curlewFile);
const request = (id: string): TellRequest => ({
  face,
  patch: blankPatch(face, 'tried'),
  steps: [{ kind: 'movement', id } as Work],
});
/** Notes in the order in which they were asked for, each answered when it is let go. */
const asked: { id: string; answer: (note: Telling) => void; fail: () => void }[] = [];
const jobs: Pick<StageWorker, 'tell'> = {
  tell: ({ steps }) =>
    new Promise((answer, failed) =>
      asked.push({ id: steps[0]!.id, answer, fail: () => failed(new Error('gone')) }),
    ),
};
@Injectable()
class Tried extends Tellings {
  override start = () => workerOver(jobs).fake;
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
  TestBed.configureTestingModule({ providers: [Tried] });
});

describe('notes that tell most', () => {
  it('are worked out ahead, one after the other, and each once', async () => {
    const tellings = TestBed.inject(Tried);
    tellings.ahead([request('a'), request('b')]);
    expect(await askedFor(1)).toEqual(['a']);
    asked[0]!.answer(note(40));
    expect(await askedFor(2)).toEqual(['a', 'b']);
    asked[1]!.answer(note(41));
    expect((await tellings.tell(request('a'))).note).toBe(40);
    expect((await tellings.tell(request('b'))).note).toBe(41);
    expect(asked).toHaveLength(2);
  });

  it('do not wait for those to come when they are asked for', async () => {
    const tellings = TestBed.inject(Tried);
    tellings.ahead([request('a'), request('b')]);
    await askedFor(1);
    const wanted = tellings.tell(request('c'));
    expect(await askedFor(2)).toEqual(['a', 'c']);
    asked[1]!.answer(note(50));
    expect((await wanted).note).toBe(50);
  });

  it('are tried again where one could not be worked out', async () => {
    const tellings = TestBed.inject(Tried);
    tellings.ahead([request('a'), request('b')]);
    await askedFor(1);
    asked[0]!.fail();
    expect(await askedFor(2)).toEqual(['a', 'b']);
    const again = tellings.tell(request('a'));
    await askedFor(3);
    asked[2]!.answer(note(60));
    expect((await again).note).toBe(60);
  });
});
