import { ChangeDetectionStrategy, Component, effect, input, output, signal } from '@angular/core';

/** Reads a number as people write it: a comma or a point, and either minus. Undefined when it is none. */
export function readNumber(text: string): number | undefined {
  const plain = text.trim().replace(',', '.').replace('−', '-');
  const value = plain === '' ? Number.NaN : Number(plain);
  return Number.isFinite(value) ? value : undefined;
}

/** A field for a number with its unit. What it cannot take stays in it, with what it expects. */
@Component({
  selector: 'hur-number-field',
  template: `
    <label>
      <span [class.visually-hidden]="quiet()">{{ label() }}</span>
      <input
        #field
        class="mono"
        [class.form-control]="!quiet()"
        [class.plain]="quiet()"
        inputmode="decimal"
        [style.width.ch]="width()"
        [attr.aria-invalid]="fault() ? true : null"
        [value]="value()"
        (change)="take(field)"
        (keydown.escape)="forget(field)"
      />
      @if (unit()) {
        <span class="quiet">{{ unit() }}</span>
      }
    </label>
    @if (fault()) {
      <span class="bad" role="alert">{{ fault() }}</span>
    }
  `,
  styleUrl: './number-field.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class NumberField {
  readonly label = input.required<string>();
  readonly value = input.required<number>();
  readonly min = input(-Infinity);
  readonly max = input(Infinity);
  readonly unit = input('');
  readonly whole = input(false);
  /** Characters it is wide. */
  readonly width = input(7);
  /** Its label is for those who listen, and its frame comes when it is touched. */
  readonly quiet = input(false);
  readonly taken = output<number>();
  protected readonly fault = signal('');

  constructor() {
    effect(() => {
      this.value();
      this.fault.set('');
    });
  }

  protected take(field: HTMLInputElement): void {
    const value = readNumber(field.value);
    const fits =
      value !== undefined &&
      value >= this.min() &&
      value <= this.max() &&
      (!this.whole() || Number.isInteger(value));
    const kind = this.whole() ? 'a whole number' : 'a number';
    this.fault.set(fits ? '' : `expected ${kind} from ${this.min()} to ${this.max()}`);
    if (fits && value !== this.value()) this.taken.emit(value);
    else if (fits) field.value = String(value);
  }

  protected forget(field: HTMLInputElement): void {
    field.value = String(this.value());
    this.fault.set('');
  }
}
