import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  untracked,
} from '@angular/core';
import { RouterLink } from '@angular/router';
import {
  type Break,
  formatDuration,
  type Portion,
  readDuration,
  type Song,
  songTimes,
  type StagePanel,
  stepName,
  type Work,
} from '@hurrel/core';
import { DocumentActs, SavedLine } from '../document/document-acts';
import { openDocument } from '../document/open-document';
import { removeDocument } from '../document/remove-document';
import { PatchPicker } from '../picker/patch-picker';
import { MainPages } from '../ui/main-pages';
import { ToastService } from '../ui/toasts';
import { Band } from './band';
import { LoadGrid } from './load-grid';
import { PlayDetails } from './play-details';
import { Preparation } from './preparation';
import { EveningActions, eveningFeature, eveningSides } from './evening.document';
import { CallTimes } from './call-times';
import { SetDesk } from './set-desk';
import { PanelsBefore } from './panels-before';
import { SetUnits } from './set-units';
import { planChanges } from './plan-changes';
import { betterSays, handedSays, planSays, reserveSays } from './plan-says';
import { bookletOf, SetsService } from './sets.service';

/** An evening: its songs, the breaks between them with what there is to do, and what is done in the break that is chosen. */
@Component({
  selector: 'hur-set-page',
  imports: [
    Band,
    CallTimes,
    DocumentActs,
    LoadGrid,
    MainPages,
    PatchPicker,
    PlayDetails,
    Preparation,
    RouterLink,
    SavedLine,
  ],
  providers: [PanelsBefore, SetUnits, SetDesk],
  templateUrl: './set-page.html',
  styleUrl: './set-page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SetPage {
  readonly id = input.required<string>();

  private readonly toasts = inject(ToastService);
  protected readonly desk = inject(SetDesk);
  protected readonly document = openDocument(
    'evening',
    () => this.id(),
    eveningFeature.selectEveningState,
    EveningActions,
    () => eveningSides,
  );
  protected readonly remove = removeDocument(this.document.state, {
    service: inject(SetsService),
    list: '/sets',
    page: '/set',
  });
  protected readonly time = formatDuration;

  /** How the evening stands, in a line. */
  protected readonly says = computed(() => {
    const [plan, evening] = [this.desk.plan(), this.desk.evening()];
    return plan && evening ? planSays(plan, evening) : 'The plan is being worked out.';
  });
  /** Which changeovers somebody else makes than usual, in a line. */
  /** When songs begin, as far as that is known. */
  protected readonly begins = computed(() => {
    const evening = this.desk.evening();
    return evening ? songTimes(evening) : new Map<string, string>();
  });
  /** How it goes with the reserve where the plan is without it, and the other way round. */
  protected readonly reserve = computed(() => {
    const [other, evening] = [this.desk.otherPlan(), this.desk.evening()];
    return other && evening ? reserveSays(other, evening, !this.desk.playsReserve()) : '';
  });
  protected readonly handed = computed(() => {
    const [plan, evening] = [this.desk.plan(), this.desk.evening()];
    return plan && evening ? handedSays(plan, evening) : '';
  });
  protected readonly shown = computed(
    (): Break | undefined => this.desk.plan()?.breaks[this.desk.chosen()],
  );
  protected readonly song = computed(
    (): Song | undefined => this.desk.evening()?.songs[this.desk.chosen()],
  );

  protected readonly booklet = computed(() => bookletOf(this.id()));
  protected readonly changed = planChanges(this.desk.plan, this.desk.evening);
  protected readonly songBefore = computed(
    () => this.desk.evening()?.songs[this.desk.chosen() - 1]?.name ?? '',
  );

  constructor() {
    effect(() => {
      const id = this.id();
      untracked(() => void this.desk.readTimes(id));
    });
  }

  protected breakOf(index: number): Break | undefined {
    const [plan, evening] = [this.desk.plan(), this.desk.evening()];
    const one = plan?.breaks[index];
    return one?.song === evening?.songs[index]?.id ? one : undefined;
  }

  /** What the busiest has to do in a break, as a share of its length; over 1 there is too little time. */
  protected share(one: Break | undefined): number {
    if (!one) return 0;
    const most = Math.max(0, ...Object.values(one.loads));
    return one.length === 0 ? (most > 0 ? 2 : 0) : most / one.length;
  }

  protected loads(one: Break): { name: string; seconds: number; over: boolean }[] {
    const people = this.desk.evening()?.people ?? [];
    return Object.entries(one.loads).map(([id, seconds]) => ({
      name: people.find((p) => p.id === id)?.name ?? 'whoever is there',
      seconds,
      over: seconds > one.length,
    }));
  }

  protected personName(id: string): string {
    return this.desk.evening()?.people.find((p) => p.id === id)?.name ?? '';
  }

  protected songName(id: string): string {
    return this.desk.evening()?.songs.find((s) => s.id === id)?.name ?? id;
  }

  /** A step in the words of its panel. */
  protected stepSays(panel: string, song: string, step: Work): { name: string; to: string } {
    const play = this.desk
      .evening()
      ?.songs.find((s) => s.id === song)
      ?.plays.find((p) => p.panel === panel);
    const face = play && this.desk.face(play.patch);
    const name = face ? stepName(face, step) : '';
    const section =
      'section' in step ? face?.sections.find((s) => s.id === step.section)?.name : '';
    const to = step.kind === 'movement' || step.kind === 'row' ? step.to : '';
    return { name: step.kind === 'movement' && section ? `${section} ${name}` : name, to };
  }

  /** The rebuild of what a song plays on a panel: the patch, its variation, and the unit that the panel is. */
  protected rebuildOf(panel: string, song: string): { patch: string; asks: object } | null {
    const evening = this.desk.evening();
    const unit = evening?.panels.find((p) => p.id === panel)?.unit;
    const play = evening?.songs.find((s) => s.id === song)?.plays.find((p) => p.panel === panel);
    return play ? { patch: play.patch, asks: { variation: play.variation, unit } } : null;
  }

  protected panelsFor(patch: string): StagePanel[] {
    const instrument = this.desk.patch(patch)?.instrument;
    return (this.desk.evening()?.panels ?? []).filter((p) => p.instrument === instrument);
  }

  /** What is done while the song before is played, then the break's own. */
  protected portions(one: Break): (Portion & { during: boolean })[] {
    return [
      ...one.during.map((p) => ({ ...p, during: true })),
      ...one.portions.map((p) => ({ ...p, during: false })),
    ];
  }

  protected setPause(song: Song, field: HTMLInputElement): void {
    const pause = readDuration(field.value);
    if (pause === null || pause > 36_000) field.value = formatDuration(song.pause);
    else this.desk.changeSong(song.id, { pause });
  }

  /** How long a song lasts; nothing means that nobody knows. */
  protected setLength(song: Song, field: HTMLInputElement): void {
    const seconds = field.value.trim() === '' ? 0 : readDuration(field.value);
    if (seconds === null || seconds > 7200)
      field.value = song.seconds > 0 ? formatDuration(song.seconds) : '';
    else this.desk.changeSong(song.id, { seconds });
  }

  protected setKind(song: Song, kind: string): void {
    this.desk.changeSong(song.id, { kind: kind as Song['kind'] });
  }

  protected rename(song: Song, field: HTMLInputElement): void {
    const name = field.value.trim();
    if (name === '') field.value = song.name;
    else this.desk.changeSong(song.id, { name });
  }

  protected play(
    song: Song,
    index: number,
    changes: { panel?: string; variation?: string | undefined },
  ): void {
    const plays = song.plays.map((p, i) => {
      if (i !== index) return p;
      const { variation, ...rest } = { ...p, ...changes };
      return variation ? { ...rest, variation } : rest;
    });
    const twice = new Set(plays.map((p) => p.panel)).size < plays.length;
    if (twice) this.toasts.show('A panel plays one patch in a song.');
    else this.desk.changeSong(song.id, { plays });
  }

  protected drop(song: Song, index: number): void {
    this.desk.changeSong(song.id, { plays: song.plays.filter((_, i) => i !== index) });
  }

  protected removeSong(song: Song): void {
    this.desk.removeSong(song.id);
    this.toasts.show(`"${song.name}" is out of the set.`, {
      label: 'Undo',
      run: () => this.document.undo(),
    });
  }

  protected add(field: HTMLInputElement): void {
    const name = field.value.trim();
    if (name === '') return field.focus();
    this.desk.addSong(name);
    field.value = '';
  }

  protected async better(what: 'order' | 'panels'): Promise<void> {
    const before = this.desk.plan();
    const found = await this.desk.better(what);
    if (!found || !before) return;
    this.toasts.show(betterSays(before, found));
  }
}
