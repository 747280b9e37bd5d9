import { computed, effect, inject, type Signal, signal, untracked } from '@angular/core';
import { Store } from '@ngrx/store';
import {
  type Calibrations,
  controlLabel,
  type Heard,
  heardApart,
  type Instrument,
  levelCaution,
  type Patch,
  beforeShown,
  panelAtInit,
  panelAtStart,
  type PanelBefore,
  patchReadOn,
  type Shown,
  shownId,
  planRebuild,
  translate,
} from '@hurrel/core';
import { answer, API, type StoredPatch } from '../api/client';
import { PanelsHeard } from '../midi/panels-heard';
import { unitsOf } from '../units/units-of';
import { patchFeature, shownPatch } from '../patch/patch.reducer';

/**
 * The reckoning behind a rebuild. To be called where things can be injected.
 *
 * @param from what the panel shows before: `start`, `init`, `base` for the patch without variations, `variation-` and the id
 *   of one, or another patch's id
 * @param variation one that a link asks for
 * @param asked unit before which one stands, when a link says so
 * @param began what the panel showed when the rebuild was begun
 * @param goesOnFrom where it begins unless a link says otherwise; empty when nothing is known
 */
export function rebuildDesk(
  from: Signal<string>,
  variation: Signal<string | undefined>,
  asked: Signal<string | undefined>,
  began: Signal<Shown | null | undefined>,
  goesOnFrom: Signal<string>,
) {
  const [api, store] = [inject(API), inject(Store)];
  const heard = inject(PanelsHeard);
  const id = store.selectSignal(patchFeature.selectId);
  const instrument = store.selectSignal(patchFeature.selectInstrument);
  const base = store.selectSignal(patchFeature.selectPresent);
  const shown = store.selectSignal(patchFeature.selectVariation);
  /** Nothing is begun from before it is known what the panel shows. */
  const origin = computed(() => from() || goesOnFrom() || 'start');
  /** Variation that is built: one that a link asks for, else the one that is shown. */
  const goal = computed(() => variation() ?? shown() ?? '');
  const wanted = computed(() => {
    const patch = shownPatch(base(), goal());
    // Places to listen tell of the patch itself: a variation sounds otherwise.
    return patch && goal() ? { ...patch, checkpoints: [] } : patch;
  });

  const units = unitsOf(instrument);
  const chosenUnit = signal<string | null>(null);
  const unit = computed(() => chosenUnit() ?? asked() ?? base()?.unit ?? '');
  const measured = computed((): Calibrations =>
    Object.fromEntries(units().map((u) => [u.id, u.unit])),
  );
  /** A patch as it reads on the unit before which one stands. */
  const readHere = <P extends Patch | null>(patch: P, panel: Instrument): P | Patch =>
    patch && patchReadOn(measured(), unit(), patch, panel);
  const standingBefore = computed(() => units().find((u) => u.id === unit())?.unit);
  const patch = computed(() => {
    const [panel, goal] = [instrument(), wanted()];
    return panel ? readHere(goal, panel) : goal;
  });
  /** Where the same value is read elsewhere on this unit. */
  const translations = computed(() => {
    const [panel, goal, own] = [instrument(), wanted(), base()?.unit ?? ''];
    if (!panel || !goal || unit() === own) return [];
    const find = (id: string) => measured()[id] ?? { calibration: {} };
    return translate(panel, goal, find(own), find(unit()))
      .filter((t) => t.from !== t.to || t.error !== '')
      .map((t) => ({ ...t, label: controlLabel(panel, t.control) }));
  });

  /** The patch or one of its variations, when the origin names one. */
  const ownState = (of: string): Patch | null => {
    if (of === 'base') return base();
    return of.startsWith('variation-') ? shownPatch(base(), of.slice(10)) : null;
  };
  const otherPatch = signal<StoredPatch | null>(null);
  const error = signal('');
  const before = computed((): PanelBefore | null => {
    const panel = instrument();
    const [known, goal] = [began(), patch()];
    if (!panel) return null;
    if (origin() === 'shown') return known && goal ? beforeShown(known, panel, goal) : null;
    if (origin() === 'start') return panelAtStart(panel);
    if (origin() === 'init') return panelAtInit(panel);
    const stood =
      ownState(origin()) ?? (otherPatch()?.id === origin() ? otherPatch()!.patch : null);
    return readHere(stood, panel);
  });
  const plan = computed(() => {
    const [panel, was, goal] = [instrument(), before(), patch()];
    return panel && was && goal ? planRebuild(panel, was, goal, undefined, standingBefore()) : null;
  });

  effect(() => {
    const of = origin();
    untracked(() => {
      error.set('');
      if (['start', 'init', 'shown'].includes(of) || ownState(of)) return;
      answer<StoredPatch>(api.patches[':id'].$get({ param: { id: of } })).then(
        (stored) => origin() === of && otherPatch.set(stored),
        (trouble: Error) => origin() === of && error.set(trouble.message),
      );
    });
  });

  const panelId = computed(() => shownId(instrument()?.id ?? '', unit()));
  const opened = Date.now();
  const sent = computed(() => heard.since(panelId(), opened));

  return {
    id,
    instrument,
    /** The panel before which one stands, as what it shows is kept under. */
    panelId,
    /** What was turned on the panel since one came here, whichever movement was next, by controller number. */
    sent,
    /** What of that stands elsewhere than the patch says; of what is done nothing. */
    turned: (done: readonly string[]): Heard[] => {
      const controls = instrument()?.controls.filter((c) => !done.includes(c.id)) ?? [];
      return heardApart(controls, patch()?.settings ?? {}, sent());
    },
    /** The patch without variations. */
    base,
    patch,
    origin,
    goal,
    units,
    unit,
    chooseUnit: (one: string): void => chosenUnit.set(one),
    translations,
    before,
    plan,
    error,
    /** What one can begin from beside patches: the start, init, and of this patch itself what departs from it. */
    origins: computed(() => {
      const variations = base()?.variations ?? [];
      const known = began();
      return [
        ...(known ? [{ id: 'shown', name: `what it shows now: ${known.name}` }] : []),
        { id: 'start', name: 'the start: every control at rest' },
        { id: 'init', name: 'the init patch' },
        ...(variations.length > 0 ? [{ id: 'base', name: 'this patch itself' }] : []),
        ...variations.map((v) => ({ id: `variation-${v.id}`, name: `its variation ${v.name}` })),
      ];
    }),
    /** What ticks are kept under: the origin, and the variation that is built. */
    progressKey: computed(() => {
      // From what a panel shows one begins but once: ticks of another time are part of it already.
      const start =
        origin() === 'shown' ? `shown-${(began()?.at ?? '').replace(/\W/g, '-')}` : origin();
      return goal() ? `${start}.${goal()}` : start;
    }),
    sheet: computed(() => {
      const query = new URLSearchParams({ from: origin() });
      if (origin() === 'shown') query.set('panel', panelId());
      if (goal()) query.set('variation', goal());
      if (unit() !== (base()?.unit ?? '')) query.set('unit', unit() || 'printed');
      return `/api/v1/patches/${id()}/sheet.pdf?${query}`;
    }),
    caution: computed(() => {
      const [panel, goal] = [instrument(), patch()];
      return panel && goal ? levelCaution(panel, goal) : '';
    }),
  };
}
