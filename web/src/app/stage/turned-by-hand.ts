import { computed, inject, Injectable } from '@angular/core';
import { astray, controlLabel, formatSetting, formatValue, type Instrument } from '@hurrel/core';
import { PanelsHeard } from '../midi/panels-heard';
import { StageDesk } from './stage-desk';

/** What was turned while a song was played, as far as panels say it over MIDI, and stands wrong for the next. */
@Injectable()
export class TurnedByHand {
  private readonly stage = inject(StageDesk);
  private readonly heard = inject(PanelsHeard);

  /** As it is said, without what is to be moved in this break anyhow. */
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

  /** What a panel has sent of controls that nobody has set since, nor loaded over. */
  since(panel: string, { controls }: Instrument): Map<number, number> {
    const sent = this.heard.of(this.stage.keptAs(panel));
    const loaded = this.stage.doneAt(panel, 'load');
    return new Map(
      controls.flatMap(({ id, cc }): [number, number][] => {
        const last = cc === undefined ? undefined : sent.get(cc);
        const set = last && Math.max(loaded, this.stage.doneAt(panel, id));
        return last && set! < last.at ? [[cc!, last.sent]] : [];
      }),
    );
  }
}
