import { computed, effect, inject, Injectable } from '@angular/core';
import {
  arrivedAt,
  astray,
  type Control,
  controlHeard,
  controlLabel,
  formatSetting,
  formatValue,
  heardKey,
  type Instrument,
  loadedKey,
  type OpenWork,
  type WalkMark,
} from '@hurrel/core';
import { PanelsHeard } from '../midi/panels-heard';
import { WalkLine } from '../walk/walk-line';
import { StageDesk } from './stage-desk';

/** Ms after the last movement of a hand until it is said in the walk. */
const REST_MS = 400;
/** What is said so long after it was heard here was heard at another screen. */
const SAID_WITHIN_MS = 2000;

/**
 * What hands have turned on the evening's panels, as far as panels say it over MIDI. It is heard where their cables end, and
 * said in the walk, so that every screen knows it, also after a reload.
 */
@Injectable()
export class TurnedByHand {
  private readonly stage = inject(StageDesk);
  private readonly heard = inject(PanelsHeard);
  private readonly line = inject(WalkLine);
  /** Ms up to which all that was heard here is said. */
  private told = Date.now();

  /** What was turned while a song was played and stands wrong for the next, without what is to be moved in this break anyhow. */
  readonly all = computed(() => {
    const song = this.stage.song()?.id ?? '';
    const open = new Set(this.stage.turn().map((w) => `${w.panel} ${w.step.id}`));
    return this.stage.plays().flatMap(({ panel }) => {
      const goal = this.stage.goal(song, panel);
      if (!goal) return [];
      return astray(goal.face.controls, goal.patch.settings, this.since(panel, goal.face))
        .filter(({ control }) => !open.has(`${panel} ${control.id}`))
        .map(({ control, value, shall }) => ({
          key: `${panel} ${control.id}`,
          panel: this.stage.panelName(panel),
          name: controlLabel(goal.face, control.id),
          stands: formatValue(control, value),
          shall: formatSetting(control, shall),
        }));
    });
  });

  constructor() {
    effect((onCleanup) => {
      if (!this.line.walk()) return;
      for (const { id } of this.stage.panels()) this.heard.of(this.stage.keptAs(id));
      const timer = setTimeout(() => this.tell(), REST_MS);
      onCleanup(() => clearTimeout(timer));
    });
  }

  /** What a panel has sent of controls that nobody has set since, nor loaded over: heard here, or at another screen. */
  since(panel: string, { controls }: Instrument): Map<number, number> {
    return new Map(
      controls.flatMap((control): [number, number][] => {
        const sent = this.last(panel, control, () => this.lastSet(panel, control.id));
        return sent === undefined ? [] : [[control.cc!, sent]];
      }),
    );
  }

  /** What a control has sent last, if that was after something was said: of most that is not asked, as nothing was heard. */
  private last(
    panel: string,
    { id, cc }: Control,
    after: () => WalkMark | undefined,
  ): number | undefined {
    if (cc === undefined) return undefined;
    const here = this.heard.of(this.stage.keptAs(panel)).get(cc);
    const said = this.line.marks()[heardKey(panel, id)];
    return here || said ? lastHeard(here, said, after()) : undefined;
  }

  /**
   * By a movement's key, whether its control was heard to stand as it shall. What was not heard is not there, nor what only the
   * ear knows, nor what was ticked after it was heard elsewhere.
   */
  standing(work: readonly OpenWork[]): Map<string, boolean> {
    return new Map(
      work.flatMap(({ key, song, panel, step }): [string, boolean][] => {
        const goal = step.kind === 'movement' ? this.stage.goal(song, panel) : null;
        const control = goal?.face.controls.find((c) => c.id === step.id);
        const shall = control && goal?.patch.settings[control.id];
        if (!control || !shall || shall.kind === 'ear' || control.cc === undefined) return [];
        const stands = (set: WalkMark | undefined): boolean | undefined => {
          const sent = this.last(panel, control, () => set);
          const heard = sent === undefined ? undefined : controlHeard([control], control.cc!, sent);
          return heard && arrivedAt(control, shall, heard.value);
        };
        // A control that was turned on would have been heard, a sound that was loaded is not.
        if (stands(this.stage.lastDone(panel, 'load'))) return [[key, true]];
        return stands(this.lastSet(panel, control.id)) === false ? [[key, false]] : [];
      }),
    );
  }

  /** Says in the walk what was heard here since the last time and still holds. */
  private tell(): void {
    const until = Date.now();
    for (const { id: panel } of this.stage.panels()) {
      const here = this.heard.of(this.stage.keptAs(panel));
      for (const { id, cc } of this.stage.faceOf(panel)?.controls ?? []) {
        const last = cc === undefined ? undefined : here.get(cc);
        if (!last || last.at < this.told) continue;
        const sent = lastHeard(last, undefined, this.lastSet(panel, id));
        if (sent !== undefined) this.line.say(heardKey(panel, id), String(sent));
      }
    }
    this.told = until;
  }

  /** When a control was last set by a movement, or loaded over: as it was ticked, or heard. */
  private lastSet(panel: string, control: string): WalkMark | undefined {
    const ticked = [control, 'load'].map((step) => this.stage.lastDone(panel, step));
    const heard = this.line.marks()[loadedKey(panel)];
    return [...ticked, heard].reduce((last, mark) =>
      (mark?.clock ?? -1) > (last?.clock ?? -1) ? mark : last,
    );
  }
}

/** What holds of what was heard here and what any screen has said of it, unless it was set since. */
function lastHeard(
  here: { sent: number; at: number } | undefined,
  said: WalkMark | undefined,
  set: WalkMark | undefined,
): number | undefined {
  const fresh = here && here.at > (set ? Date.parse(set.at) : -Infinity) ? here : undefined;
  const told = said && said.clock > (set?.clock ?? -1) ? said : undefined;
  // What is said is said when the hand rests: of what was heard here the newest is known.
  if (fresh && !(told && Date.parse(told.at) > fresh.at + SAID_WITHIN_MS)) return fresh.sent;
  return told && Number(told.value);
}
