import { computed, DestroyRef, inject, Injectable, untracked } from '@angular/core';
import { controlLabel, type HardMovement, practiceOf, SLOW, workOfKey } from '@hurrel/core';
import { SetDesk } from '../sets/set-desk';
import { noteRead } from '../api/last-read';
import { bookletOf, sheetsOf } from '../sets/sets.service';
import { StageDesk } from './stage-desk';

/** Until a service worker keeps what this page reads. */
const ruled = (): Promise<void> =>
  new Promise((done) => {
    const { serviceWorker } = navigator;
    if (serviceWorker.controller) return done();
    serviceWorker.addEventListener('controllerchange', () => done(), { once: true });
  });

/** What is worth knowing before a walk is begun: what is hard, what was practised, what is printed. */
@Injectable()
export class StageBefore {
  private left = false;
  private readonly desk = inject(SetDesk);
  private readonly stage = inject(StageDesk);

  constructor() {
    inject(DestroyRef).onDestroy(() => (this.left = true));
  }

  /** The breaks in which this person, or whoever has the most to do, comes nearest to the end of the time or over it. */
  readonly hardest = computed(() => {
    const who = this.stage.person();
    return (this.desk.plan()?.breaks ?? [])
      .map((one, at) => {
        const needs = who ? (one.loads[who] ?? 0) : Math.max(0, ...Object.values(one.loads));
        return { at, name: this.stage.songName(one.song), needs, length: one.length };
      })
      .filter((b) => b.needs > 0 && b.at > 0)
      .sort((a, b) => b.needs / Math.max(1, b.length) - a.needs / Math.max(1, a.length))
      .slice(0, 3);
  });
  /** Movements that were slow or went wrong, with the break that each is in, the hardest first. */
  readonly hardMoves = computed(() => {
    const songs = this.desk.evening()?.songs ?? [];
    return [...this.stage.hard().values()]
      .flatMap((hard) => {
        const work = workOfKey(hard.key);
        const at = songs.findIndex((s) => s.id === work?.song);
        const face = work && this.stage.goal(work.song, work.panel)?.face;
        // What is no control, a cable say, has no name before it is planned.
        if (at < 0 || !face?.controls.some((c) => c.id === work?.step)) return [];
        const name = `${songs[at]!.name}: ${controlLabel(face, work!.step)}`;
        return [{ at, says: name, why: this.sayHard(hard) }];
      })
      .slice(0, 5);
  });
  readonly practice = computed(() => practiceOf(this.desk.timed(), this.stage.person()));
  /** Sheets of what the set plays. */
  readonly sheets = computed(() => {
    const all = sheetsOf(this.desk.evening() ?? { songs: [], panels: [] }, this.desk.unitsKnown());
    return all.map((sheet) => {
      const { url, patch, variation, panel } = sheet;
      const varied = this.desk.patch(patch)?.variations.find((v) => v.id === variation)?.name;
      // What reads otherwise on another panel has a sheet for each.
      const twice = all.some((s) => s !== sheet && s.patch === patch && s.variation === variation);
      const name = [this.desk.patchName(patch), varied].filter(Boolean).join(': ');
      return { url, name: twice ? `${name}, ${this.desk.panelName(panel)}` : name };
    });
  });

  /** Why a movement is to be made with care. */
  sayHard({ missed, seconds, usual }: HardMovement): string {
    const slow = seconds > SLOW * usual ? `${seconds.toFixed(1)} s the last times` : '';
    const wrong = missed > 0 ? `went wrong ${missed === 1 ? 'once' : `${missed} times`}` : '';
    return [wrong, slow].filter(Boolean).join(', ');
  }

  /** What is printed, one thing after another, as soon as something keeps it. */
  async readAhead(set: string): Promise<void> {
    const papers = [bookletOf(set), ...untracked(this.sheets).map(({ url }) => url)];
    papers.forEach(noteRead);
    if (!navigator.serviceWorker) return;
    await ruled();
    for (const url of papers) if (!this.left) await fetch(url).catch(() => undefined);
  }
}
