import { ChangeDetectionStrategy, Component, inject, output } from '@angular/core';
import type { Pattern } from '@hurrel/core';
import { SequenceService } from './sequence.service';

/** What the shown pattern is called, where it is stored, how long it is, and what follows it. */
@Component({
  selector: 'hur-pattern-facts',
  templateUrl: './pattern-facts.html',
  styleUrl: './pattern-facts.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PatternFacts {
  protected readonly sequence = inject(SequenceService);
  protected readonly pattern = this.sequence.pattern;
  readonly removed = output();

  protected change(changes: Partial<Pattern>): void {
    const pattern = this.pattern();
    if (pattern) this.sequence.edit({ ...pattern, ...changes });
  }

  protected clamp(value: number, low: number, high: number): number {
    return Math.min(high, Math.max(low, Math.round(value) || low));
  }

  protected setName(name: string): void {
    if (name.trim() !== '') this.change({ name: name.trim().slice(0, 80) });
  }

  protected setSlot(place: string): void {
    const pattern = this.pattern();
    if (!pattern) return;
    const { place: _, ...rest } = pattern;
    this.sequence.edit(
      place.trim() === '' ? rest : { ...rest, place: place.trim().toUpperCase().slice(0, 12) },
    );
  }

  protected setNext(next: string): void {
    const pattern = this.pattern();
    if (!pattern) return;
    const { next: _, ...rest } = pattern;
    this.sequence.edit(next === '' ? rest : { ...rest, next });
  }
}
