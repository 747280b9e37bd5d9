import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { NgbActiveModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { type CarryAnswers, isUnanswered } from '@hurrel/core';
import { type CarriedPatch, CarryService, type Read } from './carry.service';
import { type Told, toldOf } from './told';

const WORDS: Record<Told['how'], string> = {
  asked: 'asked',
  lost: 'lost',
  renamed: 'renamed',
  moved: 'moved',
  rescaled: 'drawn anew',
};

/** Shows what becomes of patches on the newest description of their instrument, asks what it cannot know, and does it. */
@Component({
  selector: 'hur-carry-dialog',
  templateUrl: './carry-dialog.html',
  styleUrl: './carry-dialog.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CarryDialog {
  protected readonly dialog = inject(NgbActiveModal);
  private readonly service = inject(CarryService);

  private instrument = '';
  private stopped = false;
  protected readonly name = signal('');
  protected readonly patches = signal<readonly Read[]>([]);
  private readonly looked = signal<CarriedPatch[]>([]);
  private readonly answers = signal<CarryAnswers>({});
  protected readonly busy = signal<'look' | 'carry' | null>(null);
  protected readonly done = signal(0);
  protected readonly error = signal('');
  protected readonly told = computed(() => toldOf(this.looked()));
  protected readonly asked = computed(() => this.told().filter(isUnanswered).length);
  /** Whether it is known what becomes of them; after a failure it may be tried once more. */
  protected readonly ready = computed(() => this.looked().length > 0);
  /** Those that nothing can be done about here. */
  protected readonly stuck = computed(() => this.looked().filter((p) => p.open.length > 0));
  protected readonly words = WORDS;

  /** @param name of the instrument */
  start(instrument: string, name: string, patches: readonly Read[]): void {
    this.instrument = instrument;
    this.name.set(name);
    this.patches.set(patches);
    void this.look();
  }

  protected choose(item: Told, choice: string): void {
    const { [item.key]: _, ...others } = this.answers();
    this.answers.set(choice === '' ? others : { ...others, [item.key]: choice });
    void this.look();
  }

  protected of({ patches }: Told): string {
    return patches.length === this.patches().length && patches.length > 1
      ? 'all'
      : patches.length === 1
        ? patches[0]!
        : `${patches.length} patches`;
  }

  protected async carry(): Promise<void> {
    const able = new Set(this.stuck().map((p) => p.id));
    const patches = this.patches().filter((p) => !able.has(p.id));
    const carried = await this.run('carry', patches);
    if (carried) this.dialog.close(carried);
  }

  protected stop(): void {
    this.stopped = true;
  }

  private async look(): Promise<void> {
    const answers = this.answers();
    const found = await this.run('look', this.patches(), () => this.answers() !== answers);
    if (found && this.answers() === answers) this.looked.set(found);
  }

  /** @param late whether it is not wanted any more */
  private async run(
    what: 'look' | 'carry',
    patches: readonly Read[],
    late: () => boolean = () => false,
  ): Promise<CarriedPatch[] | undefined> {
    this.stopped = false;
    this.error.set('');
    this.busy.set(what);
    try {
      return await this.service[what](this.instrument, patches, this.answers(), (done) => {
        this.done.set(done);
        return this.stopped || late();
      });
    } catch (error) {
      this.error.set((error as Error).message);
      return undefined;
    } finally {
      this.busy.set(null);
    }
  }
}
