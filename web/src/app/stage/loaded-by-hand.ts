import { computed, effect, inject, Injectable } from '@angular/core';
import {
  chosenOn,
  loadedKey,
  type OpenWork,
  placeOfProgram,
  placeOn,
  slotName,
  type WalkMark,
} from '@hurrel/core';
import { PanelsHeard } from '../midi/panels-heard';
import { SetDesk } from '../sets/set-desk';
import { WalkLine } from '../walk/walk-line';
import { StageDesk } from './stage-desk';

/** Ms after the last place that was chosen until it is said in the walk: places are stepped through. */
const REST_MS = 400;

/** A place that was chosen, and not the one that the song wants there. */
export interface LoadedOver {
  panel: string;
  name: string;
  place: string;
  /** Patch that the song wants. */
  patch: string;
  /** Place that the song wants; absent where the panel is set by hand. */
  shall?: string;
  /** What of this break it has undone. */
  undone: OpenWork[];
}

/**
 * Places of memories that hands have chosen on the evening's panels, as far as panels say it over MIDI. Said in the walk where it
 * is heard, so that every screen knows it, also after a reload.
 */
@Injectable()
export class LoadedByHand {
  private readonly stage = inject(StageDesk);
  private readonly desk = inject(SetDesk);
  private readonly heard = inject(PanelsHeard);
  private readonly line = inject(WalkLine);
  /** Ms up to which all that was heard here is said. */
  private told = Date.now();

  /** Panels of this person that were loaded over: all of it is another sound than the song wants. */
  readonly over = computed((): LoadedOver[] => {
    const marks = this.line.marks();
    const song = this.stage.song();
    return this.stage.plays().flatMap(({ panel, patch }) => {
      const chosen = this.wrong(song?.id ?? '', panel);
      if (!chosen || chosenOn(marks, panel) !== chosen) return [];
      const here = this.stage.work().filter((w) => w.panel === panel && w.song === song?.id);
      // What is still to be loaded there brings all of it back.
      if (here.some((w) => w.step.kind === 'load' && w.state !== 'done')) return [];
      const undone = here.filter((w) => w.state === 'done' && SETS.has(w.step.kind));
      // Its movements are all to be made anyhow.
      if (undone.length === 0 && here.some((w) => SETS.has(w.step.kind))) return [];
      const shall = this.wanted(song?.id ?? '', panel);
      return [
        {
          panel,
          name: this.stage.panelName(panel),
          place: chosen.value,
          patch,
          ...(shall === undefined ? {} : { shall }),
          undone,
        },
      ];
    });
  });

  constructor() {
    effect((onCleanup) => {
      if (!this.line.walk()) return;
      for (const { id } of this.stage.panels()) this.heard.chosenOn(this.stage.keptAs(id));
      const timer = setTimeout(() => this.tell(), REST_MS);
      onCleanup(() => clearTimeout(timer));
    });
  }

  /** Whether the sound that is to be loaded was heard to be, since somebody last said anything of it. */
  arrived({ key, panel, step }: OpenWork): boolean {
    if (step.kind !== 'load') return false;
    const marks = this.line.marks();
    const chosen = chosenOn(marks, panel);
    return chosen?.value === step.place && chosen.clock > (marks[key]?.clock ?? -1);
  }

  /** The place that was chosen last on a panel, where that is not what a song wants there. */
  wrong(song: string, panel: string): WalkMark | undefined {
    const chosen = this.line.marks()[loadedKey(panel)];
    return chosen && chosen.value !== this.wanted(song, panel) ? chosen : undefined;
  }

  private wanted(song: string, panel: string): string | undefined {
    const [evening, plan] = [this.desk.evening(), this.desk.plan()];
    const at = evening?.songs.findIndex((s) => s.id === song) ?? -1;
    return evening && plan ? placeOn(evening, plan, at, panel) : undefined;
  }

  /** Says in the walk what was heard here since the last time. */
  private tell(): void {
    const until = Date.now();
    for (const { id: panel } of this.stage.panels()) {
      const chosen = this.heard.chosenOn(this.stage.keptAs(panel));
      const memory = this.stage.faceOf(panel)?.memory;
      if (!chosen || chosen.at < this.told || !memory) continue;
      const place = placeOfProgram(memory, chosen);
      if (place) this.line.say(loadedKey(panel), slotName(memory, place.bank, place.slot));
    }
    this.told = until;
  }
}

/** Steps that are of the sound that a memory keeps. */
const SETS: ReadonlySet<string> = new Set(['movement', 'row', 'entry', 'load']);
