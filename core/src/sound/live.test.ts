import { changesBetween } from '../circuit/param-changes';
import type { Graph } from '../circuit/graph';
import { peakOf } from '../measure/level';
import { benchGraph } from '../testing/bench';
import { Act } from './key-feed';
import { type LiveMessage, silentMeter } from './live-message';
import { LiveSound, START_VOLUME } from './live';
import { render } from './render';

const RATE = 48000;
const tone = (params: Record<string, number | string> = {}, level = 1): Graph =>
  benchGraph(
    {
      keys: ['keyboard'],
      o: ['oscillator', { wave: 'sine', ...params }],
      e: ['envelope', { release: 0.01 }],
      a: ['amplifier'],
      out: ['output', { level }],
    },
    [
      'keys.pitch1 > o.pitch',
      'keys.gate > e.gate',
      'o.out > a.in',
      'e.out > a.cv',
      'a.out > out.in',
    ],
    'out',
  );
const blocks = (live: LiveSound, count: number): Float32Array => {
  const out = new Float32Array(count * 128);
  const right = new Float32Array(128);
  for (let b = 0; b < count; b++) live.process(out.subarray(b * 128, (b + 1) * 128), right, 128);
  return out;
};
const playing = (graph = tone()): LiveSound => {
  const live = new LiveSound(RATE);
  live.receive({ type: 'graph', side: 'a', graph, tempo: 120 });
  live.receive({ type: 'act', act: Act.press, note: 57, value: 100 });
  blocks(live, 40);
  return live;
};
/** Largest second difference: what a click has and a slow sine has not. */
const roughness = (sound: Float32Array): number => {
  let most = 0;
  for (let i = 2; i < sound.length; i++) {
    most = Math.max(most, Math.abs(sound[i]! - 2 * sound[i - 1]! + sound[i - 2]!));
  }
  return most;
};
const calm = roughness(blocks(playing(), 40));

describe('live sound', () => {
  it('starts low, is silent without keys, and stops when they are let go', () => {
    const live = new LiveSound(RATE);
    live.receive({ type: 'graph', side: 'a', graph: tone(), tempo: 120 });
    expect(peakOf(blocks(live, 10))).toBe(0);
    live.receive({ type: 'act', act: Act.press, note: 57, value: 100 });
    expect(peakOf(blocks(live, 40))).toBeCloseTo(0.5 * START_VOLUME, 2);
    live.receive({ type: 'act', act: Act.release, note: 57, value: 0 });
    blocks(live, 40);
    expect(peakOf(blocks(live, 10))).toBeLessThan(1e-4);
  });

  it('lets go of everything at once, the pedal too', () => {
    const live = playing();
    live.receive({ type: 'act', act: Act.pedal, note: 0, value: 1 });
    live.receive({ type: 'act', act: Act.release, note: 57, value: 0 });
    expect(peakOf(blocks(live, 40))).toBeGreaterThan(0.1);
    live.receive({ type: 'all-off' });
    blocks(live, 40);
    expect(peakOf(blocks(live, 10))).toBeLessThan(1e-4);
  });

  describe('hushed', () => {
    const echo = benchGraph(
      {
        keys: ['keyboard'],
        o: ['oscillator'],
        e: ['envelope', { release: 0.01 }],
        a: ['amplifier'],
        fx: ['delay', { feedback: 120, mix: 60 }],
        drone: ['oscillator', { wave: 'sine' }],
        out: ['output'],
      },
      [
        'keys.pitch1 > o.pitch',
        'keys.gate > e.gate',
        'o.out > a.in',
        'e.out > a.cv',
        'a.out > fx.in',
        'fx.out > out.in',
      ],
      'out',
    );
    const droning: Graph = {
      ...echo,
      edges: [
        ...echo.edges,
        { from: { node: 'drone', port: 'out' }, to: { node: 'out', port: 'in' }, signal: 'audio' },
      ],
    };

    it.each([
      ['an echo at its end stops', echo],
      ['a drone', droning],
    ])(
      '%s is silent within 50 ms, without a click, and stays so until the next key',
      (_, graph) => {
        const live = playing(graph);
        blocks(live, 400);
        live.receive({ type: 'act', act: Act.release, note: 57, value: 0 });
        expect(peakOf(blocks(live, 40))).toBeGreaterThan(0.05);
        live.receive({ type: 'hush' });
        const fading = blocks(live, 19);
        expect(Math.abs(fading.at(-1)!)).toBe(0);
        expect(peakOf(blocks(live, 800))).toBe(0);
        // What is turned or exchanged meanwhile wakes nothing.
        live.receive({
          type: 'turn',
          side: 'a',
          turns: [{ node: 'out', param: 'level', value: 0.5 }],
        });
        expect(peakOf(blocks(live, 40))).toBe(0);
        live.receive({ type: 'act', act: Act.press, note: 57, value: 100 });
        const again = blocks(live, 60);
        expect(peakOf(again)).toBeGreaterThan(0.02);
        expect(live.meter(silentMeter()).held).toBe(1);
      },
    );

    it('forgets what rang: only the new key is heard', () => {
      const live = playing(echo);
      blocks(live, 800);
      live.receive({ type: 'hush' });
      live.receive({ type: 'act', act: Act.press, note: 57, value: 100 });
      const fresh = new LiveSound(RATE);
      fresh.receive({ type: 'graph', side: 'a', graph: echo, tempo: 120 });
      fresh.receive({ type: 'act', act: Act.press, note: 57, value: 100 });
      expect(peakOf(blocks(live, 20))).toBeCloseTo(peakOf(blocks(fresh, 20)), 3);
    });

    it('plays again when something is played', () => {
      const live = playing();
      live.receive({ type: 'hush' });
      blocks(live, 40);
      const notes = [{ start: 0, duration: 0.5, note: 57, velocity: 100 }];
      live.receive({ type: 'play', notes });
      expect(peakOf(blocks(live, 40))).toBeGreaterThan(0.05);
    });
  });

  it('moves the volume without a click', () => {
    const live = playing();
    live.receive({ type: 'volume', volume: 0.5 });
    const sound = blocks(live, 40);
    expect(peakOf(sound.subarray(3000))).toBeCloseTo(0.25, 2);
    expect(roughness(sound)).toBeLessThan(4 * calm);
  });

  it('exchanges a patch for one of another make without a click, the key still held', () => {
    const live = playing();
    live.receive({ type: 'graph', side: 'a', graph: tone({ wave: 'triangle' }), tempo: 120 });
    const sound = blocks(live, 40);
    expect(peakOf(sound.subarray(3000))).toBeCloseTo(0.5 * START_VOLUME, 2);
    expect(roughness(sound.subarray(0, 700))).toBeLessThan(0.02 * START_VOLUME);
  });

  it('switches between two patches while a note sounds, without a click, at matched levels', () => {
    const live = playing();
    live.receive({ type: 'graph', side: 'b', graph: tone({}, 0.25), tempo: 120 });
    live.receive({ type: 'gain', side: 'b', gain: 4 });
    blocks(live, 40);
    live.receive({ type: 'hear', side: 'b' });
    const sound = blocks(live, 60);
    expect(peakOf(sound.subarray(6000))).toBeCloseTo(0.5 * START_VOLUME, 2);
    expect(roughness(sound)).toBeLessThan(4 * calm);
  });

  it('plays a recording of another rate round and round beside the patch', () => {
    const live = playing();
    const wave = Float32Array.from(
      { length: 24000 },
      (_, i) => 0.4 * Math.sin((2 * Math.PI * 100 * i) / 24000),
    );
    live.receive({ type: 'recording', side: 'b', left: wave, right: wave, sampleRate: 24000 });
    live.receive({ type: 'hear', side: 'b' });
    blocks(live, 20);
    const sound = blocks(live, 800);
    expect(peakOf(sound)).toBeCloseTo(0.4 * START_VOLUME, 2);
    const crossings = sound.filter((v, i) => i > 0 && v >= 0 && sound[i - 1]! < 0).length;
    expect(Math.abs(crossings - (100 * sound.length) / RATE)).toBeLessThanOrEqual(1);
  });

  it('guards the ears: nothing over its ceiling, and says how much it took', () => {
    const live = playing(tone({}, 2));
    live.receive({ type: 'volume', volume: 1 });
    live.receive({ type: 'gain', side: 'a', gain: 8 });
    expect(peakOf(blocks(live, 100))).toBeLessThanOrEqual(0.9 + 1e-6);
    const { peak, taken } = live.meter(silentMeter());
    expect(peak).toBeGreaterThan(2);
    expect(taken).toBeGreaterThan(0.5);
  });

  it('hears a turn within two blocks, and nothing else of the patch changes', () => {
    const graph = tone();
    const turned = tone({ fine: 30 });
    const turns = changesBetween(graph, turned)!;
    expect(turns).toEqual([{ node: 'o', param: 'fine', value: 30 }]);
    const [one, two] = [playing(graph), playing(graph)];
    one.receive({ type: 'turn', side: 'a', turns });
    const [a, b] = [blocks(one, 2), blocks(two, 2)];
    expect(a.findIndex((v, i) => v !== b[i])).toBeLessThan(128);
    expect(changesBetween(graph, tone({ wave: 'saw' }))).toBeNull();
  });

  it('plays a phrase sample by sample as a rendering would, again and again when told to', () => {
    const notes = [
      { start: 0.0101, duration: 0.05, note: 57, velocity: 100 },
      { start: 0.1, duration: 0.0333, note: 64, velocity: 100 },
    ];
    const live = new LiveSound(RATE);
    live.receive({ type: 'graph', side: 'a', graph: tone(), tempo: 120 });
    live.receive({ type: 'volume', volume: 1 });
    blocks(live, 100);
    live.receive({ type: 'play', notes, every: 0.2 });
    const played = blocks(live, 150);
    const wanted = render(tone(), { sampleRate: RATE, seconds: 0.2, notes }).samples;
    // The oscillator runs free: compare when the gates open and shut, not its phase.
    const loud = (sound: Float32Array): number => sound.findIndex((v) => Math.abs(v) > 0.001);
    expect(Math.abs(loud(played) - loud(wanted))).toBeLessThan(60);
    const second = played.subarray(0.2 * RATE);
    expect(Math.abs(loud(second) - loud(played))).toBeLessThan(60);
    live.receive({ type: 'stop' });
    blocks(live, 40);
    expect(peakOf(blocks(live, 100))).toBeLessThan(1e-4);
    expect(live.meter(silentMeter()).held).toBe(0);
  });

  it('lets sound from outside through the patch', () => {
    const graph = benchGraph(
      { x: ['external'], out: ['output'] },
      ['x.left > out.left', 'x.right > out.right'],
      'out',
    );
    const live = new LiveSound(RATE);
    live.receive({ type: 'graph', side: 'a', graph, tempo: 120 });
    const [left, right] = [new Float32Array(128), new Float32Array(128)];
    const [inLeft, inRight] = [new Float32Array(128).fill(0.5), new Float32Array(128).fill(-0.25)];
    live.process(left, right, 128, inLeft, inRight);
    // The sockets let go of what stands still, with a corner at 3 Hz.
    const left127 = START_VOLUME * Math.exp((-2 * Math.PI * 3 * 127) / RATE);
    expect(left[127]).toBeCloseTo(0.5 * left127, 5);
    expect(right[127]).toBeCloseTo(-0.25 * left127, 5);
  });

  describe('at the next bar', () => {
    const seconds = (live: LiveSound, length: number): Float32Array =>
      blocks(live, Math.round((length * RATE) / 128));
    const bar = (change: number, level: number): LiveMessage => ({
      type: 'at-bar',
      change,
      messages: [
        { type: 'stop' },
        { type: 'graph', side: 'a', graph: tone({}, level), tempo: 120, fresh: true },
        { type: 'play', notes: held, every: 2 },
      ],
    });
    const held = [{ start: 0, duration: 1.9, note: 57, velocity: 100 }];
    const round = (): LiveSound => {
      const live = new LiveSound(RATE);
      live.receive({ type: 'volume', volume: 1 });
      live.receive({ type: 'graph', side: 'a', graph: tone({}, 0.5), tempo: 120 });
      live.receive({ type: 'play', notes: held, every: 2 });
      return live;
    };

    it('another patch takes the place of one that goes round, and not before', () => {
      const live = round();
      seconds(live, 0.5);
      live.receive(bar(1, 0.25));
      expect(peakOf(seconds(live, 1.4))).toBeCloseTo(0.25, 2);
      expect(live.meter(silentMeter()).changed).toBe(0);
      seconds(live, 0.2);
      expect(live.meter(silentMeter()).changed).toBe(1);
      expect(peakOf(seconds(live, 1.5))).toBeCloseTo(0.125, 2);
    });

    it('or at once, when the bar is waited for no longer, nothing goes round, or it was made already', () => {
      const now = round();
      seconds(now, 0.5);
      now.receive(bar(1, 0.25));
      now.receive({ type: 'now' });
      seconds(now, 0.05);
      expect(peakOf(seconds(now, 1))).toBeCloseTo(0.125, 2);
      // Told of it after it was made: at once.
      now.receive(bar(1, 0.5));
      seconds(now, 0.05);
      expect(peakOf(seconds(now, 1))).toBeCloseTo(0.25, 2);
      const idle = new LiveSound(RATE);
      idle.receive({ type: 'volume', volume: 1 });
      idle.receive(bar(1, 0.25));
      seconds(idle, 0.05);
      expect(peakOf(seconds(idle, 1))).toBeCloseTo(0.125, 2);
    });

    it('the last one wished for, when two were', () => {
      const live = round();
      live.receive(bar(1, 0.25));
      live.receive(bar(2, 1));
      seconds(live, 2.1);
      expect(live.meter(silentMeter()).changed).toBe(2);
      expect(peakOf(seconds(live, 1))).toBeCloseTo(0.5, 2);
    });

    it('keys that are held go on in the newcomer', () => {
      const live = round();
      live.receive({ type: 'act', act: Act.press, note: 69, value: 100 });
      live.receive({ type: 'stop' });
      live.receive({ type: 'graph', side: 'a', graph: tone({}, 0.25), tempo: 120, fresh: true });
      seconds(live, 0.05);
      expect(peakOf(seconds(live, 0.5))).toBeCloseTo(0.125, 2);
    });
  });

  it('lets a recording go round beside the patch, both heard', () => {
    const live = playing();
    live.receive({ type: 'volume', volume: 1 });
    const left = new Float32Array(RATE).fill(0.2);
    live.receive({ type: 'recording', side: 'b', left, right: left, sampleRate: RATE });
    live.receive({ type: 'hear', side: 'both' });
    blocks(live, 40);
    const sound = blocks(live, 100);
    expect(Math.max(...sound)).toBeCloseTo(0.7, 2);
    expect(Math.min(...sound)).toBeCloseTo(-0.3, 2);
  });
});
