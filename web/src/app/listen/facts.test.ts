import type { SoundFacts } from '@hurrel/core';
import { tellFacts } from './facts';

const facts: SoundFacts = {
  seconds: 4,
  pitch: { hz: 441, confidence: 0.987 },
  overNoise: 41.6,
  centroid: 1234,
  envelope: { attack: 0.001, decay: 0, sustain: -0.4, release: 1.234, outlasts: false },
  peak: -6.02,
  loudness: -20.04,
  vibrato: { rate: 5.5, depth: 12.4 },
  width: 0.25,
};
const told = (of: SoundFacts): Record<string, string> =>
  Object.fromEntries(tellFacts(of).map((f) => [f.name, f.text]));

it('tells facts in the units that people speak of', () => {
  expect(told(facts)).toMatchObject({
    Pitch: 'A4 +4 ct, 441.0 Hz',
    'Sure of it': '99 %',
    Brightness: '1.23 kHz',
    Attack: '< 4 ms',
    Decay: 'none',
    Release: '1.23 s',
    Vibrato: '5.50 Hz, ±12 cents',
    Tremolo: 'none',
    Width: '25 %',
  });
});

it('says so when there is no pitch', () => {
  const found = told({ ...facts, pitch: undefined, overNoise: undefined });
  expect(found.Pitch).toBe('no clear pitch');
  expect(found).not.toHaveProperty('Over noise');
});

it('does not take the end of the recording for the end of the release', () => {
  const endless = { ...facts, envelope: { ...facts.envelope, release: 1.5, outlasts: true } };
  expect(told(endless)).toMatchObject({ Release: 'over 1.50 s' });
});
