import { TestBed } from '@angular/core/testing';
import { jest } from '@jest/globals';
import { joinMarks, type Marks } from '@hurrel/core';
import { ApiError } from '../api/client';
import { Tab } from '../document/tab';
import type { Hears } from './open-line';
import { type Walk, WALK_API, type WalkApi } from './walk.api';
import { WalkLine } from './walk-line';

const WALK: Walk = {
  id: 'w',
  evening: 'e',
  kind: 'stage',
  before: {},
  createdAt: '2026-12-12T20:00:00.000Z',
  endedAt: null,
};
const settled = async (): Promise<void> => {
  for (let i = 0; i < 20; i++) await Promise.resolve();
};

/** A server with one walk, that can be out of reach, and devices that know it. */
function stage() {
  let marks: Marks = {};
  let sent = 0;
  const state = { away: false, refuses: '' };
  const listening = new Set<Hears>();
  const reach = (): void => {
    if (state.away) throw new ApiError(0, 'The server does not answer.');
    if (state.refuses) throw new ApiError(422, state.refuses);
  };
  const api: Partial<WalkApi> = {
    read: async () => (reach(), { walk: WALK, marks }),
    send: async (_, said) => {
      reach();
      sent++;
      marks = joinMarks(marks, said);
      for (const one of listening) if (!state.away) one.news(said);
      return Object.fromEntries(Object.keys(said).map((key) => [key, marks[key]!]));
    },
    hear: (_, hears) => {
      listening.add(hears);
      if (!state.away) hears.open();
      return () => listening.delete(hears);
    },
  };
  const device = (name: string): WalkLine => {
    TestBed.resetTestingModule();
    TestBed.configureTestingModule({
      providers: [
        WalkLine,
        { provide: WALK_API, useValue: api },
        { provide: Tab, useValue: { id: name } },
      ],
    });
    return TestBed.inject(WalkLine);
  };
  return {
    device,
    state,
    marks: () => marks,
    sent: () => sent,
    back: () => {
      state.away = false;
      for (const one of listening) one.open();
    },
  };
}

beforeEach(() => localStorage.clear());

describe('a walk on a device', () => {
  it('says at once, sends, and waits for nothing', async () => {
    const { device, marks } = stage();
    const line = device('one');
    await line.open('w');
    line.say('work/a/p/x', 'done', { person: 'low', kind: 'knob', seconds: 2 });
    expect(line.marks()['work/a/p/x']).toMatchObject({ value: 'done', device: 'one', clock: 1 });
    await settled();
    expect(line.waiting()).toBe(0);
    expect(marks()['work/a/p/x']).toMatchObject({ person: 'low', seconds: 2 });
  });

  it('keeps what is said while the server is away, and sends it when it is back', async () => {
    const { device, marks, state, back } = stage();
    const line = device('one');
    await line.open('w');
    state.away = true;
    line.say('work/a/p/x', 'done');
    line.say('work/a/p/y', 'later');
    await settled();
    expect(line.waiting()).toBe(2);
    expect(marks()).toEqual({});
    back();
    await settled();
    expect(line.waiting()).toBe(0);
    expect(Object.keys(marks())).toEqual(['work/a/p/x', 'work/a/p/y']);
  });

  it('tries by itself again', async () => {
    jest.useFakeTimers();
    try {
      const { device, marks, state } = stage();
      const line = device('one');
      await line.open('w');
      state.away = true;
      line.say('work/a/p/x', 'done');
      await settled();
      state.away = false;
      await jest.advanceTimersByTimeAsync(2500);
      expect(line.waiting()).toBe(0);
      expect(marks()['work/a/p/x']!.value).toBe('done');
    } finally {
      jest.useRealTimers();
    }
  });

  it('opens with no server on what it has kept, a closed page’s ticks among it', async () => {
    const { device, marks, state } = stage();
    const before = device('one');
    await before.open('w');
    state.away = true;
    before.say('work/a/p/x', 'done');
    await settled();
    const after = device('another');
    await after.open('w');
    expect(after.error()).toBe('');
    expect(after.walk()?.id).toBe('w');
    expect(after.marks()['work/a/p/x']!.value).toBe('done');
    state.away = false;
    await after.open('w');
    await settled();
    expect(marks()['work/a/p/x']!.value).toBe('done');
    expect(after.waiting()).toBe(0);
  });

  it('without either it says so', async () => {
    const { device, state } = stage();
    state.away = true;
    const line = device('one');
    await line.open('w');
    expect(line.walk()).toBeNull();
    expect(line.error()).toContain('does not answer');
  });

  it('hears the others, and the later word holds', async () => {
    const { device, state, marks } = stage();
    const line = device('one');
    await line.open('w');
    line.say('work/a/p/x', 'done');
    await settled();
    const other = device('two');
    await other.open('w');
    expect(other.marks()['work/a/p/x']!.value).toBe('done');
    other.say('work/a/p/x', 'open');
    await settled();
    expect(marks()['work/a/p/x']).toMatchObject({ value: 'open', device: 'two' });
    expect(state.away).toBe(false);
  });

  it('tells what the server refuses, and goes on', async () => {
    const { device, state, sent } = stage();
    const line = device('one');
    await line.open('w');
    state.refuses = 'Send less at once.';
    line.say('work/a/p/x', 'done');
    await settled();
    expect(line.error()).toBe('Send less at once.');
    expect(line.marks()['work/a/p/x']!.value).toBe('done');
    expect(sent()).toBe(0);
  });
});
