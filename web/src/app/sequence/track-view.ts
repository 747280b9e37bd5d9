import { computed, inject, Injectable } from '@angular/core';
import {
  conditionWords,
  controlName,
  formatValue,
  midiToNote,
  stepOf,
  velocityOf,
} from '@hurrel/core';
import { SequenceService } from './sequence.service';

/** What is to be seen of the track one stands on. */
@Injectable()
export class TrackView {
  private readonly sequence = inject(SequenceService);
  private readonly track = this.sequence.track;
  readonly kind = computed(() => {
    const track = this.track();
    if (this.sequence.sequencer()?.kind === 'rows') return 'rows';
    return track?.arpeggio ? 'arpeggio' : 'steps';
  });
  /** Tracks of one pitch are struck; others have notes to be drawn. */
  readonly melodic = computed(() => {
    const on = this.track()?.on;
    const own = this.sequence.sequencer()?.tracks.find((t) => t.id === on);
    return own === undefined || own.from !== own.to;
  });
  /** What of the shown track has a value of its own anywhere, as lanes. */
  readonly lanes = computed(() => {
    const [track, instrument] = [this.track(), this.sequence.instrument()];
    if (!track || !instrument) return [];
    const ids = new Set(track.steps.flatMap((s) => Object.keys(s.ownValues ?? {})));
    return [...ids].flatMap((id) => {
      const control = instrument.controls.find((c) => c.id === id);
      if (!control || 'positions' in control) return [];
      const values = track.steps.map((s) => {
        const value = s.ownValues?.[id];
        return typeof value === 'number' ? value : null;
      });
      return [{ id, name: controlName(instrument, control), values }];
    });
  });
  readonly velocities = computed(
    () => this.track()?.steps.map((s) => (s.notes ? velocityOf(s) / 127 : null)) ?? [],
  );
  /** Where one stands, in words. */
  readonly standing = computed(() => {
    const [track, instrument] = [this.track(), this.sequence.instrument()];
    if (!track) return '';
    const { step: at } = this.sequence.cursor();
    const step = stepOf(track, at);
    const words = [
      step.notes ? step.notes.map(midiToNote).join(' ') : step.tie ? 'held on' : 'silent',
      step.notes ? `velocity ${velocityOf(step)}` : '',
      step.accent ? 'accent' : '',
      step.slide ? 'slides on' : '',
      step.condition ? conditionWords(step.condition) : '',
      ...Object.entries(step.ownValues ?? {}).map(([id, value]) => {
        const control = instrument?.controls.find((c) => c.id === id);
        return control && instrument
          ? `${controlName(instrument, control)} ${formatValue(control, value)}`
          : id;
      }),
    ].filter(Boolean);
    return `${track.name}, step ${at + 1} of ${track.length}: ${words.join(', ')}`;
  });
}
