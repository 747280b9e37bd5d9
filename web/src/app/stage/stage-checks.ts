import { computed, inject, Injectable } from '@angular/core';
import type { Work } from '@hurrel/core';
import type { TellRequest } from './messages';
import { StageDesk } from './stage-desk';

/** What one key can tell: whether the panels stand as a song wants them. */
@Injectable()
export class StageChecks {
  private readonly stage = inject(StageDesk);

  /** What of this break can be checked by a key, panel by panel. */
  readonly all = computed(() => {
    const all = this.stage.work().filter((w) => w.song === this.stage.song()?.id);
    return this.stage.plays().flatMap(({ panel }) => {
      const work = all.filter((w) => w.panel === panel);
      return work.length > 0 ? [{ panel, work }] : [];
    });
  });

  /** What can be checked by a key in a break, as it will be asked. */
  coming(at: number): TellRequest[] {
    const song = this.stage.songs()[at];
    if (!song) return [];
    const all = this.stage.planned(at, this.stage.person()).filter((w) => w.song === song.id);
    return song.plays.flatMap(({ panel }) => {
      const steps = all.filter((w) => w.panel === panel).map((w) => w.step);
      return steps.length > 0 ? (this.asked(song.id, panel, steps) ?? []) : [];
    });
  }

  /** What is asked of the key that checks what was moved on a panel for a song; null before the song is known. */
  asked(song: string, panel: string, steps: Work[]): TellRequest | null {
    const goal = this.stage.goal(song, panel);
    if (!goal) return null;
    const loads = steps.some((s) => s.kind === 'load');
    const before = loads ? this.stage.stood(song, panel) : undefined;
    const stood = before && {
      settings: before.settings,
      matrix: before.matrix,
      ...(before.patterns ? { patterns: before.patterns } : {}),
    };
    return { face: goal.sounds, patch: goal.patch, steps, ...(stood ? { stood } : {}) };
  }
}
