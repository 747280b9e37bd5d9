import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import {
  controlLabel,
  answer,
  cannotInFill,
  chordSetting,
  ghosts,
  hitsEvery,
  ownValuesAlong,
  parseReading,
  readChord,
  riserInFill,
  riserOf,
  rotated,
  type Setting,
  transposed,
} from '@hurrel/core';
import { Store } from '@ngrx/store';
import { PatchActions } from '../patch/patch.actions';
import { SequenceService } from './sequence.service';

/** What people do by counting, done for them: on the track and the step that one stands on. */
@Component({
  selector: 'hur-tools-panel',
  templateUrl: './tools-panel.html',
  styleUrl: './tools-panel.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ToolsPanel {
  protected readonly sequence = inject(SequenceService);
  private readonly store = inject(Store);
  protected readonly said = signal('');
  protected readonly track = this.sequence.track;

  /** Whether the track has steps of its own to work on. */
  protected readonly stepped = computed(
    () => !this.track()?.arpeggio && this.sequence.sequencer()?.kind !== 'rows',
  );
  protected readonly every = signal(3);
  protected readonly from = signal(1);
  protected readonly meets = computed(() => {
    const track = this.track();
    if (!track) return '';
    const { bars, meets, track: next } = hitsEvery(track, this.every(), this.from() - 1, {});
    const length = next.length === meets ? '' : ` The track becomes ${next.length} steps long.`;
    return `Meets the bar again after ${bars} ${bars === 1 ? 'bar' : 'bars'}, ${meets} steps.${length}`;
  });
  protected readonly others = computed(
    () => this.sequence.pattern()?.tracks.filter((t) => t.id !== this.track()?.id) ?? [],
  );
  protected readonly movable = this.sequence.movable;
  protected readonly bars = signal(4);
  protected readonly octaves = signal(2);
  protected readonly riser = computed(() => {
    const [instrument, patch] = [this.sequence.instrument(), this.sequence.patch()];
    return instrument && patch
      ? riserOf(instrument, patch, this.bars(), this.octaves())
      : undefined;
  });
  protected readonly riserNames = computed(() => {
    const [instrument, riser] = [this.sequence.instrument(), this.riser()];
    const name = (id: string): string => (instrument ? controlLabel(instrument, id) : id);
    return riser
      ? [riser.rate, riser.depth, ...riser.also].map(({ control }) => name(control))
      : [];
  });

  /** A chord that the chord oscillator shall play, as it is typed. */
  protected readonly chord = signal('Am7');
  protected readonly hasChords = computed(
    () => this.sequence.instrument()?.circuit.modules.some((m) => m.kind === 'chord') ?? false,
  );
  protected readonly chordFound = computed(() => {
    const [instrument, notes] = [this.sequence.instrument(), readChord(this.chord())];
    return instrument && notes ? chordSetting(instrument, notes) : undefined;
  });

  protected setChord(): void {
    const found = this.chordFound();
    if (!found) return;
    const settings = Object.fromEntries(
      Object.entries(found.settings).map(([id, value]) => [id, { kind: 'set' as const, value }]),
    );
    this.store.dispatch(PatchActions.setControls({ settings }));
    this.said.set(`Set on the panel: ${found.told}.`);
  }

  protected layEvery(): void {
    const track = this.track();
    if (!track) return;
    const hit = { notes: [this.sequence.ownNote(track)] };
    const result = hitsEvery(track, this.every(), this.from() - 1, hit);
    this.done(this.sequence.editTrack(result.track), this.meets());
  }

  protected layOwnValues(other: string, control: string, text: string, each: string): void {
    const [track, instrument] = [this.track(), this.sequence.instrument()];
    const along = this.others().find((t) => t.id === other);
    const found = instrument?.controls.find((c) => c.id === control);
    if (!track || !along || !found)
      return void this.said.set('Choose a track and a control first.');
    const reading = parseReading(text, found, undefined, this.sequence.patch()?.tempo);
    if (!reading.ok || reading.setting?.kind !== 'set') {
      return void this.said.set(`A reading of ${found.name} is needed.`);
    }
    const next = ownValuesAlong(track, along, control, reading.setting.value, Number(each) || 1);
    const laid = next.steps.filter((s) => s.ownValues?.[control] !== undefined).length;
    const longer = next.length > track.length ? ` The track is ${next.length} steps now.` : '';
    this.done(
      this.sequence.editTrack(next),
      `${laid} ${laid === 1 ? 'step' : 'steps'} owned.${longer}`,
    );
  }

  protected answerInFill(later: string): void {
    const track = this.track();
    if (track)
      this.done(this.sequence.editTrack(answer(track, Number(later) || 1)), 'Answered in fill.');
  }

  protected ghost(count: string, curve: string): void {
    const track = this.track();
    if (!track) return;
    const stroke = this.sequence.cursor().step;
    const next = ghosts(track, stroke, Number(count) || 3, 18, Number(curve) || 1.5);
    if (next === track)
      return void this.said.set('Stand on a stroke first: a step that is struck.');
    this.done(this.sequence.editTrack(next), `Led up to step ${stroke + 1}.`);
  }

  protected transpose(semitones: number): void {
    const track = this.track();
    const next = track && transposed(track, semitones);
    if (next) this.done(this.sequence.editTrack(next), '');
    else this.said.set('A note would leave the range of MIDI.');
  }

  protected rotate(by: number): void {
    const track = this.track();
    if (track) this.done(this.sequence.editTrack(rotated(track, by)), '');
  }

  /** Puts the riser's numbers on the panel. */
  protected setRiser(depth = this.riser()?.depth.value): void {
    const riser = this.riser();
    if (!riser || depth === undefined) return;
    const settings: Record<string, Setting> = {
      [riser.rate.control]: { kind: 'set', value: riser.rate.value },
      [riser.depth.control]: { kind: 'set', value: depth },
      ...Object.fromEntries(
        riser.also.map(({ control, value }) => [control, { kind: 'set' as const, value }]),
      ),
    };
    this.store.dispatch(PatchActions.setControls({ settings }));
    this.said.set('Set on the panel.');
  }

  /** What keeps the riser from being one for fills alone; empty when nothing does. */
  protected readonly notInFill = computed(() => {
    const [instrument, riser] = [this.sequence.instrument(), this.riser()];
    return instrument && riser ? cannotInFill(instrument, this.sequence.sequencer(), riser) : '';
  });

  /** Puts the riser's numbers on the panel with nothing that rises, and its depth on a hit that plays in fills alone. */
  protected setRiserInFill(): void {
    const [track, riser] = [this.track(), this.riser()];
    if (!track || !riser || this.notInFill() !== '') return;
    const { step } = this.sequence.cursor();
    const next = riserInFill(track, step, this.sequence.ownNote(track), riser);
    if (!this.sequence.editTrack(next)) return void this.said.set('');
    this.setRiser(riser.flat);
    this.said.set(`Set on the panel; it rises from step ${step + 1}, in fills alone.`);
  }

  private done(taken: boolean, words: string): void {
    this.said.set(taken ? words : '');
  }
}
