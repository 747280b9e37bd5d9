import { computed, inject, Injectable } from '@angular/core';
import { type ListeningPlace, listeningPlaces, type OpenWork, placeNow } from '@hurrel/core';
import type { SoundRequest } from './messages';
import { StageDesk } from './stage-desk';

/** A place, and what is heard there, key by key. */
interface Place extends ListeningPlace {
  /** What tells it from any other of the evening. */
  name: string;
  sounds: SoundRequest[];
}

/** Where one listens in a changeover: what the patch says one should hear with its panel as far as it is built. */
@Injectable()
export class StagePlaces {
  private readonly stage = inject(StageDesk);

  /** Of this break: a tick changes nothing of it. */
  private readonly here = computed(() => this.placesIn(this.stage.at()));

  /** The place behind what was done last, the same as long as one stands there; undefined elsewhere. */
  readonly now = computed((): Place | undefined => {
    const last = this.stage.done()[0];
    if (!last || last.left || last.song !== this.stage.song()?.id) return undefined;
    const all = this.here().get(last.panel) ?? [];
    if (all.length === 0) return undefined;
    const done = this.stage
      .everybodys()
      .filter((w) => w.panel === last.panel && w.song === last.song && w.state === 'done');
    return placeNow(all, new Set(done.map((w) => w.step.id)), last.step.id);
  });

  /** What will be heard at the places of a break on this person's panels. */
  coming(at: number): SoundRequest[] {
    const mine = new Set(this.stage.planned(at, this.stage.person()).map((w) => w.panel));
    return [...this.placesIn(at)].flatMap(([panel, all]) =>
      mine.has(panel) ? all.flatMap((p) => p.sounds) : [],
    );
  }

  /** Of a break, panel by panel, whoever moves it. */
  private placesIn(at: number): ReadonlyMap<string, Place[]> {
    const song = this.stage.songs()[at]?.id ?? '';
    const work = this.stage.planned(at).filter((w) => w.song === song);
    const panels = [...new Set(work.map((w) => w.panel))];
    return new Map(
      panels.map((panel) => [
        panel,
        this.placesOf(
          song,
          panel,
          work.filter((w) => w.panel === panel),
        ),
      ]),
    );
  }

  private placesOf(song: string, panel: string, work: readonly OpenWork[]): Place[] {
    const goal = this.stage.goal(song, panel);
    // Places to listen tell of the patch itself: a variation sounds otherwise.
    if (!goal || goal.play.variation !== undefined) return [];
    const { face, patch, sounds } = goal;
    const steps = work.map((w) => w.step);
    return listeningPlaces(face, patch, steps).map((place) => ({
      ...place,
      name: `${song} ${panel} ${place.id}`,
      sounds: place.checkpoints.map(({ note }) => ({ face: sounds, patch: place.there, note })),
    }));
  }
}
