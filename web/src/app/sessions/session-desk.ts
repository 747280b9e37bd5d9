import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import {
  addPass,
  BAR,
  editionOf,
  type Instrument,
  partStarts,
  type Pass,
  type PassSubject,
  type Patch,
  type Session,
  withPass,
} from '@hurrel/core';
import { Store } from '@ngrx/store';
import { answer, API, type StoredPatch } from '../api/client';
import { descriptionFor } from '../api/description';
import { SessionActions, sessionFeature } from './session.document';

/** One description serves all patches that were recorded on it. */
const standsOn = (patch: Patch): string => `${patch.instrument} ${editionOf(patch)}`;

/** The open session with the patches and instruments that its passes play. */
@Injectable()
export class SessionDesk {
  private readonly api = inject(API);
  private readonly store = inject(Store);

  readonly session = this.store.selectSignal(sessionFeature.selectPresent);
  readonly id = this.store.selectSignal(sessionFeature.selectId);
  private readonly patches = signal<ReadonlyMap<string, Patch>>(new Map());
  private readonly instruments = signal<ReadonlyMap<string, Instrument>>(new Map());
  /** Patches that were asked for and are not there. */
  private readonly gone = signal<ReadonlySet<string>>(new Set());
  /** Id of the pass that is looked at. */
  readonly chosen = signal<string | null>(null);

  readonly pass = computed(() => this.session()?.passes.find((p) => p.id === this.chosen()));
  readonly bars = computed(() => {
    const session = this.session();
    return session ? partStarts(session.parts).bars : 0;
  });
  readonly seconds = computed(() => {
    const session = this.session();
    return session ? (this.bars() * BAR * 60) / session.tempo : 0;
  });
  readonly subjects = computed((): PassSubject[] => {
    const [patches, instruments] = [this.patches(), this.instruments()];
    return (this.session()?.passes ?? []).flatMap((pass) => {
      const patch = patches.get(pass.patch);
      const instrument = patch && instruments.get(standsOn(patch));
      return patch && instrument ? [{ pass, patch, instrument }] : [];
    });
  });

  constructor() {
    effect(() => {
      const wanted = new Set(this.session()?.passes.map((p) => p.patch));
      untracked(() => void this.readPatches(wanted));
    });
  }

  edit(next: Session): void {
    this.store.dispatch(SessionActions.edit({ next }));
  }

  change(changes: Partial<Session>): void {
    const session = this.session();
    if (session) this.edit({ ...session, ...changes });
  }

  changePass(id: string, changes: Partial<Pass>): void {
    const session = this.session();
    if (session) this.edit(withPass(session, id, changes));
  }

  undo(): void {
    this.store.dispatch(SessionActions.undo());
  }

  subjectOf(pass: Pass | undefined): PassSubject | undefined {
    return this.subjects().find((s) => s.pass.id === pass?.id);
  }

  patchName(patch: string): string {
    return (
      this.patches().get(patch)?.name ?? (this.gone().has(patch) ? 'a patch that is gone' : '')
    );
  }

  variationsOf(pass: Pass): { id: string; name: string }[] {
    return this.patches().get(pass.patch)?.variations ?? [];
  }

  /** One pass more, with the first pattern of its patch; it is the one that is looked at. */
  async addPass(patch: string): Promise<void> {
    await this.readPatches(new Set([patch]));
    const session = this.session();
    if (!session) return;
    const found = this.patches().get(patch);
    const made = addPass(session, {
      patch,
      name: found?.name ?? 'pass',
      ...(found?.patterns[0] ? { pattern: found.patterns[0].id } : {}),
    });
    this.edit(made.session);
    this.chosen.set(made.id);
  }

  private async readPatches(wanted: ReadonlySet<string>): Promise<void> {
    for (const id of wanted) {
      if (this.patches().has(id)) continue;
      try {
        const request = this.api.patches[':id'].$get({ param: { id } });
        const { patch } = await answer<StoredPatch>(request);
        const on = standsOn(patch);
        if (!this.instruments().has(on)) {
          const instrument = await descriptionFor(this.api, patch);
          this.instruments.update((all) => new Map(all).set(on, instrument));
        }
        this.patches.update((all) => new Map(all).set(id, patch));
      } catch {
        // The grid says that the patch is gone; the others are heard.
        this.gone.update((all) => new Set(all).add(id));
      }
    }
  }
}
