import {
  centsBetween,
  hzToMidi,
  midiToHz,
  midiToNote,
  type SoundFacts,
  type Modulation,
} from '@hurrel/core';

/** Facts of a sound in words, in the order in which they are asked for. */
export function tellFacts(facts: SoundFacts): { name: string; text: string }[] {
  const { pitch, envelope } = facts;
  return [
    { name: 'Pitch', text: pitch ? tellPitch(pitch.hz) : 'no clear pitch' },
    ...(pitch ? [{ name: 'Sure of it', text: `${Math.round(100 * pitch.confidence)} %` }] : []),
    { name: 'Loudness', text: `${facts.loudness.toFixed(1)} LUFS` },
    { name: 'Peak', text: `${facts.peak.toFixed(1)} dB` },
    { name: 'Brightness', text: hertz(facts.centroid) },
    ...(facts.overNoise === undefined
      ? []
      : [{ name: 'Over noise', text: `${facts.overNoise.toFixed(0)} dB` }]),
    { name: 'Attack', text: time(envelope.attack) },
    { name: 'Decay', text: envelope.decay > 0 ? time(envelope.decay) : 'none' },
    {
      name: 'Sustain',
      text: envelope.sustain < -60 ? 'none' : `${envelope.sustain.toFixed(1)} dB`,
    },
    {
      name: 'Release',
      text: `${envelope.outlasts ? 'over ' : ''}${time(envelope.release)}`,
    },
    { name: 'Vibrato', text: swing(facts.vibrato, (d) => `${d.toFixed(0)} cents`) },
    { name: 'Tremolo', text: swing(facts.tremolo, (d) => `${d.toFixed(1)} dB`) },
    { name: 'Filter moves', text: swing(facts.sweep, (d) => `${d.toFixed(2)} oct`) },
    { name: 'Beats', text: facts.beats ? `${facts.beats.toFixed(2)} Hz` : 'none' },
    { name: 'Width', text: `${Math.round(100 * facts.width)} %` },
  ];
}

function tellPitch(hz: number): string {
  const midi = Math.round(hzToMidi(hz));
  const cents = centsBetween(hz, midiToHz(midi));
  const off =
    Math.abs(cents) < 0.5 ? '' : ` ${cents > 0 ? '+' : '−'}${Math.abs(cents).toFixed(0)} ct`;
  return `${midiToNote(midi)}${off}, ${hertz(hz)}`;
}

const hertz = (hz: number): string =>
  hz >= 1000 ? `${(hz / 1000).toFixed(2)} kHz` : `${hz.toFixed(1)} Hz`;
/** The window that levels are read with. */
const FINEST = 0.004;
const time = (seconds: number): string =>
  seconds < FINEST
    ? '< 4 ms'
    : seconds < 1
      ? `${Math.round(1000 * seconds)} ms`
      : `${seconds.toFixed(2)} s`;
const swing = (of: Modulation | undefined, depth: (d: number) => string): string =>
  of ? `${of.rate.toFixed(2)} Hz, ±${depth(of.depth)}` : 'none';
