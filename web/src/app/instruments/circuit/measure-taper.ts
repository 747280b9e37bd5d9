import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import {
  type ContinuousControl,
  formatPhysical,
  type Measurable,
  type ModuleKind,
  noteToMidi,
  parseReading,
  type PhysicalUnit,
} from '@hurrel/core';
import { MeasureService } from '../../sound/measure.service';

/** How a note is recorded from which a value can be read. */
const WAYS: Record<Measurable, string> = {
  cutoff:
    'The filter whistling by itself, or noise alone through it with no resonance; no envelope on it.',
  attack: 'One note of one oscillator, from its first moment.',
  decay: 'One note with the sustain at nothing, held until it has died away.',
  sustain: 'One note, held until its level stays.',
  release: 'One note, let go after a while, recorded until nothing is heard.',
  rate: 'A held note whose pitch or level the LFO moves, for a few cycles.',
  pitch: 'A held note of this oscillator alone.',
};

/** Reads what a control comes to off a recording of the instrument, place by place. */
@Component({
  selector: 'hur-measure-taper',
  providers: [MeasureService],
  templateUrl: './measure-taper.html',
  styleUrl: './binding-editor.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MeasureTaper {
  readonly control = input.required<ContinuousControl>();
  readonly what = input.required<Measurable>();
  readonly kind = input.required<ModuleKind>();
  readonly unit = input.required<PhysicalUnit>();
  readonly linear = input(false);
  /** A measured place, as it is written: `5 is 612 Hz`. */
  readonly found = output<string>();

  private readonly service = inject(MeasureService);
  protected readonly place = signal('');
  protected readonly held = signal(2);
  protected readonly note = signal('C3');
  protected readonly busy = signal(false);
  protected readonly says = signal('');
  protected readonly fault = signal('');
  protected readonly way = computed(() => WAYS[this.what()]);
  protected readonly asksHeld = computed(() =>
    ['decay', 'sustain', 'release'].includes(this.what()),
  );
  protected readonly asksNote = computed(() => this.what() === 'pitch');
  protected readonly placeFault = computed(() => {
    if (this.place().trim() === '') return 'Say where the control stood.';
    const read = parseReading(this.place(), this.control());
    return read.ok ? '' : read.message;
  });
  protected readonly noteFault = computed(() =>
    this.asksNote() && noteToMidi(this.note()) === undefined ? 'A note is written like C3.' : '',
  );

  protected async take(field: HTMLInputElement): Promise<void> {
    const file = field.files?.[0];
    field.value = '';
    if (!file || this.busy()) return;
    this.fault.set('');
    this.busy.set(true);
    this.says.set(`Measuring ${file.name}`);
    try {
      const wav = new Uint8Array(await file.arrayBuffer());
      const note = noteToMidi(this.note());
      const played = {
        ...{ kind: this.kind(), linear: this.linear(), held: this.held() },
        ...(note === undefined ? {} : { note }),
      };
      const measured = await this.service.value({ wav, what: this.what(), played });
      if (measured.ok) {
        const value = this.written(measured.value);
        this.says.set(`${this.place()} is ${value}, from ${measured.how} of ${file.name}`);
        this.found.emit(`${this.place().trim()} is ${value}`);
        this.place.set('');
      } else this.refuse(`${file.name}: ${measured.message}`);
    } catch (error) {
      this.refuse(`${file.name} could not be measured: ${(error as Error).message}`);
    }
    this.busy.set(false);
  }

  /** In the parameter's unit. A pitch is measured in cents. */
  private written(value: number): string {
    const unit = this.unit();
    if (this.what() !== 'pitch') return formatPhysical(value, unit).replace(/,/g, '');
    const per: Partial<Record<PhysicalUnit, number>> = { st: 100, oct: 1200 };
    return `${(value / (per[unit] ?? 1)).toFixed(unit === 'cents' ? 1 : 3)} ${unit}`;
  }

  private refuse(message: string): void {
    this.says.set('');
    this.fault.set(message);
  }
}
