import { applyMend } from '../circuit/doctor';
import { compile } from '../circuit/compile';
import type { Graph } from '../circuit/graph';
import type { Instrument } from '../instrument/schema';
import { initPositions, settingsAt } from '../patch/create';
import type { Patch } from '../patch/schema';
import { benchGraph, held } from '../testing/bench';
import { curlew, patchOn } from '../testing/panels';
import { sluice } from '../testing/sluice';
import { phraseToNotes } from '../pattern/timed';
import { checkup } from './checkup';
import { renderVerdict } from './rendered';
import { verdictsOf } from './verdicts';

const NOTES = [held(57, 0.4), held(60, 0.4, 0.5)];
const ids = (graph: Graph, notes = NOTES): string[] =>
  verdictsOf(graph, renderVerdict(graph, { notes, tempo: 120 }), true).map((f) => f.id);

/** Keys, an oscillator, an amplifier with an envelope, and whatever stands behind. */
const voice = (
  more: Parameters<typeof benchGraph>[0] = {},
  wires: string[] = ['amp.out > out.in'],
  osc: Record<string, number | string> = {},
  amp: Record<string, number | string> = {},
): Graph =>
  benchGraph(
    {
      keys: ['keyboard'],
      osc: ['oscillator', osc],
      env: ['envelope', { release: 0.05 }],
      amp: ['amplifier', amp],
      out: ['output'],
      ...more,
    },
    [
      'keys.pitch1 > osc.pitch',
      'keys.gate > env.gate',
      'osc.out > amp.in',
      'env.out > amp.cv',
      ...wires,
    ],
    'out',
  );

describe('What is decided by what is heard', () => {
  it('nothing of a plain voice', () => expect(ids(voice())).toEqual([]));

  it('clipping: what goes over full scale', () => {
    const two = voice(
      {
        osc2: ['oscillator'],
        mix: ['mixer', { gain1: 1, gain2: 1 }],
        osc3: ['oscillator'],
        boost: ['attenuator', { gain: 1 }],
      },
      [
        'amp.out > mix.in1',
        'amp.out > mix.in2',
        'amp.out > mix.in3',
        'amp.out > mix.in4',
        'mix.out > out.in',
        'amp.out > out.in',
      ],
    );
    const heard = renderVerdict(two, { notes: NOTES, tempo: 120 });
    expect(heard.peak).toBeGreaterThan(0.5);
    expect(heard.over).toBeGreaterThan(1000);
    expect(ids(two)).toContain('clips:out');
  });

  it('an echo that gives back all it gets, and one that does not', () => {
    const echo = (feedback: number): Graph =>
      voice({ echo: ['delay', { feedback, mix: 50 }] }, ['amp.out > echo.in', 'echo.out > out.in']);
    expect(ids(echo(110))).toEqual(['endless:echo']);
    expect(ids(echo(50))).toEqual([]);
  });

  it('sound below hearing', () => {
    // Without a click at its ends: that would be heard.
    const soft = { env: ['envelope', { attack: 0.2, release: 0.3 }] as ['envelope', object] };
    const low = voice(soft as never, ['amp.out > out.in'], { octave: -24, wave: 'sine' });
    expect(ids(low, [held(6, 2)])).toEqual(['below-hearing:out']);
    expect(ids(low, [held(60, 0.8)])).toEqual([]);
  });

  it('hardly any sound', () => {
    const shut = voice({ less: ['attenuator', { gain: 0.001 }] }, [
      'amp.out > less.in',
      'less.out > out.in',
    ]);
    expect(ids(shut)).toEqual(['faint:out']);
  });
});

describe('On a panel', () => {
  const shut = (panel: Instrument): Patch => {
    const patch = { ...patchOn(panel), settings: settingsAt(initPositions(panel)) };
    const amounts = panel.controls.filter((c) => c.amount && !/volume|level/.test(c.id));
    const rest = Object.fromEntries(amounts.map((c) => [c.id, c.rest]));
    return {
      ...patch,
      settings: { ...patch.settings, ...settingsAt({ ...rest, cutoff: 0 }) },
    };
  };

  it.each([
    ['the Curlew', curlew],
    ['the Sluice', sluice],
  ])('a filter that is shut to hardly anything is told on %s, and mended', (_, panel) => {
    const patch = shut(panel);
    const told = checkup(panel, patch).filter((f) => f.severity === 'wrong');
    expect(told.length).toBeGreaterThan(0);
    const mend = told.find((f) => f.mend)!.mend!;
    const mended = applyMend(patch, mend);
    const notes = phraseToNotes(mended.phrase, mended.tempo);
    const heard = renderVerdict(compile(panel, mended), { notes, tempo: mended.tempo });
    expect(heard.loudest).toBeGreaterThan(-50);
  });
});
