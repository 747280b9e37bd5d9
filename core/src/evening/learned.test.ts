import { curlew, patchOn } from '../testing/panels';
import { panelAtStart, planRebuild } from '../rebuild/plan';
import { isWork } from '../rebuild/step';
import { defaultTimes } from '../rebuild/time';
import {
  handKindOf,
  learnedTimes,
  practiceOf,
  REMEMBERED,
  slowOf,
  timedIn,
  type Timed,
} from './learned';
import type { OpenWork } from './open-work';
import type { Marks } from './walk';

const timed = (seconds: number[], kind: Timed['kind'] = 'knob', person = 'low'): Timed[] =>
  seconds.map((s, i) => ({
    person,
    kind,
    seconds: s,
    at: `2026-12-0${1 + (i % 9)}T10:00:00.000Z`,
    key: `work/a/s/${kind}${i}`,
  }));

describe('times that somebody needs', () => {
  it('are the stated ones until there are three movements, then their median', () => {
    expect(learnedTimes(timed([9, 9]), 'low')).toEqual({ times: defaultTimes, from: {} });
    const { times, from } = learnedTimes(timed([2, 9, 4]), 'low');
    expect(times).toEqual({ ...defaultTimes, knob: 4 });
    expect(from).toEqual({ knob: 3 });
    // An even number: between the two in the middle.
    expect(learnedTimes(timed([2, 4, 6, 30]), 'low').times.knob).toBe(5);
  });

  it('belong to one person and one kind', () => {
    const { times } = learnedTimes([...timed([1, 1, 1], 'cable'), ...timed([7, 7, 7])], 'low');
    expect(times).toMatchObject({ knob: 7, cable: 1, switch: defaultTimes.switch });
    expect(learnedTimes(timed([7, 7, 7]), 'high').times).toEqual(defaultTimes);
  });

  it('follow whoever gets quicker: only the last fifteen count', () => {
    const slow = Array.from({ length: 40 }, () => 9);
    const quick = Array.from({ length: REMEMBERED }, () => 2);
    expect(learnedTimes(timed([...slow, ...quick]), 'low').times.knob).toBe(2);
  });

  it('are read from what was ticked: what took a minute and more was no movement', () => {
    const mark = (seconds: number | undefined, value = 'done', at = 'T10:00:00.000Z') => ({
      value,
      clock: 1,
      device: 'd',
      at: `2026-12-01${at}`,
      person: 'low',
      kind: 'knob' as const,
      ...(seconds === undefined ? {} : { seconds }),
    });
    const marks: Marks = {
      'work/a/p/later': mark(3, 'done', 'T10:00:05.000Z'),
      'work/a/p/first': mark(2),
      'work/a/p/talk': mark(95),
      'work/a/p/open': mark(4, 'open'),
      'work/a/p/none': mark(undefined),
    };
    expect(timedIn([marks]).map((t) => t.seconds)).toEqual([2, 3]);
  });

  it('know knobs, switches and what is set by ear apart', () => {
    const goal = patchOn(curlew, { cutoff: 0.2, 'osc1-wave': 'pulse' });
    const wanted = {
      ...goal,
      settings: {
        ...goal.settings,
        resonance: {
          kind: 'range' as const,
          from: 0.4,
          to: 0.6,
          best: 0.5,
        },
      },
    };
    const steps = planRebuild(curlew, panelAtStart(curlew), wanted).steps.filter(isWork);
    const kindOf = (control: string) =>
      steps
        .filter((s) => s.kind === 'movement' && s.control === control)
        .map((s) => handKindOf(curlew, s))[0];
    expect(kindOf('cutoff')).toBe('knob');
    expect(kindOf('resonance')).toBe('knob');
    const switches = steps.filter((s) => handKindOf(curlew, s) === 'switch');
    expect(switches.length).toBeGreaterThan(0);
  });

  it('are told day by day against the stated ones', () => {
    const at = (day: number, seconds: number, kind: Timed['kind'] = 'knob'): Timed => ({
      person: 'low',
      kind,
      key: 'work/a/s/x',
      seconds,
      at: `2026-12-0${day}T10:00:00.000Z`,
    });
    const days = practiceOf([at(3, 3), at(1, 6), at(1, 9), at(1, 2, 'switch'), at(2, 5)], 'low');
    expect(days).toEqual([
      { day: '2026-12-01', ratio: 2, movements: 3 },
      { day: '2026-12-02', ratio: expect.closeTo(5 / 3), movements: 1 },
      { day: '2026-12-03', ratio: 1, movements: 1 },
    ]);
    expect(practiceOf([at(1, 3)], 'high')).toEqual([]);
  });

  it('that were much longer than planned are told, the slowest first', () => {
    const work = (id: string): OpenWork => ({
      key: id,
      song: 's',
      panel: 'p',
      person: 'low',
      step: {
        kind: 'movement',
        id,
        control: id,
        section: 'x',
        from: '0',
        to: '1',
        toValue: 1,
        seconds: 3,
      },
      early: false,
      during: false,
      left: false,
      state: 'done',
    });
    const mark = (seconds: number, value = 'done') => ({
      value,
      clock: 1,
      device: 'd',
      at: '2026-12-01T10:00:00.000Z',
      seconds,
    });
    const marks = { a: mark(5), b: mark(9), c: mark(4), d: mark(20, 'open') };
    const slow = slowOf(['a', 'b', 'c', 'd', 'e'].map(work), marks);
    expect(slow.map((s) => [s.work.key, s.seconds])).toEqual([
      ['b', 9],
      ['a', 5],
    ]);
  });
});
