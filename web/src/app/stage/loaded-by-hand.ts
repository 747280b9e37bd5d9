import { computed, effect, inject, Injectable } from '@angular/core';
import {
  chosenOn,
  type Evening,
  loadedKey,
  loadedOver,
  type OpenWork,
  placeOfProgram,
  placeOn,
  slotName,
  type SongPatch,
  STANDS_AGAIN,
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
  /** What the song plays there. */
  play: SongPatch;
  /** Unit that the panel is. */
  unit: string | undefined;
  /** Place that the song wants; absent where the panel is set by hand. */
  shall?: string;
  /** The loading in this break that it has undone; a panel that was set by hand may differ in everything. */
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
    const song = this.stage.song()?.id ?? '';
    return this.stage.plays().flatMap((play): LoadedOver[] => {
      const { panel } = play;
      const place = this.wrong(song, panel)?.value;
      if (place === undefined) return [];
      const loads = this.stage
        .work()
        .filter((w) => w.panel === panel && w.song === song && w.step.kind === 'load');
      // What is still to be loaded there brings all of it back.
      if (loads.some((w) => w.state !== 'done')) return [];
      const shall = this.wanted(song, panel);
      const unit = this.stage.panels().find((p) => p.id === panel)?.unit;
      const name = this.stage.panelName(panel);
      const back = shall === undefined ? {} : { shall };
      return [{ panel, name, place, play, unit, ...back, undone: loads }];
    });
  });

  /** Somebody has made a panel stand as it shall. */
  standsAgain(panel: string): void {
    this.line.say(loadedKey(panel), STANDS_AGAIN);
  }

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

  /** A place that was chosen on a panel and spoils what a song wants there. */
  wrong(song: string, panel: string): WalkMark | undefined {
    const [evening, plan] = [this.desk.evening(), this.desk.plan()];
    if (!evening || !plan) return undefined;
    return loadedOver(evening, plan, this.line.marks(), numberOf(evening, song), panel);
  }

  private wanted(song: string, panel: string): string | undefined {
    const [evening, plan] = [this.desk.evening(), this.desk.plan()];
    return evening && plan ? placeOn(evening, plan, numberOf(evening, song), panel) : undefined;
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

const numberOf = ({ songs }: Evening, song: string): number =>
  songs.findIndex((s) => s.id === song);
