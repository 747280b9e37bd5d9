import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { type Action, Store } from '@ngrx/store';
import equal from 'fast-deep-equal';
import {
  catchError,
  concat,
  concatMap,
  debounce,
  debounceTime,
  defer,
  distinctUntilChanged,
  EMPTY,
  filter,
  first,
  firstValueFrom,
  from,
  map,
  merge,
  type Observable,
  of,
  pairwise,
  startWith,
  switchMap,
  takeUntil,
  tap,
  timer,
} from 'rxjs';
import { StorageService } from './storage.service';
import { ApiError } from '../api/client';
import type { Damage, DocumentKind, DocumentState, Stored } from './document';
import type { DocumentActions } from './document.actions';
import { isDirty } from './document.reducer';
import { Drafts } from './drafts';
import { News } from './news';

/** Quiet time after an edit before it is saved. */
const QUIET_MS = 350;
/** The same after a step back or forward. */
const STEPPING_MS = 1500;
/** A pause in typing: what comes after it is undone by itself. */
const PAUSE_MS = 700;
/** A drag has a name of its own, and may rest. */
const DRAG = /^[a-z]+-\d+$/;
/** Time between two tries while the server does not answer. */
const RETRY_MS = 2000;

/** What a kind of document brings: itself, asked for where things can be injected, its actions and its place in the store. */
export interface DocumentParts<D, C> {
  kind: () => DocumentKind<D, C>;
  actions: DocumentActions<D, C>;
  select: (state: object) => DocumentState<D, C>;
}

/**
 * Reading, keeping and saving of one kind of document. Drafts are on this device before anything else can happen to an edit;
 * saves go one at a time, each on top of the last; what is left unsaved when a document is closed is sent after it.
 */
export const documentEffects = <D, C>(parts: DocumentParts<D, C>) => ({
  open: createEffect(() => opening(parts), { functional: true }),
  keepDrafts: createEffect(() => keeping(parts), { functional: true, dispatch: false }),
  saveSoon: createEffect(() => savingSoon(parts), { functional: true }),
  save: createEffect(() => saving(parts), { functional: true }),
  rest: createEffect(() => resting(parts), { functional: true }),
  hear: createEffect(() => hearing(parts), { functional: true }),
  lookWhy: createEffect(
    (actions = inject(Actions), storage = inject(StorageService)) =>
      actions.pipe(
        ofType(parts.actions.saveOffline),
        filter(({ reached }) => reached),
        tap(() => void storage.look()),
      ),
    { functional: true, dispatch: false },
  ),
  tryAgain: createEffect(
    (actions = inject(Actions)) =>
      actions.pipe(
        ofType(parts.actions.saveOffline),
        switchMap(() => timer(RETRY_MS)),
        map(() => parts.actions.save()),
      ),
    { functional: true },
  ),
});

function opening<D, C>({ kind, actions }: DocumentParts<D, C>): Observable<Action> {
  const [own, drafts] = [kind(), inject(Drafts)];
  const read = async (id: string): Promise<Action[]> => {
    const { stored, context } = await own.read(id);
    const draft = await drafts.find(own.name, id, (source) => own.parse(source));
    if (!draft || equal(draft.document, stored.document)) {
      drafts.drop(own.name, id);
      return [actions.opened({ stored, context })];
    }
    if (draft.version === stored.version) {
      return [actions.opened({ stored, context, draft }), actions.save()];
    }
    // Somebody else went on meanwhile: what changed the same is decided by the person, who is told what each has changed.
    const begun = await own.readVersion?.(id, draft.version).catch(() => undefined);
    const merged = begun && own.merge?.(begun, draft.document, stored.document);
    if (merged) {
      return [
        actions.opened({ stored, context, draft: { ...draft, document: merged } }),
        actions.save(),
      ];
    }
    const base = begun ? { ...stored, version: draft.version, document: begun } : stored;
    return [actions.opened({ stored: base, context, draft }), actions.conflict({ theirs: stored })];
  };
  const all = inject(Actions);
  return all.pipe(
    ofType(actions.open),
    switchMap(({ id }) =>
      defer(() => read(id)).pipe(
        concatMap((found) => found),
        catchError((error: Error, again) =>
          concat(
            of(actions.openFailed({ message: error.message, ...damageIn(error) })),
            isAway(error) ? timer(RETRY_MS).pipe(switchMap(() => again)) : EMPTY,
          ),
        ),
        takeUntil(all.pipe(ofType(actions.close))),
      ),
    ),
  );
}

/** What is told of a version that the disk has damaged. */
const damageIn = (error: Error): { damage?: Damage } =>
  error instanceof ApiError && error.body.damage ? { damage: error.body.damage as Damage } : {};

/** Whether the server may answer another time what it did not answer now. */
const isAway = (error: unknown): boolean =>
  error instanceof ApiError && (error.offline || error.status >= 500);

function keeping<D, C>({ kind, select }: DocumentParts<D, C>): Observable<unknown> {
  const [{ name }, drafts] = [kind(), inject(Drafts)];
  return inject(Store)
    .select(select)
    .pipe(
      distinctUntilChanged((a, b) => a.present === b.present && a.stored === b.stored),
      tap((state) => {
        const { id, present, stored } = state;
        if (id === null || present === null || stored === null) return;
        if (isDirty(state)) drafts.keep(name, id, { version: stored.version, document: present });
        else drafts.drop(name, id);
      }),
    );
}

function savingSoon<D, C>({ actions, select }: DocumentParts<D, C>): Observable<Action> {
  return inject(Store)
    .select(select)
    .pipe(
      distinctUntilChanged((a, b) => a.present === b.present && a.stored === b.stored),
      filter(isDirty),
      // Whoever goes back through many steps makes one version of it.
      debounce(({ stepping }) => timer(stepping ? STEPPING_MS : QUIET_MS)),
      map(() => actions.save()),
    );
}

function resting<D, C>({ actions, select }: DocumentParts<D, C>): Observable<Action> {
  return inject(Store)
    .select(select)
    .pipe(
      distinctUntilChanged((a, b) => a.present === b.present && a.gesture === b.gesture),
      debounceTime(PAUSE_MS),
      filter(({ gesture }) => gesture !== null && !DRAG.test(gesture)),
      map(() => actions.rest()),
    );
}

/** Something to write: of the open document, or of one that was left. */
interface Job<D> {
  id: string;
  stored: Stored<D>;
  document: D;
  left: boolean;
}

function saving<D, C>({ kind, actions, select }: DocumentParts<D, C>): Observable<Action> {
  const [own, store, drafts] = [kind(), inject(Store), inject(Drafts)];
  const states = store.select(select);
  /** The newest version of each document that was written from here. */
  const written = new Map<string, Stored<D>>();

  const jobOf = (state: DocumentState<D, C>, left: boolean): Job<D> | null => {
    const { id, stored, present, save } = state;
    if (id === null || stored === null || present === null) return null;
    return save.kind === 'conflict' || !isDirty(state)
      ? null
      : { id, stored, document: present, left };
  };
  const run = async ({ id, stored, document }: Job<D>): Promise<Stored<D>> => {
    const known = written.get(id);
    const on = known && known.version > stored.version ? known : stored;
    try {
      return await own.write(on, document);
    } catch (error) {
      const theirs = own.newer(error);
      // The answer to an earlier try was lost on its way: what is newer is one's own.
      if (theirs && equal(theirs.document, document)) return theirs;
      throw error;
    }
  };
  const write = (job: Job<D>): Observable<Action> => {
    if (!job.left) store.dispatch(actions.saving());
    return from(run(job)).pipe(
      tap((saved) => {
        written.set(job.id, saved);
        if (job.left) drafts.drop(own.name, job.id, job.document);
      }),
      map((saved) => actions.saved({ stored: saved })),
      // What was left stays a draft, which is taken up when it is opened again.
      catchError((error: unknown) =>
        job.left ? EMPTY : defer(() => together(error)).pipe(concatMap((found) => found)),
      ),
    );
  };

  /** What another window has saved meanwhile is taken together with this, where nothing has to be decided. */
  const together = async (error: unknown): Promise<Action[]> => {
    const theirs = own.newer(error);
    const caught = theirs && (await caughtUp(await firstValueFrom(states), theirs, own));
    return caught ? [actions.caughtUp(caught)] : [whyNotSaved(error, own, actions)];
  };

  const asked = inject(Actions).pipe(
    ofType(actions.save),
    map(() => defer(() => states.pipe(first()))),
    map((state) => state.pipe(map((s) => jobOf(s, false)))),
  );
  const left = states.pipe(
    startWith(null),
    pairwise(),
    filter(([before, after]) => before !== null && before.id !== after?.id),
    map(([before]) => of(before && jobOf(before, true))),
  );
  return merge(asked, left).pipe(
    concatMap((job) =>
      job.pipe(
        filter((j) => j !== null),
        concatMap(write),
      ),
    ),
  );
}

/** Steps back that are brought together with what another window saved; those before it are let go. */
const MOST_REBASED = 50;

/** An open document together with what another window saved of it; null where somebody has to decide. */
async function caughtUp<D, C>(
  { present, past, future, stored: base, context }: DocumentState<D, C>,
  theirs: Stored<D>,
  own: DocumentKind<D, C>,
  fresh?: C,
): Promise<Parameters<DocumentActions<D, C>['caughtUp']>[0] | null> {
  if (!own.merge || base === null || present === null || context === null) return null;
  const onto = (mine: D): D | null => own.merge!(base.document, mine, theirs.document);
  const merged = onto(present);
  if (merged === null) return null;
  const all = (steps: readonly D[]): D[] => steps.flatMap((step) => onto(step) ?? []);
  return {
    stored: theirs,
    context: fresh ?? context,
    present: merged,
    past: all(past.slice(-MOST_REBASED)),
    future: all(future.slice(0, MOST_REBASED)),
  };
}

/** What other windows save of what is open here is here soon; what is being edited meets it when it is saved. */
function hearing<D, C>({ kind, actions, select }: DocumentParts<D, C>): Observable<Action> {
  const [own, news] = [kind(), inject(News)];
  const states = inject(Store).select(select);
  const isBehind = ({ stored, save }: DocumentState<D, C>, version: number): boolean =>
    stored !== null && save.kind === 'saved' && (version === 0 || version > stored.version);
  const read = async (id: string, version: number): Promise<Action[]> => {
    if (!isBehind(await firstValueFrom(states), version)) return [];
    const { stored, context } = await own.read(id);
    const now = await firstValueFrom(states);
    if (now.id !== id || !isBehind(now, stored.version)) return [];
    const caught = await caughtUp(now, stored, own, context);
    return caught ? [actions.caughtUp(caught)] : [];
  };
  return states.pipe(
    map(({ id }) => id),
    distinctUntilChanged(),
    switchMap((id) =>
      id === null
        ? EMPTY
        : news.of(own.name, id).pipe(
            concatMap((version) => defer(() => read(id, version)).pipe(catchError(() => EMPTY))),
            concatMap((found) => found),
          ),
    ),
  );
}

function whyNotSaved<D, C>(
  error: unknown,
  kind: DocumentKind<D, C>,
  actions: DocumentActions<D, C>,
): Action {
  const theirs = kind.newer(error);
  if (theirs) return actions.conflict({ theirs });
  return error instanceof ApiError && isAway(error)
    ? actions.saveOffline({ reached: !error.offline })
    : actions.saveRefused({ message: error instanceof Error ? error.message : String(error) });
}
