import type { Value } from '../instrument/schema';
import type { Sequencer } from '../instrument/sequencer';
import type { Condition } from '../pattern/condition';
import type { Direction } from '../pattern/direction';
import { blankTrack } from '../pattern/blank';
import type { PatternStep, Track } from '../pattern/pattern';
import { REST, stepOf, withStep } from '../pattern/steps';
import type { StepRate } from '../pattern/rate';

/** Something that is done to a box of many tracks. */
export type TrackPress =
  | { button: 'track'; track: number }
  | { button: 'page'; page: number }
  /** A step key of the page: struck or silent. */
  | { button: 'step'; at: number }
  | { button: 'hold'; at: number }
  | { button: 'let-go' }
  | { button: 'clear' }
  /** With a step held: what it is given, in place of what it has. */
  | { button: 'keys'; notes: number[] }
  | { button: 'turn'; control: string; value: Value }
  | { button: 'condition'; condition: Condition }
  | { button: 'number'; of: 'micro' | 'length' | 'velocity'; value: number }
  | { button: 'mark'; mark: 'accent' | 'slide' | 'tie' }
  /** Of the track. */
  | { button: 'last'; steps: number }
  | { button: 'rate'; rate: StepRate }
  | { button: 'direction'; direction: Direction }
  | { button: 'set'; of: 'swing' | 'offset'; value: number }
  | { button: 'mute' };

/** A box of many tracks, as it understands presses. A struck step plays the track's lowest key until it is given others. */
export class TrackBox {
  readonly tracks: Track[];
  private readonly keys: number[];
  private readonly page: number;
  private track = 0;
  private from = 0;
  private held = -1;

  constructor(sequencer: Sequencer, names: readonly string[]) {
    this.page = pageOf(sequencer);
    this.tracks = names.map((name, i) => blankTrack(`t${i}`, name));
    this.keys = names.map((_, i) => lowestKey(sequencer, i));
  }

  press(press: TrackPress): void {
    const track = this.tracks[this.track]!;
    switch (press.button) {
      case 'track':
        this.track = press.track;
        this.from = 0;
        return;
      case 'page':
        this.from = press.page * this.page;
        return;
      case 'step': {
        const at = this.from + press.at;
        const struck = stepOf(track, at).notes !== undefined;
        return this.write(withStep(track, at, struck ? REST : { notes: [this.keys[this.track]!] }));
      }
      case 'hold':
        this.held = this.from + press.at;
        return;
      case 'let-go':
        this.held = -1;
        return;
      case 'clear':
        return this.write(blankTrack(track.id, track.name));
      case 'keys':
        return this.give({ notes: press.notes });
      case 'turn':
        return this.give({
          ownValues: { ...stepOf(track, this.held).ownValues, [press.control]: press.value },
        });
      case 'condition':
        return this.give({ condition: press.condition });
      case 'number':
        return this.give({ [press.of]: press.value });
      case 'mark':
        return this.give({ [press.mark]: true });
      case 'last':
        return this.write({ ...track, length: press.steps });
      case 'rate':
        return this.write({ ...track, rate: press.rate });
      case 'direction':
        return this.write({ ...track, direction: press.direction });
      case 'set':
        return this.write({ ...track, [press.of]: press.value });
      case 'mute':
        return this.write({ ...track, muted: !track.muted });
    }
  }

  private give(what: Partial<PatternStep>): void {
    const track = this.tracks[this.track]!;
    if (this.held < 0) return;
    this.write(withStep(track, this.held, { ...stepOf(track, this.held), ...what }));
  }

  private write(track: Track): void {
    this.tracks[this.track] = track;
  }
}

/** Steps that a box shows at once. */
export const pageOf = (sequencer: Sequencer): number => sequencer.page ?? 16;

/** Key that a struck step of a track plays. */
export const lowestKey = (sequencer: Sequencer, track: number): number =>
  sequencer.tracks[track]?.from ?? 60;
