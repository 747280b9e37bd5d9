import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import {
  addModule,
  copySections,
  exchangeModule,
  gapsFor,
  type Opening,
  openingsFor,
  type Instrument,
  moveModule,
  type Patch,
  takeModule,
  type Twin,
  twinsOf,
} from '@hurrel/core';
import { PickOnce } from '../ui/pick-once';

/** A change of the patch as a whole, and what was done. */
export interface SectionChange {
  patch: Patch;
  said: string;
}

/** What can be done with a section as a whole: copied to its twin, and in a cabinet moved, exchanged, taken out. */
@Component({
  selector: 'hur-section-tools',
  imports: [PickOnce],
  template: `
    @if (twins().length > 0) {
      <section aria-label="Copy this section">
        <h3>Make another like this</h3>
        <label>
          {{ nameOf(section()!) }} to
          <select #goalField class="form-select" (change)="goal.set(goalField.value)">
            @for (twin of twins(); track twin.id) {
              <option [value]="twin.id" [selected]="twin.id === target()">{{ twin.name }}</option>
            }
          </select>
        </label>
        @if (companions().length > 0) {
          <details>
            <summary>together with others, and the cables between them</summary>
            @for (pair of companions(); track pair.from) {
              <label class="tick">
                <input
                  type="checkbox"
                  class="form-check-input"
                  [checked]="along().has(pair.from)"
                  (change)="toggle(pair.from)"
                />
                {{ nameOf(pair.from) }} to {{ nameOf(pair.to) }}
              </label>
            }
          </details>
        }
        <button type="button" class="btn" (click)="copy()">Copy</button>
      </section>
    }
    @if (instrument().rack; as rack) {
      <section aria-label="Cabinet">
        @if (placed(); as one) {
          <h3>In the cabinet</h3>
          <p class="quiet">
            Row {{ one.row + 1 }}, {{ one.at }} from the left. Power off before a module is moved.
            It changes this patch's cabinet only: patches recorded before keep theirs.
          </p>
          <label>
            Move to
            <select #moveField class="form-select" (change)="move(moveField)">
              <option value="">stay</option>
              @for (gap of openings(); track gap.row + '.' + gap.at) {
                <option [value]="$index">
                  row {{ gap.row + 1 }}, {{ gap.at }} from the left{{ aside(gap) }}
                </option>
              }
            </select>
          </label>
          <label>
            Exchange for
            <select #exchangeField class="form-select" (change)="exchange(exchangeField)">
              <option value="">nothing else</option>
              @for (type of exchangeable(); track type.id) {
                <option [value]="type.id">{{ type.name }}</option>
              }
            </select>
          </label>
          <button type="button" class="btn" (click)="take()">Take it out</button>
        } @else if (section() === null) {
          <h3>Cabinet</h3>
          <label>
            Put in another module
            <select class="form-select" (hurPickOnce)="add($event)">
              <option value="">choose one for which there is room</option>
              @for (one of fitting(); track one.type.id) {
                <option [value]="one.type.id">{{ one.type.name }}{{ aside(one.opening) }}</option>
              }
            </select>
          </label>
          <p class="quiet">
            {{ rack.types.length }} kinds; those for which no row has room are left out.
          </p>
        }
      </section>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 10px;
    }
    h3 {
      margin: 0 0 4px;
      color: var(--ink-2);
      font-size: 13px;
    }
    label {
      display: block;
      margin-bottom: 5px;
      color: var(--ink-2);
      font-size: 13px;
    }
    .tick {
      display: flex;
      gap: 6px;
      margin: 3px 0;
    }
    .form-select,
    .btn {
      padding-top: 4px;
      padding-bottom: 4px;
      font-size: 13.5px;
    }
    p,
    details {
      margin: 0 0 5px;
      font-size: 13px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SectionTools {
  readonly instrument = input.required<Instrument>();
  readonly patch = input.required<Patch>();
  readonly section = input<string | null>(null);
  readonly changed = output<SectionChange>();

  protected readonly goal = signal<string | null>(null);
  protected readonly along = signal<ReadonlySet<string>>(new Set());
  protected readonly twins = computed(() => {
    const section = this.section();
    return section ? twinsOf(this.instrument(), section) : [];
  });
  protected readonly target = computed(
    () => this.twins().find((t) => t.id === this.goal())?.id ?? this.twins()[0]?.id,
  );
  /** Other sections that could come along, each to a twin that is not taken. */
  protected readonly companions = computed<Twin[]>(() => {
    const used = new Set([this.section(), this.target()]);
    return this.instrument().sections.flatMap((s) => {
      if (used.has(s.id)) return [];
      const twin = twinsOf(this.instrument(), s.id).find((t) => !used.has(t.id));
      if (!twin) return [];
      used.add(s.id);
      used.add(twin.id);
      return [{ from: s.id, to: twin.id }];
    });
  });
  private readonly rackPlaced = computed(
    () => this.patch().rack ?? this.instrument().rack?.placed ?? [],
  );
  protected readonly placed = computed(() =>
    this.rackPlaced().find((p) => p.id === this.section()),
  );
  private readonly others = computed(() =>
    this.rackPlaced().filter((p) => p.id !== this.section()),
  );
  protected readonly openings = computed(() => {
    const one = this.placed();
    if (!one) return [];
    return openingsFor(this.instrument().rack!, this.others(), one.type).filter(
      (g) => g.row !== one.row || g.at !== one.at,
    );
  });
  protected readonly exchangeable = computed(() => {
    const { rack } = this.instrument();
    const one = this.placed();
    if (!rack || !one) return [];
    return rack.types.filter(
      (t) =>
        t.id !== one.type &&
        gapsFor(rack, this.others(), t.id).some((g) => g.row === one.row && g.at === one.at),
    );
  });
  protected readonly fitting = computed(() => {
    const { rack } = this.instrument();
    if (!rack) return [];
    return rack.types.flatMap((type) => {
      // Where nothing need move comes first.
      const all = openingsFor(rack, this.rackPlaced(), type.id);
      const [opening] = all.sort((a, b) => a.aside.length - b.aside.length);
      return opening ? [{ type, opening }] : [];
    });
  });

  protected nameOf(id: string): string {
    return this.instrument().sections.find((s) => s.id === id)?.name ?? id;
  }

  protected toggle(id: string): void {
    const next = new Set(this.along());
    if (!next.delete(id)) next.add(id);
    this.along.set(next);
  }

  protected copy(): void {
    const [from, to] = [this.section()!, this.target()!];
    const twins = [{ from, to }, ...this.companions().filter((p) => this.along().has(p.from))];
    this.changed.emit({
      patch: copySections(this.instrument(), this.patch(), twins),
      said: `${twins.map((t) => this.nameOf(t.to)).join(', ')}: like ${twins.map((t) => this.nameOf(t.from)).join(', ')}.`,
    });
  }

  protected move(field: HTMLSelectElement): void {
    const opening = this.openings()[Number(field.value)];
    if (field.value === '' || !opening) return;
    field.value = '';
    const patch = moveModule(this.instrument(), this.patch(), this.section()!, opening);
    this.done(patch, `moved${this.aside(opening)}`);
  }

  protected exchange(field: HTMLSelectElement): void {
    if (field.value === '') return;
    const type = this.instrument().rack!.types.find((t) => t.id === field.value)!;
    this.done(
      exchangeModule(this.instrument(), this.patch(), this.section()!, type.id),
      `exchanged for ${type.name}`,
    );
  }

  protected take(): void {
    this.done(takeModule(this.instrument(), this.patch(), this.section()!), 'taken out');
  }

  protected add(kind: string): void {
    const found = this.fitting().find((f) => f.type.id === kind);
    if (!found) return;
    const { type, opening } = found;
    this.changed.emit({
      patch: addModule(this.instrument(), this.patch(), type.id, opening),
      said: `${type.name} put in: row ${opening.row + 1}, ${opening.at} from the left${this.aside(opening)}.`,
    });
  }

  /** What gives way, in words. */
  protected aside({ aside }: Opening): string {
    if (aside.length === 0) return '';
    const names = aside.map((p) => this.nameOf(p.id));
    return `, ${names.join(' and ')} ${names.length === 1 ? 'gives' : 'give'} way`;
  }

  private done(patch: Patch, what: string): void {
    this.changed.emit({ patch, said: `${this.nameOf(this.section()!)}: ${what}.` });
  }
}
