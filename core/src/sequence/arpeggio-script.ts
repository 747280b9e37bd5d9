import { midiToNote } from '../theory/note';
import { type Arpeggio, type ArpeggioMode } from '../pattern/arpeggio';
import { blankTrack, PLAIN_ARPEGGIO } from '../pattern/blank';
import type { Track } from '../pattern/pattern';
import type { StepRate } from '../pattern/rate';

/** Something that is done to an arpeggiator. */
export type ArpeggioPress =
  | { button: 'mode'; mode: ArpeggioMode }
  | { button: 'octaves'; octaves: number }
  | { button: 'rate'; rate: StepRate }
  | { button: 'set'; of: 'swing' | 'gate'; value: number }
  | { button: 'hold' }
  /** Keys struck together, with hold on: they stay for so many steps, until the next ones are struck. */
  | { button: 'keys'; notes: number[]; steps: number };

/** An arpeggiator, as it understands what is done to it. */
export class ArpeggioBox {
  private state = { mode: 'up' as ArpeggioMode, octaves: 1, length: 0.75 };
  private rate: StepRate = '1/16';
  private swing = 50;
  private holding = false;
  private readonly chords: Arpeggio['chords'] = [];

  press(press: ArpeggioPress): void {
    switch (press.button) {
      case 'mode':
        this.state = { ...this.state, mode: press.mode };
        return;
      case 'octaves':
        this.state = { ...this.state, octaves: press.octaves };
        return;
      case 'rate':
        this.rate = press.rate;
        return;
      case 'set':
        if (press.of === 'swing') this.swing = press.value;
        else this.state = { ...this.state, length: press.value };
        return;
      case 'hold':
        this.holding = !this.holding;
        return;
      case 'keys':
        // Without hold nothing stays when the hands go.
        if (this.holding) this.chords.push({ notes: press.notes, steps: press.steps });
    }
  }

  /** What runs; nothing before keys were struck. */
  running(): Pick<Track, 'arpeggio' | 'rate' | 'swing'> {
    const arpeggio =
      this.chords.length === 0
        ? undefined
        : { ...PLAIN_ARPEGGIO, ...this.state, chords: this.chords.map((c) => ({ ...c })) };
    return { ...(arpeggio ? { arpeggio } : {}), rate: this.rate, swing: this.swing };
  }
}

/** What is done to an arpeggiator at its start, and what is then played, chord by chord. */
export interface ArpeggioGroup {
  title: string;
  told: string[];
  presses: ArpeggioPress[];
}

export function arpeggioGroups(track: Track): ArpeggioGroup[] {
  const { arpeggio } = track;
  if (!arpeggio) return [];
  const blank = blankTrack(track.id, track.name);
  const set: ArpeggioPress[] = [];
  const told: string[] = [];
  const give = (press: ArpeggioPress, words: string): void => {
    set.push(press);
    told.push(words);
  };
  if (arpeggio.mode !== 'up')
    give({ button: 'mode', mode: arpeggio.mode }, arpeggio.mode.replaceAll('-', ' '));
  if (arpeggio.octaves !== 1)
    give({ button: 'octaves', octaves: arpeggio.octaves }, `${arpeggio.octaves} octaves`);
  if (track.rate !== blank.rate)
    give({ button: 'rate', rate: track.rate }, `steps of ${track.rate}`);
  if (track.swing !== blank.swing)
    give({ button: 'set', of: 'swing', value: track.swing }, `swing ${track.swing} %`);
  if (arpeggio.length !== 0.75) {
    give(
      { button: 'set', of: 'gate', value: arpeggio.length },
      `gate ${Math.round(100 * arpeggio.length)} %`,
    );
  }
  give({ button: 'hold' }, 'hold on');
  return [
    { title: 'Arpeggiator', told, presses: set },
    {
      title: 'Keys',
      told: arpeggio.chords.map((c) => `${c.notes.map(midiToNote).join(' ')} for ${c.steps} steps`),
      presses: arpeggio.chords.map((c) => ({ button: 'keys', notes: c.notes, steps: c.steps })),
    },
  ];
}
