import { computed, DestroyRef, effect, inject, Injectable, signal, untracked } from '@angular/core';
import {
  BAR,
  compile,
  keysRuleOf,
  type VoiceAssignment,
  type Patch,
  assignVoices,
} from '@hurrel/core';
import { SequenceService } from './sequence.service';

/** Steps of a track with notes that are never heard, and whether that is all of its notes. */
export type SilentSteps = ReadonlyMap<number, boolean>;

const NONE: SilentSteps = new Map();

/** Whether two patches differ in nothing but their patterns, so that they are one circuit. */
function sameCircuit(a: Patch | null | undefined, b: Patch | null | undefined): boolean {
  if (!a || !b) return a === b;
  return (Object.keys({ ...a, ...b }) as (keyof Patch)[]).every(
    (key) => key === 'patterns' || a[key] === b[key],
  );
}

const same = (a: SilentSteps, b: SilentSteps): boolean =>
  a.size === b.size && [...a].every(([step, all]) => b.get(step) === all);

/** Who gets which note of the shown pattern: worked out when nothing more urgent is to be done. */
@Injectable()
export class AssignmentService {
  private readonly sequence = inject(SequenceService);
  private readonly circuit = computed(() => this.sequence.patch(), { equal: sameCircuit });
  readonly rule = computed(() => {
    const [instrument, patch] = [this.sequence.instrument(), this.circuit()];
    return instrument && patch ? keysRuleOf(compile(instrument, patch)) : undefined;
  });
  readonly assigned = signal<readonly VoiceAssignment[]>([]);
  /** For each track the steps with notes that are never heard. */
  readonly silent = signal<readonly SilentSteps[]>([]);
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

  silentOf(track: number): SilentSteps {
    return this.silent()[track] ?? NONE;
  }

  private workOut(): void {
    const [pattern, rule] = [this.sequence.pattern(), this.rule()];
    const assigned = pattern && rule ? assignVoices(pattern, rule, BAR * pattern.bars) : [];
    this.assigned.set(assigned);
    const before = this.silent();
    // Rows that show the same as before get the very map they have.
    this.silent.set(
      (pattern?.tracks ?? []).map((_, track) => {
        const own = assigned.filter((s) => s.track === track && s.held > 0);
        const lost = own.filter((s) => s.heard === 0).map((s) => s.step);
        const heard = new Set(own.filter((s) => s.heard > 0).map((s) => s.step));
        const found = new Map(lost.map((step) => [step, !heard.has(step)]));
        const known = before[track] ?? NONE;
        return same(known, found) ? known : found;
      }),
    );
  }
}
