import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { type Song, type SongPatch, songPatchSchema } from '@hurrel/core';
import { SetDesk } from './set-desk';

/** Of one part of a song: who plays it, in which bars, from which bar on a hand is free, and whether it stays on its panel. */
@Component({
  selector: 'hur-play-details',
  template: `
    @let name = desk.patchName(play().patch);
    <details>
      <summary>{{ says() }}</summary>
      <div class="row">
        <label
          >played by
          <select #by class="form-select" (change)="change({ by: by.value || undefined })">
            <option value="">whoever moves it</option>
            @for (person of desk.evening()?.people; track person.id) {
              <option [value]="person.id" [selected]="person.id === play().by">
                {{ person.name }}
              </option>
            }
          </select>
        </label>
        <label
          >bars
          <input
            #from
            class="form-control mono"
            inputmode="numeric"
            [attr.aria-label]="'First bar of ' + name"
            [value]="play().from ?? ''"
            (change)="bar('from', from)"
        /></label>
        <label
          >to
          <input
            #to
            class="form-control mono"
            inputmode="numeric"
            [attr.aria-label]="'Last bar of ' + name"
            [value]="play().to ?? ''"
            (change)="bar('to', to)"
        /></label>
      </div>
      <div class="row">
        <label
          >free from bar
          <input
            #free
            class="form-control mono"
            inputmode="numeric"
            [attr.aria-label]="'A hand is free from this bar of ' + name"
            [value]="play().free?.bar ?? ''"
            (change)="freeFrom(free, hand.value)"
        /></label>
        <select
          #hand
          class="form-select"
          [attr.aria-label]="'Which hand of ' + name + ' is free'"
          (change)="freeFrom(free, hand.value)"
        >
          @for (one of hands; track one) {
            <option [value]="one" [selected]="(play().free?.hand ?? 'left') === one">
              {{ one === 'both' ? 'both hands' : one + ' hand' }}
            </option>
          }
        </select>
        <label class="check"
          ><input
            #locked
            type="checkbox"
            class="form-check-input"
            [checked]="play().locked"
            (change)="change({ locked: locked.checked })"
          />
          stays on this panel</label
        >
      </div>
    </details>
  `,
  styles: `
    summary {
      color: var(--ink-2);
      font-size: 14px;
    }
    .row {
      display: flex;
      flex-wrap: wrap;
      gap: 6px 10px;
      align-items: center;
      margin: 6px 0;
    }
    label {
      display: flex;
      gap: 6px;
      align-items: center;
    }
    select {
      width: auto;
    }
    input.form-control {
      width: 58px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PlayDetails {
  readonly song = input.required<Song>();
  readonly at = input.required<number>();
  protected readonly desk = inject(SetDesk);
  protected readonly hands = ['left', 'right', 'both'] as const;
  protected readonly play = computed((): SongPatch => this.song().plays[this.at()]!);

  /** What of it is said already. */
  protected readonly says = computed(() => {
    const { by, from, to, free, locked } = this.play();
    const person = this.desk.evening()?.people.find((p) => p.id === by)?.name;
    const bars = from || to ? `bars ${from ?? 1} to ${to ?? 'the end'}` : '';
    const hand = free?.hand === 'both' ? 'both hands' : `${free?.hand} hand`;
    const said = [
      person,
      bars,
      free ? `${hand} free from bar ${free.bar}` : '',
      locked ? 'stays here' : '',
    ].filter(Boolean);
    return said.length > 0 ? said.join(', ') : 'who, which bars, when a hand is free';
  });

  protected change(changes: { [K in keyof SongPatch]?: SongPatch[K] | undefined }): void {
    const next = Object.fromEntries(
      Object.entries({ ...this.play(), ...changes }).filter(([, v]) => v !== undefined),
    );
    const read = songPatchSchema.safeParse(next);
    if (!read.success) return;
    const plays = this.song().plays.map((p, i) => (i === this.at() ? read.data : p));
    this.desk.changeSong(this.song().id, { plays });
  }

  protected bar(which: 'from' | 'to', field: HTMLInputElement): void {
    const value = wholeBar(field);
    const bars = { from: this.play().from, to: this.play().to, [which]: value ?? undefined };
    const backwards = (bars.to ?? Infinity) < (bars.from ?? 1);
    if (value === null || backwards) field.value = String(this.play()[which] ?? '');
    else this.change({ [which]: value });
  }

  protected freeFrom(field: HTMLInputElement, hand: string): void {
    const bar = wholeBar(field);
    if (bar === null) field.value = String(this.play().free?.bar ?? '');
    else
      this.change({
        free: bar === undefined ? undefined : { bar, hand: hand as 'left' | 'right' | 'both' },
      });
  }
}

/** A bar's number; undefined for nothing, null for what is none. */
function wholeBar(field: HTMLInputElement): number | undefined | null {
  const text = field.value.trim();
  if (text === '') return undefined;
  const number = Number(text);
  return Number.isInteger(number) && number >= 1 && number <= 10_000 ? number : null;
}
