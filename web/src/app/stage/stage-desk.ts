import { computed, effect, inject, Injectable, signal } from '@angular/core';
import {
  begunKey,
  type Compromise,
  handKindOf,
  hardMovements,
  type Instrument,
  inTurn,
  type Marks,
  moverOn,
  type OpenWork,
  type PanelBefore,
  placeKey,
  sayStep,
  secondsLeft,
  shownOf,
  slowOf,
  type Song,
  type SongPatch,
  type WalkMark,
  workOfBreak,
  workKey,
} from '@hurrel/core';
import { type Played, SetDesk } from '../sets/set-desk';
import { WalkLine } from '../walk/walk-line';

/** What nobody has said anything of. */
const NO_MARKS: Marks = {};
/** A movement that took longer was not one: its time is not kept. */
const LONGEST_S = 60;

/** One person's way through the breaks of a set that is walked through. */
@Injectable()
export class StageDesk {
  private readonly desk = inject(SetDesk);
  private readonly line = inject(WalkLine);

  /** Whose screen this is; empty for everybody's. */
  readonly person = signal('');
  readonly songs = computed((): readonly Song[] => this.desk.evening()?.songs ?? []);

  readonly panels = computed(() => this.desk.evening()?.panels ?? []);

  /** Number of the break that this person stands in. */
  readonly at = computed(() => {
    const said = this.line.marks()[placeKey(this.person())]?.value;
    const at = this.songs().findIndex((s) => s.id === said);
    return Math.max(0, at);
  });
  readonly song = computed((): Song | undefined => this.songs()[this.at()]);
  readonly work = computed((): OpenWork[] => {
    const [evening, plan] = [this.desk.evening(), this.desk.plan()];
    if (!evening || !plan) return [];
    const marks = this.line.marks();
    const since = marks[placeKey(this.person())]?.clock;
    return workOfBreak(evening, plan, marks, this.at(), this.person() || undefined, since);
  });
  /** What was slow for this person, or went wrong, in any walk of this set. */
  readonly hard = computed(
    () =>
      new Map(hardMovements(this.desk.timed(), this.person() || undefined).map((h) => [h.key, h])),
  );
  /** In a rehearsal the hard ones come first; on stage a hand goes its shortest way. */
  readonly turn = computed(() => {
    const practised = this.line.walk()?.kind === 'rehearsal';
    return inTurn(this.work(), practised ? new Set(this.hard().keys()) : undefined);
  });
  /** What is done now. */
  readonly now = computed((): OpenWork | undefined => this.turn()[0]);
  readonly next = computed(() => this.turn().slice(1, 4));
  /** What was done in this break, the last first. */
  readonly done = computed(() => {
    const marks = this.line.marks();
    return this.work()
      .filter((w) => w.state === 'done')
      .sort((a, b) => (marks[b.key]?.clock ?? 0) - (marks[a.key]?.clock ?? 0));
  });
  /** Seconds that the break still has to do; while the song before is played, without what is done meanwhile. */
  readonly needs = computed(() => {
    const playing = this.begun() === null;
    return secondsLeft(this.work().filter((w) => !(playing && w.during)));
  });
  /** When the break began, in ms; null while the song before is still played. */
  readonly begun = computed(() => {
    const said = this.line.marks()[begunKey(this.song()?.id ?? '')]?.value;
    return said === undefined || said === 'open' ? null : Date.parse(said);
  });
  /** What everybody has to do in this break, and has done. */
  readonly everybodys = computed((): OpenWork[] => {
    const [evening, plan] = [this.desk.evening(), this.desk.plan()];
    return evening && plan ? workOfBreak(evening, plan, this.line.marks(), this.at()) : [];
  });
  /** How far the others are, those with something to do here. */
  readonly others = computed(() => {
    const [people, all] = [this.desk.evening()?.people, this.everybodys()];
    if (!people || this.person() === '') return [];
    return people
      .filter((p) => p.id !== this.person())
      .map(({ id, name }) => {
        const theirs = all.filter((w) => w.person === id);
        return { id, name, all: theirs.length, left: inTurn(theirs).length };
      })
      .filter((o) => o.all > 0);
  });
  /** What stands on this person's panels while the song is played, and on those that they move for it. */
  readonly plays = computed((): readonly SongPatch[] => {
    const evening = this.desk.evening();
    if (!evening) return [];
    const person = this.person();
    const moved = new Set(this.work().map((w) => w.panel));
    return (this.song()?.plays ?? []).filter(
      (p) => person === '' || moverOn(evening, p.panel) === person || moved.has(p.panel),
    );
  });

  /** What is planned for a break, whatever was done so far. @param person whose alone; absent: everybody's */
  planned(at: number, person?: string): OpenWork[] {
    const [evening, plan] = [this.desk.evening(), this.desk.plan()];
    if (!evening || !plan) return [];
    return workOfBreak(evening, plan, NO_MARKS, at, person || undefined).filter((w) => !w.left);
  }

  /** What a panel showed before a song: the patch before it there, else what it showed when the walk began. */
  stood(song: string, panel: string): PanelBefore | undefined {
    const at = this.songs().findIndex((s) => s.id === song);
    const last = this.songs()
      .slice(0, at)
      .findLast((s) => s.plays.some((p) => p.panel === panel));
    return last ? this.goal(last.id, panel)?.patch : this.line.walk()?.before[panel];
  }

  private lastTick: number | null = null;

  constructor() {
    effect(() => {
      const walk = this.line.walk();
      if (walk) this.desk.freeze(walk.before, walk.createdAt);
    });
  }

  /** The patch that a song wants on a panel, in its variation, and the panel it stands before. */
  goal(song: string, panel: string): (Played & { play: SongPatch }) | null {
    const play = this.songs()
      .find((s) => s.id === song)
      ?.plays.find((p) => p.panel === panel);
    const played = play && this.desk.played(play);
    if (!played) return null;
    const shared = this.shared(song, panel).map((c) => [c.control, c.setting] as const);
    const settings = { ...played.patch.settings, ...Object.fromEntries(shared) };
    return { ...played, play, patch: { ...played.patch, settings } };
  }

  panelName(panel: string): string {
    return this.desk.panelName(panel);
  }

  /** What a panel shows is kept under this; empty where it is not told apart from another. */
  keptAs(id: string): string {
    const evening = this.desk.evening();
    return (evening && shownOf(evening, id)) ?? '';
  }

  /** The last time that something was done on a panel, for whichever song. */
  lastDone(panel: string, step: string): WalkMark | undefined {
    const marks = this.line.marks();
    return this.songs().reduce<WalkMark | undefined>((last, { id }) => {
      const mark = marks[workKey(id, panel, step)];
      return mark?.value === 'done' && mark.clock >= (last?.clock ?? 0) ? mark : last;
    }, undefined);
  }

  /** A panel as an instrument, whatever is played on it: undefined when nothing is, or before that is known. */
  faceOf(panel: string): Instrument | undefined {
    for (const { id } of this.songs()) {
      const goal = this.goal(id, panel);
      if (goal) return goal.face;
    }
    return undefined;
  }

  songName(id: string): string {
    return this.songs().find((s) => s.id === id)?.name ?? '';
  }

  /** A movement in a line, in the words of its panel. */
  says(work: OpenWork): string {
    const face = this.goal(work.song, work.panel)?.face;
    return face ? sayStep(face, work.step) : '';
  }

  /** Controls of a panel that stand for several songs, this one among them. */
  shared(song: string, panel: string): Compromise[] {
    const number = (id: string): number => this.songs().findIndex((s) => s.id === id);
    const at = number(song);
    return (this.desk.plan()?.compromises ?? []).filter(
      (c) => c.panel === panel && number(c.from) <= at && at <= number(c.to),
    );
  }

  tick(work = this.now()): void {
    if (!work) return;
    const goal = this.goal(work.song, work.panel);
    const kind = goal ? handKindOf(goal.face, work.step) : undefined;
    const seconds = this.lastTick === null ? undefined : (Date.now() - this.lastTick) / 1000;
    this.line.say(work.key, 'done', {
      ...(work.person ? { person: work.person } : {}),
      ...(kind ? { kind } : {}),
      ...(seconds !== undefined && seconds <= LONGEST_S
        ? { seconds: Math.round(seconds * 10) / 10 }
        : {}),
      ...this.missed(work),
    });
    this.lastTick = Date.now();
    // What is done during the song before says nothing of its end.
    if (!work.during) this.begin();
  }

  later(): void {
    const work = this.now();
    if (!work || this.turn().length < 2) return;
    // Put off once more it stays at the end: what is open comes before it.
    this.line.say(work.key, 'later');
    this.lastTick = Date.now();
  }

  /** Seconds that the movements of this break took, as far as they were taken. */
  readonly took = computed(() => {
    const marks = this.line.marks();
    return this.work().reduce((sum, w) => sum + (marks[w.key]?.seconds ?? 0), 0);
  });
  /** What took much longer than planned. */
  readonly slow = computed(() => slowOf(this.work(), this.line.marks()));

  /** Some movements are to be made once more, and the break’s time begins anew. */
  again(all: readonly OpenWork[]): void {
    for (const work of all)
      if (work.state !== 'open') this.line.say(work.key, 'open', this.missed(work));
    this.lastTick = null;
    const song = this.song();
    if (song && this.begun() !== null) this.line.say(begunKey(song.id), 'open');
  }

  /** Takes the last tick back. */
  back(): void {
    const [last] = this.done();
    if (last) this.line.say(last.key, 'open');
    this.lastTick = null;
  }

  /** What of a panel stands as it shall, and what does not, after somebody has looked. @param stand keys of what does */
  settle(all: readonly OpenWork[], stand: ReadonlySet<string>): void {
    for (const work of all) {
      const value = stand.has(work.key) ? 'done' : 'open';
      if (work.state === value) continue;
      // What had been ticked and does not stand was missed.
      const more = work.state === 'done' ? 1 : 0;
      this.line.say(work.key, value, this.missed(work, more));
    }
    this.lastTick = null;
  }

  /** How often a movement was ticked and did not stand as it should. */
  private missed({ key }: OpenWork, more = 0): { missed?: number } {
    const missed = (this.line.marks()[key]?.missed ?? 0) + more;
    return missed > 0 ? { missed } : {};
  }

  /** The song before is over: the break's time runs. */
  begin(): void {
    const song = this.song();
    if (!song || this.begun() !== null) return;
    this.line.say(begunKey(song.id), new Date().toISOString());
    this.lastTick ??= Date.now();
  }

  go(at: number): void {
    const song = this.songs()[at];
    if (!song) return;
    this.line.say(placeKey(this.person()), song.id);
    this.lastTick = null;
  }
}
