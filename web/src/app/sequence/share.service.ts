import { computed, DestroyRef, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { BAR, compile, keysRuleOf, type NoteShare, type Patch, shareOut } from '@hurrel/core';
import { SequenceService } from './sequence.service';

const NONE: ReadonlySet<number> = new Set();

/** Whether two patches differ in nothing but their patterns, so that they are one circuit. */
function sameCircuit(a: Patch | null | undefined, b: Patch | null | undefined): boolean {
  if (!a || !b) return a === b;
  return (Object.keys({ ...a, ...b }) as (keyof Patch)[]).every(
    (key) => key === 'patterns' || a[key] === b[key],
  );
}

const sameSet = (a: ReadonlySet<number>, b: ReadonlySet<number>): boolean =>
  a.size === b.size && [...a].every((v) => b.has(v));

/** Who gets which note of the shown pattern: worked out when nothing more urgent is to be done. */
@Injectable()
export class ShareService {
  private readonly sequence = inject(SequenceService);
  private readonly circuit = computed(() => this.sequence.patch(), { equal: sameCircuit });
  readonly rule = computed(() => {
    const [instrument, patch] = [this.sequence.instrument(), this.circuit()];
    return instrument && patch ? keysRuleOf(compile(instrument, patch)) : undefined;
  });
  readonly shares = signal<readonly NoteShare[]>([]);
  /** For each track the steps of which a note is never heard. */
  readonly silent = signal<readonly ReadonlySet<number>[]>([]);
  private timer: ReturnType<typeof setTimeout> | undefined;

  constructor() {
    effect(() => {
      this.sequence.pattern();
      this.rule();
      untracked(() => {
        clearTimeout(this.timer);
        this.timer = setTimeout(() => this.workOut(), 60);
      });
    });
    inject(DestroyRef).onDestroy(() => clearTimeout(this.timer));
  }

  silentOf(track: number): ReadonlySet<number> {
    return this.silent()[track] ?? NONE;
  }

  private workOut(): void {
    const [pattern, rule] = [this.sequence.pattern(), this.rule()];
    const shares = pattern && rule ? shareOut(pattern, rule, BAR * pattern.bars) : [];
    this.shares.set(shares);
    const before = this.silent();
    // Rows that show the same as before get the very set they have.
    this.silent.set(
      (pattern?.tracks ?? []).map((_, track) => {
        const lost = shares.filter((s) => s.track === track && s.held > 0 && s.heard === 0);
        const steps = new Set(lost.map((s) => s.step));
        const known = before[track] ?? NONE;
        return sameSet(known, steps) ? known : steps;
      }),
    );
  }
}
