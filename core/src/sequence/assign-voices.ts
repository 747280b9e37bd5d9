import type { Graph } from '../circuit/graph';
import { commonRule, noteFor, type NoteRule, sounding, type VoiceRule } from '../pattern/allocate';
import type { Pattern } from '../pattern/pattern';
import { PatternRun } from './run';

/** How an instrument's keys are shared out among its voices. */
export interface KeysRule {
  rule: VoiceRule;
  voices: number;
  /** Whether a key that is pressed while another is held starts no envelope. */
  legato: boolean;
}

/** The rule that a compiled patch plays by; undefined where each key has a circuit of its own, as drums do. */
export function keysRuleOf(graph: Graph): KeysRule | undefined {
  const node = graph.nodes.find((n) => n.kind === 'keyboard' || n.kind === 'voices');
  if (!node) return undefined;
  return {
    rule: node.params.rule as KeysRule['rule'],
    voices: node.kind === 'keyboard' ? 2 : Number(node.params.voices),
    legato: node.params.strokes === 'legato',
  };
}

interface Voice<Key> {
  key: Key | null;
  on: boolean;
  /** Number of the act that took it, or let it go. */
  since: number;
}

/**
 * Which voice plays which key while keys come and go. Mono rules and unison: all voices one key, and the one before again
 * when it is let go; low-and-high: every other voice the lowest, those between the highest; poly and paraphonic: the free voice
 * that rested longest, else the oldest; rotation: the next in turn.
 */
export class VoiceAssigner<Key extends { note: number }> {
  readonly voices: Voice<Key>[];
  readonly held: Key[] = [];
  private acts = 0;
  private turn: number;

  constructor(private readonly keys: KeysRule) {
    this.voices = Array.from({ length: keys.voices }, () => ({ key: null, on: false, since: 0 }));
    this.turn = keys.voices - 1;
  }

  private get together(): NoteRule | undefined {
    return commonRule(this.keys.rule, this.keys.voices);
  }

  press(key: Key): void {
    this.acts++;
    const again = this.held.findIndex((k) => k.note === key.note);
    if (again >= 0) this.held.splice(again, 1);
    this.held.push(key);
    if (this.together) this.assignAnew(this.together);
    else this.take(this.voices[this.choose(key.note)]!, key);
  }

  release(note: number): void {
    this.acts++;
    const at = this.held.findIndex((k) => k.note === note);
    if (at < 0) return;
    this.held.splice(at, 1);
    if (this.together && this.held.length > 0) return this.assignAnew(this.together);
    for (const voice of this.voices) {
      if (voice.on && (this.together || voice.key?.note === note)) {
        voice.on = false;
        voice.since = this.acts;
      }
    }
  }

  private take(voice: Voice<Key>, key: Key): void {
    voice.key = key;
    voice.on = true;
    voice.since = this.acts;
  }

  private assignAnew(rule: NoteRule): void {
    const notes = this.held.map((k) => k.note);
    this.voices.slice(0, sounding(rule, this.voices.length)).forEach((voice, v) => {
      const note = noteFor(notes, notes.length, rule, v);
      this.take(
        voice,
        this.held.find((k) => k.note === note)!,
      );
    });
  }

  private choose(note: number): number {
    const { voices } = this;
    if (this.keys.rule === 'rotation') return (this.turn = (this.turn + 1) % voices.length);
    const own = voices.findIndex((v) => v.key?.note === note);
    if (own >= 0) return own;
    let best = 0;
    voices.forEach((voice, v) => {
      const other = voices[best]!;
      if (other.on && !voice.on) best = v;
      else if (other.on === voice.on && voice.since < other.since) best = v;
    });
    return best;
  }
}

/** What became of a note that a pattern strikes. */
export interface VoiceAssignment {
  track: number;
  /** Step of the track, from 0. */
  step: number;
  note: number;
  /** Quarter note at which it is struck, and quarter notes that it is held and that any voice plays it. */
  beat: number;
  held: number;
  heard: number;
  /** Voices that took it when it was struck, from 0. */
  voices: number[];
  /** It is bound to the one before: no envelope starts. */
  tied: boolean;
}

/**
 * Who gets which note of a pattern, over so many quarter notes from its beginning.
 * @param seed of its chances
 */
export function assignVoices(
  pattern: Pattern,
  keys: KeysRule,
  beats: number,
  seed = 1,
): VoiceAssignment[] {
  const all: VoiceAssignment[] = [];
  const assigner = new VoiceAssigner<VoiceAssignment>(keys);
  // A voice of its own starts its envelope with each key.
  const together = commonRule(keys.rule, keys.voices) !== undefined;
  const steps = pattern.tracks.map(() => 0);
  let now = 0;
  const goOn = (beat: number): void => {
    const playing = new Set(assigner.voices.flatMap((v) => (v.on && v.key ? [v.key] : [])));
    for (const key of playing) key.heard += beat - now;
    for (const key of assigner.held) key.held += beat - now;
    now = beat;
  };
  const run = new PatternRun([pattern], seed);
  const sink = {
    step: (_beat: number, _pattern: number, track: number, step: number) =>
      void (steps[track] = step),
    press: (beat: number, note: number, _velocity: number, track: number) => {
      goOn(beat);
      const key: VoiceAssignment = {
        track,
        step: steps[track]!,
        note,
        beat,
        held: 0,
        heard: 0,
        voices: [],
        tied: keys.legato && together && assigner.held.some((k) => k.beat < beat),
      };
      all.push(key);
      assigner.press(key);
      assigner.voices.forEach((v, i) => v.key === key && key.voices.push(i));
    },
    release: (beat: number, note: number) => {
      goOn(beat);
      assigner.release(note);
    },
  };
  run.advance(beats, sink);
  run.stop(beats, sink);
  return all;
}
