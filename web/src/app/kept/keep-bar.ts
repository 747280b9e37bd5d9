import {
  ChangeDetectionStrategy,
  Component,
  computed,
  HostListener,
  inject,
  type OnInit,
  signal,
} from '@angular/core';
import { RouterLink } from '@angular/router';
import { Drafts } from '../document/drafts';
import { download, fileName } from '../ui/download';
import { OnDisk } from '../api/on-disk';
import { OpenDocuments } from '../document/open-documents';
import { StorageService } from '../document/storage.service';

/** Where a document of a kind is opened, and is then saved by itself. */
const PLACES: Readonly<Record<string, (id: string) => string[]>> = {
  patch: (id) => ['/patch', id, 'chart'],
  unit: (id) => ['/unit', id],
  instrument: (id) => ['/instrument', id],
  session: (id) => ['/session', id],
};

/** Over every page: what keeps edits from being kept, and what still waits to be. Nothing while all is well. */
@Component({
  selector: 'hur-keep-bar',
  imports: [RouterLink],
  templateUrl: './keep-bar.html',
  styleUrl: './keep-bar.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class KeepBar implements OnInit {
  protected readonly storage = inject(StorageService);
  protected readonly drafts = inject(Drafts);
  private readonly disk = inject(OnDisk);
  private readonly open = inject(OpenDocuments);
  protected readonly listed = signal(false);
  /** What waits and is not open here: what is open tells so itself. */
  protected readonly waiting = computed(() =>
    this.drafts
      .waiting()
      .filter(({ kind, id }) => kind in PLACES && !this.open.has(kind, id))
      .map((draft) => ({ ...draft, path: PLACES[draft.kind]!(draft.id) })),
  );
  private readonly unsaved = computed(() => this.open.all().filter((one) => one.dirty()));

  ngOnInit(): void {
    void this.storage.look();
    void this.disk.ready.then(() => this.drafts.look());
  }

  /** What neither the server nor this browser holds would be lost. */
  @HostListener('window:beforeunload', ['$event'])
  protected leave(event: BeforeUnloadEvent): void {
    if (this.drafts.refused() && this.unsaved().length > 0) event.preventDefault();
  }

  protected reload(): void {
    location.reload();
  }

  protected saveFiles(): void {
    for (const { kind, present } of this.open.all()) {
      const document = present() as { name?: string } | null;
      if (!document) continue;
      const name = fileName(document.name ?? kind, 'json');
      download(name, `${JSON.stringify(document, null, 2)}\n`, 'application/json');
    }
  }
}
