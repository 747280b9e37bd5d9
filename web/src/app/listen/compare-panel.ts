import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import {
  applyVariation,
  midiToNote,
  panelOf,
  type Instrument,
  type Patch,
  unitFace,
} from '@hurrel/core';
import { Store } from '@ngrx/store';
import { answer, API, type StoredPatch } from '../api/client';
import { descriptionFor } from '../api/description';
import { unitsOf } from '../units/units-of';
import { patchFeature } from '../patch/patch.reducer';
import { PatchPicker } from '../picker/patch-picker';
import { LiveService } from '../sound/live.service';
import { CompareService } from './compare.service';

/** Versions that are offered, newest first. */
const MOST_VERSIONS = 12;

/** What is heard beside the patch: itself as it was, varied or on other boards, another patch, a recording. */
@Component({
  selector: 'hur-compare-panel',
  imports: [PatchPicker],
  templateUrl: './compare-panel.html',
  styleUrl: './compare-panel.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ComparePanel {
  private readonly api = inject(API);
  private readonly store = inject(Store);
  private readonly live = inject(LiveService);
  protected readonly compare = inject(CompareService);
  protected readonly keyName = midiToNote;
  protected readonly state = this.store.selectSignal(patchFeature.selectPatchState);
  private readonly patch = this.store.selectSignal(patchFeature.selectShown);
  private readonly units = unitsOf(() => this.state().instrument);
  protected readonly chosen = signal('');
  /** What stands before the patches of the library: the same patch otherwise. */
  protected readonly choices = computed(() => {
    const { present, instrument, stored } = this.state();
    const newest = stored?.version ?? 1;
    const versions = Array.from(
      { length: Math.min(MOST_VERSIONS, newest - 1) },
      (_, i) => newest - 1 - i,
    );
    const revisions = (instrument?.revisions ?? []).filter((r) => r.id !== this.patch()?.revision);
    return [
      { id: '', name: 'with nothing' },
      ...versions.map((v) => ({ id: `version:${v}`, name: `version ${v}` })),
      ...(present?.variations ?? []).map((v) => ({
        id: `variation:${v.id}`,
        name: `its variation ${v.name}`,
      })),
      ...revisions.map((r) => ({ id: `revision:${r.id}`, name: `on ${r.name}` })),
      ...this.units().map((u) => ({
        id: `unit:${u.id}`,
        name: `the same readings on ${u.unit.name}`,
      })),
    ];
  });
  protected readonly heard = computed(() => {
    const first = this.live.side() === 'a';
    if (!this.compare.blind()) return first ? 'this patch' : (this.compare.other()?.name ?? '');
    return first === this.compare.xIsThis() ? 'X' : 'Y';
  });

  /** Takes a choice: `<kind>:<id>`, a patch's own id, or nothing. */
  protected async choose(value: string): Promise<void> {
    const [{ instrument }, patch] = [this.state(), this.patch()];
    if (!instrument || !patch) return;
    this.chosen.set(value);
    if (value === '') return this.compare.clear();
    const [kind = '', id = ''] = value.includes(':') ? value.split(':') : ['patch', value];
    try {
      const second = await this.secondOf(kind, id, { instrument, patch });
      await this.compare.withPatch({ instrument, patch }, second, second.name);
    } catch (error) {
      this.compare.fault.set((error as Error).message);
    }
  }

  protected async chooseFile(field: HTMLInputElement): Promise<void> {
    const file = field.files?.[0];
    const [{ instrument }, patch] = [this.state(), this.patch()];
    field.value = '';
    if (!file || !instrument || !patch) return;
    this.chosen.set('');
    await this.compare.withFile({ instrument, patch }, file);
  }

  /** What a choice of the list stands for: the same patch otherwise, or another one. */
  private async secondOf(
    kind: string,
    id: string,
    first: { instrument: Instrument; patch: Patch },
  ): Promise<{ name: string; instrument: Instrument; patch: Patch }> {
    const { instrument, patch } = first;
    switch (kind) {
      case 'variation': {
        const base = this.state().present;
        const variation = base?.variations.find((v) => v.id === id);
        if (!base || !variation) break;
        return { name: variation.name, instrument, patch: applyVariation(base, variation) };
      }
      case 'revision': {
        const revision = instrument.revisions.find((r) => r.id === id);
        if (!revision) break;
        return { name: revision.name, instrument, patch: { ...patch, revision: id } };
      }
      case 'unit': {
        const unit = this.units().find((u) => u.id === id)?.unit;
        if (!unit) break;
        return { name: unit.name, instrument: unitFace(instrument, unit), patch };
      }
    }
    const other =
      kind === 'version'
        ? await answer<StoredPatch>(
            this.api.patches[':id'].versions[':number'].$get({
              param: { id: this.state().id ?? '', number: id },
            }),
          )
        : await answer<StoredPatch>(this.api.patches[':id'].$get({ param: { id } }));
    const definition = await descriptionFor(this.api, other.patch);
    return {
      name: kind === 'version' ? `version ${id}` : other.patch.name,
      instrument: panelOf(definition, other.patch),
      patch: other.patch,
    };
  }
}
