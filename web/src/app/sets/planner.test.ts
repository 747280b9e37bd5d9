import {
  blankPatch,
  type Evening,
  eveningSchema,
  instrumentSchema,
  type Known,
  type Patch,
  planEvening,
  Ways,
} from '@hurrel/core';
import curlewFile from '../../../../library/instruments/staithe-curlew.json';
import { workerOver } from '../../testing/worker';
import { Cancelled } from '../workers/ask';
import { eveningJob } from './evening.job';
import type { EveningRequest } from './messages';
import { Planner } from './planner';

const instrument = instrumentSchema.parse(curlewFile);
const patch = (cutoff: number): Patch => ({
  ...blankPatch(instrument, `at ${cutoff}`),
  settings: { cutoff: { kind: 'set', value: cutoff } },
});
const library = {
  low: { patch: patch(0.2), instrument },
  high: { patch: patch(0.9), instrument },
};
const known: Known = { library, before: {}, times: {}, units: {} };
const evening = (pause: number): Evening =>
  eveningSchema.parse({
    format: 'hurrel-set',
    version: 1,
    name: 'Skerrow Lock',
    people: [{ id: 'low', name: 'low keys' }],
    panels: [{ id: 'c', name: 'Curlew', instrument: instrument.id, by: 'low', atStart: true }],
    songs: ['low', 'high', 'low'].map((p, i) => ({
      id: `s${i}`,
      name: p,
      pause,
      plays: [{ panel: 'c', patch: p }],
    })),
  });
const request = (pause: number): EveningRequest => ({ evening: evening(pause), ...known });

/** A planner over a worker whose answers are given by hand. */
function byHand() {
  const asked: { pause: number; known: boolean; answer: (name: string | Error) => void }[] = [];
  const started: ReturnType<typeof workerOver>[] = [];
  const job = {
    plan: (of: Evening, given?: Known) =>
      new Promise((done, failed) =>
        asked.push({
          pause: of.songs[0]!.pause,
          known: given !== undefined,
          answer: (name) => (name instanceof Error ? failed(name) : done(name)),
        }),
      ),
  };
  const planner = new Planner(() => {
    const one = workerOver(job);
    started.push(one);
    return one.fake;
  });
  const asks = async (count: number): Promise<void> => {
    while (asked.length < count) await new Promise((done) => setTimeout(done));
  };
  return { planner, asked, asks, started };
}

describe('a plan that is made in a worker that stays', () => {
  it('is the plan that is made anew', async () => {
    const worker = workerOver(eveningJob);
    const planner = new Planner(() => worker.fake);
    for (const pause of [60, 2, 30]) {
      const fresh = planEvening(
        evening(pause),
        new Ways(
          (p) => library[p as 'low'],
          () => undefined,
          () => undefined,
        ),
      );
      expect(await planner.plan(request(pause))).toEqual(fresh);
    }
    planner.close();
    expect(worker.state.ended).toBe(true);
  });

  it('is told what is known once, and again when that is another', async () => {
    const { planner, asked, asks } = byHand();
    const told = async (of: EveningRequest): Promise<boolean> => {
      const count = asked.length + 1;
      const plan = planner.plan(of);
      await asks(count);
      asked.at(-1)!.answer('plan');
      await plan;
      return asked.at(-1)!.known;
    };
    expect(await told(request(60))).toBe(true);
    expect(await told(request(2))).toBe(false);
    expect(await told({ ...request(2), times: {} })).toBe(true);
    expect(await told({ ...request(2), units: {} })).toBe(true);
    planner.close();
  });

  it('is overtaken by a newer one, and only the newest waits', async () => {
    const { planner, asked, asks } = byHand();
    const [first, second, third] = [1, 2, 3].map((pause) => planner.plan(request(pause)));
    await expect(second).rejects.toThrow(Cancelled);
    await asks(1);
    asked[0]!.answer('first');
    await expect(first).rejects.toThrow(Cancelled);
    await asks(2);
    expect(asked.map((a) => a.pause)).toEqual([1, 3]);
    asked[1]!.answer('third');
    expect(await third).toBe('third');
    planner.close();
  });

  it('goes on after what could not be planned, told all anew', async () => {
    const { planner, asked, asks, started } = byHand();
    const bad = planner.plan(request(1));
    await asks(1);
    asked[0]!.answer(new Error('A patch is broken.'));
    await expect(bad).rejects.toThrow('A patch is broken.');
    const good = planner.plan(request(2));
    await asks(2);
    expect(asked[1]!.known).toBe(true);
    // A worker that breaks down is begun anew.
    started[0]!.errors.dispatchEvent(Object.assign(new Event('error'), { message: 'no memory' }));
    await expect(good).rejects.toThrow('no memory');
    expect(started[0]!.state.ended).toBe(true);
    const last = planner.plan(request(3));
    await asks(3);
    expect([started.length, asked[2]!.known]).toEqual([2, true]);
    asked[2]!.answer('plan');
    expect(await last).toBe('plan');
    planner.close();
  });

  it('is given up when it is closed', async () => {
    const { planner, asks } = byHand();
    const under = planner.plan(request(1));
    await asks(1);
    planner.close();
    await expect(under).rejects.toThrow(Cancelled);
  });
});
