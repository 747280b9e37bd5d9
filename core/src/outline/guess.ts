import type { JackSignal } from '../instrument/jack';
import type { Kind, OutlineControl, OutlineJack, Stage } from './outline';

/** First that fits tells what a section is for. */
const STAGES: readonly (readonly [RegExp, Stage])[] = [
  [
    /\b(env|envelope|contour)\b.*\b(filter|cutoff|vcf)\b|\b(filter|vcf)\b.*\b(env|envelope|contour)\b/,
    'filter-envelope',
  ],
  [/\b(osc|oscillators?|vcos?|dcos?|operators?|sources?|noise|sub)\b/, 'oscillators'],
  [/\b(mix|mixer)\b/, 'mixer'],
  [/\b(filters?|vcfs?|low-pass|high-pass)\b/, 'filter'],
  [/\b(env|envelopes?|contours?|amp|amplifier|vcas?|loudness|level)\b/, 'amplifier'],
  [/\b(lfos?|mod|modulation|modulators?|matrix|sample)\b/, 'modulation'],
  [/\b(effects?|fx|delay|reverb|chorus|drive|phaser|distortion|echo)\b/, 'effects'],
  [/\b(keys?|keyboard|glide|voices?|arpeggiator|sequencer|clock|tempo)\b/, 'keys'],
  [/\b(wheels?|bend|hands?|performance|pedals?|controllers?|touch)\b/, 'performance'],
  [/\b(out|outputs?|master|volume|main|phones)\b/, 'output'],
];

/** What a section is for, by its name; modulation when nothing tells. */
export function guessStage(name: string): Stage {
  const words = name.toLowerCase();
  return STAGES.find(([pattern]) => pattern.test(words))?.[1] ?? 'modulation';
}

/** Whether its number stands on a display when nothing else is said. */
export const hasDisplay = (kind: Kind): boolean => kind === 'encoder' || kind === 'menu';

/** What a control is, by its name and what it has. */
export function guessKind({
  name,
  positions,
  display,
}: Pick<OutlineControl, 'name' | 'positions' | 'display'>): Kind {
  if (display) return 'encoder';
  if (positions) return positions.length === 2 ? 'toggle' : 'rotary';
  const words = name.toLowerCase();
  if (/\bwheel\b/.test(words)) return 'wheel';
  if (/\bpedal\b/.test(words)) return 'pedal';
  if (/\b(slider|fader)\b/.test(words)) return 'slider';
  return 'knob';
}

/** Whether a control is a depth, send or amount, by its name. */
export const guessAmount = ({
  name,
  positions,
}: Pick<OutlineControl, 'name' | 'positions'>): boolean =>
  !positions && /\b(amount|amt|depth|send|mod)\b|\bto\b\s|^to /.test(`${name.toLowerCase()} `);

/** Whether a knob without a scale rests in its middle. */
export const restsInMiddle = (name: string): boolean =>
  /\b(tune|fine|detune|pan|balance|interval|bend|pitch|transpose)\b/.test(name.toLowerCase());

/** What a jack carries, by its name. */
export function guessSignal({
  name,
  direction,
}: Pick<OutlineJack, 'name' | 'direction'>): JackSignal {
  const words = name.toLowerCase();
  if (/\bs-trig(ger)?\b/.test(words)) return 's-trigger';
  if (/\b(gate|trig|trigger)\b/.test(words)) return 'gate';
  if (/\b(clock|sync|reset|start)\b/.test(words)) return 'clock';
  if (/\b(pitch|v\/oct|1v|cv 1|key cv|kybd)\b/.test(words)) return 'pitch';
  if (/\b(audio|line|phones|main|left|right|ext|external|signal)\b/.test(words)) return 'audio';
  if (/\b(cv|mod|lfo|env|envelope|cutoff|width|pwm|wheel|velocity|pressure)\b/.test(words))
    return 'modulation';
  return direction === 'out' && /\bout\b/.test(words) ? 'audio' : 'modulation';
}
