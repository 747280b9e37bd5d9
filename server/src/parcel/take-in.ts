import { randomUUID } from 'node:crypto';
import { setImmediate as rest } from 'node:timers/promises';
import {
  carryOver,
  type Choose,
  editionOf,
  type Instrument,
  keepsMeaning,
  mergeInstruments,
  mergeEvenings,
  mergePatches,
  mergeSessions,
  mergeUnits,
  type Patch,
  type Unit,
} from '@hurrel/core';
import equal from 'fast-deep-equal';
import { Problem } from '../problem';
import type { Stores } from '../store/stores';
import { keyOf, look, type Looked, type ReadItem } from './look';
import type { OpenParcel } from './open';

/** What is done with something: kept as it is here, taken as it comes, both, merged line by line, or left out. */
export type Decision = 'mine' | 'theirs' | 'both' | 'merged' | 'out';
export type Decisions = Readonly<Record<string, Decision>>;
/** Of what is merged, the differences that are taken as they come, by their pointers; all others stay mine. */
export type Picks = Readonly<Record<string, readonly string[]>>;

const ORIGIN = 'from a file';
/** Bytes of a photograph or a recording as it is kept. */
const MOST_RAW = 24 * 1024 * 1024;

/** What was stored. */
export interface TakenIn {
  stored: number;
  /** Names of patches of which something had no place on the description that was kept. */
  shortened: string[];
}

/**
 * Takes a parcel in, all of it or nothing, as it stands to what is here at that moment. What is new comes in under its own id; what is the same is left alone; where it
 * is otherwise here, it is as was decided: nothing decided leaves mine.
 * @param progress told how many are done
 */
export function takeIn(
  services: Stores,
  parcel: OpenParcel,
  read: readonly ReadItem[],
  decisions: Decisions,
  picks: Picks,
  progress: (done: number) => void,
): Promise<TakenIn> {
  // Looked at once more, within the change: nothing can come in between.
  return services.database.write(async () => {
    const looked = await look(services, read);
    return new Taking(services, parcel, read, looked, decisions, picks, progress).all();
  });
}

class Taking {
  private readonly ways: ReadonlyMap<string, Decision>;
  /** Ids that something got here, where it is another one. */
  private readonly ids = new Map<string, string>();
  /** Versions here of the descriptions of the file: `<instrument> <edition>`; absent: that description was not taken. */
  private readonly editions = new Map<string, number>();
  private readonly shortened: string[] = [];
  private stored = 0;
  private done = 0;

  constructor(
    private readonly services: Stores,
    private readonly parcel: OpenParcel,
    private readonly read: readonly ReadItem[],
    looked: readonly Looked[],
    decisions: Decisions,
    private readonly picks: Picks,
    private readonly progress: (done: number) => void,
  ) {
    this.ways = new Map(
      looked.map(({ key, standing }) => {
        const decided = decisions[key];
        if (standing === 'same') return [key, 'mine'];
        if (standing === 'new' || standing === 'removed')
          return [key, decided === 'out' || decided === 'mine' ? 'out' : 'theirs'];
        return [key, decided === undefined || decided === 'out' ? 'mine' : decided];
      }),
    );
  }

  async all(): Promise<TakenIn> {
    const of = <K extends ReadItem['kind']>(kind: K) =>
      this.read.filter((r): r is Extract<ReadItem, { kind: K }> => r.kind === kind);
    const panels = of('instrument').sort((a, b) => lowest(a) - lowest(b));
    for (const one of panels) await this.step(() => this.instrument(one));
    for (const one of of('unit')) await this.step(() => this.unit(one));
    for (const one of of('patch')) await this.step(() => this.patch(one, panels));
    for (const one of of('session')) await this.step(() => this.session(one));
    for (const one of of('evening')) await this.step(() => this.evening(one));
    return { stored: this.stored, shortened: this.shortened };
  }

  private async step(act: () => Promise<void>): Promise<void> {
    await act();
    this.progress(++this.done);
    // Whoever reads is answered in between.
    if (this.done % 10 === 0) await rest();
  }

  private way(one: ReadItem): Decision {
    return this.ways.get(keyOf(one)) ?? 'out';
  }

  private async instrument(one: Extract<ReadItem, { kind: 'instrument' }>): Promise<void> {
    const { instruments } = this.services;
    const way = this.way(one);
    if (way === 'out') return;
    const { id: was } = one.item;
    let id = this.ids.get(keyOf(one)) ?? was;
    if (way === 'both' && id === was) {
      id = await this.freeId(was);
      this.ids.set(keyOf(one), id);
    }
    const document: Instrument = { ...one.document, id };
    const here = await instruments.peek(id);
    let number: number | undefined;
    if (here === 'removed') await instruments.restore(id);
    if (here === undefined) {
      number = (await instruments.create(document, ORIGIN)).version;
      this.stored++;
    } else {
      number = await this.versionLike(id, document);
      if (way !== 'mine') {
        const next = way === 'merged' ? await this.mixed(one, id, document) : document;
        const { instrument } = await instruments.get(id);
        if (!equal(instrument, next)) {
          const saved = await instruments.save(id, '*', next, ORIGIN);
          this.stored++;
          await this.photograph(next);
          // On a mixture that means something else, what was read on theirs is carried over.
          if (number === undefined && keepsMeaning(document, next)) number = saved.version;
        }
      }
    }
    await this.photograph(document);
    if (number === undefined) return;
    for (const edition of one.item.editions ?? []) this.editions.set(`${was} ${edition}`, number);
  }

  /** Mine, with the pieces of theirs that were picked. */
  private async mixed(one: ReadItem, id: string, theirs: Instrument): Promise<Instrument> {
    const { instrument } = await this.services.instruments.get(id);
    const picked = new Set(this.picks[keyOf(one)]);
    const choose = (pointer: string) => (picked.has(pointer) ? 'theirs' : 'mine');
    return mergeInstruments(null, instrument, theirs, choose).merged;
  }

  /** The photograph that a description lies on comes with it. */
  private photograph({ panel }: Instrument): Promise<void> {
    return this.raw('photograph', panel.photograph?.id, this.services.photographs);
  }

  /** What a patch is fed with comes with it. */
  private sound({ feed }: Patch): Promise<void> {
    return this.raw('sound', feed?.sound, this.services.sounds);
  }

  /** What lies in the parcel under the checksum of its bytes, and is not here yet. */
  private async raw(
    kind: 'photograph' | 'sound',
    id: string | undefined,
    store: Stores['photographs'] | Stores['sounds'],
  ): Promise<void> {
    const item = this.parcel.items.find((i) => i.kind === kind && i.id === id);
    if (id === undefined || !item || (await store.has(id))) return;
    if (item.size > MOST_RAW)
      throw new Problem(422, 'Not a parcel', `${item.path} is larger than any ${kind}.`);
    const parts: Uint8Array[] = [];
    for await (const part of this.parcel.bytes(item)) parts.push(part);
    await store.take(id, Buffer.concat(parts));
  }

  /** The number of a version that says the same. */
  private async versionLike(id: string, document: Instrument): Promise<number | undefined> {
    const { instruments } = this.services;
    const { version } = await instruments.standing(id);
    for (let number = version; number >= 1; number--) {
      if (equal((await instruments.version(id, number)).instrument, document)) return number;
    }
    return undefined;
  }

  private async freeId(id: string): Promise<string> {
    for (let n = 2; ; n++) {
      const free = `${id.slice(0, 44)}-${n}`;
      if ((await this.services.instruments.peek(free)) === undefined) return free;
    }
  }

  private async unit(one: Extract<ReadItem, { kind: 'unit' }>): Promise<void> {
    const unit = { ...one.document, instrument: this.instrumentOf(one.document.instrument) };
    const merge: Merging<Unit> = (mine, theirs, choose) =>
      Promise.resolve(mergeUnits(null, mine, theirs, choose).merged);
    await this.put(this.services.units, one, unit, merge);
  }

  private async patch(
    one: Extract<ReadItem, { kind: 'patch' }>,
    panels: readonly Extract<ReadItem, { kind: 'instrument' }>[],
  ): Promise<void> {
    if (this.way(one) === 'mine' || this.way(one) === 'out') return;
    const { document } = one;
    const [instrument, edition] = [
      this.instrumentOf(document.instrument),
      this.editions.get(`${document.instrument} ${editionOf(document)}`),
    ];
    await this.sound(document);
    const unit = document.unit && (this.ids.get(`unit:${document.unit}`) ?? document.unit);
    let patch: Patch = { ...document, instrument, ...(unit ? { unit } : {}) };
    const panel = panels.find(
      (p) => p.item.id === document.instrument && p.item.editions?.includes(editionOf(document)),
    )?.document;
    if (edition !== undefined) patch = numbered(patch, edition);
    else if (panel && (await this.services.instruments.peek(instrument)) !== undefined) {
      // The description here was kept: what was read on the other one is set on this.
      const newest = await this.services.instruments.get(instrument);
      const was = { ...panel, id: instrument };
      const carried = carryOver(was, newest.instrument, patch, newest.version);
      if (carried.items.some((i) => i.how === 'lost' || i.how === 'asked'))
        this.shortened.push(patch.name);
      patch = numbered(carried.patch, newest.version);
    } else if (!panel) {
      // A patch by itself is taken to stand on what is here.
      const { version } = await this.services.instruments.standing(instrument);
      const fits = await this.services.instruments.findOf(patch);
      if (!fits) patch = numbered(patch, version);
    }
    await this.put(this.services.patches, one, patch, async (mine, theirs, choose) => {
      const onMine = await this.services.instruments.onto(theirs, mine);
      return mergePatches(null, mine, { ...onMine, ...editionLike(mine) }, choose).merged;
    });
  }

  private async session(one: Extract<ReadItem, { kind: 'session' }>): Promise<void> {
    const way = this.way(one);
    if (way === 'mine' || way === 'out') return;
    const takes = this.parcel.items.filter((i) => i.kind === 'take' && i.session === one.item.id);
    const passes = one.document.passes.map((p) => ({
      ...p,
      patch: this.ids.get(`patch:${p.patch}`) ?? p.patch,
    }));
    // Takes belong to a session that is there: it comes first without them.
    const bare = { ...one.document, passes: passes.map(({ take: _, ...p }) => p) };
    const id = await this.put(this.services.sessions, one, bare, (mine, theirs, choose) =>
      Promise.resolve(mergeSessions(null, mine, theirs, choose).merged),
    );
    if (way === 'merged') return;
    const given = new Map<string, string>();
    for (const item of takes) {
      const stored = await this.services.takes.add(id, item.name, this.parcel.bytes(item));
      given.set(item.id, stored.id);
    }
    const whole = {
      ...bare,
      passes: passes.map(({ take, ...p }) => {
        const now = take === undefined ? undefined : given.get(take);
        return now === undefined ? p : { ...p, take: now };
      }),
    };
    await this.services.sessions.save(id, '*', whole, ORIGIN);
  }

  private async evening(one: Extract<ReadItem, { kind: 'evening' }>): Promise<void> {
    const { document } = one;
    const panels = document.panels.map(({ unit, ...panel }) => ({
      ...panel,
      instrument: this.instrumentOf(panel.instrument),
      ...(unit === undefined ? {} : { unit: this.ids.get(`unit:${unit}`) ?? unit }),
    }));
    const songs = document.songs.map((song) => ({
      ...song,
      plays: song.plays.map((p) => ({ ...p, patch: this.ids.get(`patch:${p.patch}`) ?? p.patch })),
    }));
    const evening = { ...document, panels, songs };
    await this.put(this.services.evenings, one, evening, (mine, theirs, choose) =>
      Promise.resolve(mergeEvenings(null, mine, theirs, choose).merged),
    );
  }

  private instrumentOf(id: string): string {
    return this.ids.get(`instrument:${id}`) ?? id;
  }

  /** Stores a document as was decided. @returns the id it has here */
  private async put<D>(
    store: {
      readonly kind: { name: ReadItem['kind'] };
      peek(id: string): Promise<unknown>;
      restore(id: string): Promise<unknown>;
      create(document: D, origin: string, id?: string): Promise<{ id: string }>;
      save(id: string, on: '*', document: D, origin: string): Promise<{ id: string }>;
    },
    one: ReadItem,
    document: D,
    merge: Merging<D>,
  ): Promise<string> {
    const way = this.way(one);
    const { id } = one.item;
    if (way === 'mine' || way === 'out') return id;
    this.stored++;
    if (way === 'both' || id === 'document') {
      const copy = randomUUID();
      this.ids.set(keyOf(one), copy);
      await store.create(document, ORIGIN, copy);
      return copy;
    }
    const here = await store.peek(id);
    if (here === 'removed') await store.restore(id);
    if (here === undefined) await store.create(document, ORIGIN, id);
    else if (way === 'merged') {
      const mine = (here as Record<string, D>)[store.kind.name]!;
      const picked = new Set(this.picks[keyOf(one)]);
      const choose = (pointer: string) => (picked.has(pointer) ? 'theirs' : 'mine');
      await store.save(id, '*', await merge(mine, document, choose), ORIGIN);
    } else await store.save(id, '*', document, ORIGIN);
    return id;
  }
}

type Merging<D> = (mine: D, theirs: D, choose: Choose) => Promise<D>;

/** A patch stands on the version that mine stands on; the first is not said. */
const editionLike = ({ edition }: Patch): Partial<Patch> =>
  edition === undefined ? {} : { edition };

const lowest = ({ item }: ReadItem): number => item.editions?.[0] ?? Infinity;

/** A patch on a version of its instrument; the first needs no saying. */
function numbered(patch: Patch, edition: number): Patch {
  const { edition: _, ...rest } = patch;
  return edition === 1 ? rest : { ...rest, edition };
}
