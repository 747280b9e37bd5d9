import { setImmediate as rest } from 'node:timers/promises';
import { type Carried, type CarryAnswers, carryOver, editionOf, type Patch } from '@hurrel/core';
import type { Database } from '../db/database';
import { Problem } from '../problem';
import type { InstrumentStore } from './instruments';
import type { PatchStore } from './patches';

/** A patch whose instrument means something else by now than when it was recorded. */
export interface Behind {
  id: string;
  name: string;
  song: string;
  version: number;
  edition: number;
}

/** What becomes of a patch. */
export interface CarriedPatch {
  id: string;
  name: string;
  version: number;
  items: Carried[];
  /** What nothing can be done about here: the patch stays where it is. */
  open: string[];
}

/** A version of a patch, as it was read. */
export interface Read {
  id: string;
  version: number;
}

/** Carries patches over to the newest description of their instrument, and back. */
export class Carrying {
  constructor(
    private readonly database: Database,
    private readonly instruments: InstrumentStore,
    private readonly patches: PatchStore,
  ) {}

  /** Patches that stand on a description that means something else than the newest. */
  async behind(instrument: string): Promise<Behind[]> {
    const { since } = await this.instruments.standing(instrument);
    return this.database.source.manager.query<Behind[]>(
      `SELECT p.id AS id, p.name AS name, p.song AS song, p.head AS version,
          coalesce(json_extract(v.document, '$.edition'), 1) AS edition
        FROM patch p JOIN patch_version v ON v.patch_id = p.id AND v.number = p.head
        WHERE p.instrument_id = ? AND p.deleted_at IS NULL
          AND coalesce(json_extract(v.document, '$.edition'), 1) < ?
        ORDER BY p.song, p.name, p.id`,
      [instrument, since],
    );
  }

  /** What would become of patches; nothing is stored. */
  async look(instrument: string, read: readonly Read[], answers: CarryAnswers) {
    const looked = await this.each(instrument, read, answers);
    return looked.map(({ told }) => told);
  }

  /** Carries patches over, all of them or none. */
  async carry(instrument: string, read: readonly Read[], answers: CarryAnswers) {
    const looked = await this.each(instrument, read, answers);
    const stuck = looked.find(({ told }) => told.open.length > 0);
    if (stuck) {
      throw new Problem(
        409,
        'Cannot be carried over',
        `${stuck.told.name} does not fit: ${stuck.told.open[0]} Leave it where it is, or mend it by hand.`,
      );
    }
    return this.database.write(async () => {
      const done: CarriedPatch[] = [];
      for (const { told, patch, now } of looked) {
        const origin = `carried over to version ${now} of its instrument`;
        const saved = await this.patches.save(told.id, told.version, patch, origin);
        done.push({ ...told, version: saved.version });
      }
      return done;
    });
  }

  /** Takes carrying over back: each patch is again what it was before, as long as nobody went on with it. */
  back(read: readonly Read[]): Promise<Read[]> {
    return this.database.write(async () => {
      const done: Read[] = [];
      for (const { id, version } of read) {
        const { version: now } = await this.patches.goBack(id, version, version - 1);
        done.push({ id, version: now });
      }
      return done;
    });
  }

  private async each(instrument: string, read: readonly Read[], answers: CarryAnswers) {
    const newest = await this.instruments.get(instrument);
    const done: { told: CarriedPatch; patch: Patch; now: number }[] = [];
    for (const { id, version } of read) {
      // Others are answered in between.
      await rest();
      const { patch } = await this.patches.version(id, version);
      if (patch.instrument !== instrument) {
        throw new Problem(422, 'Another instrument', `${patch.name} is no patch of ${instrument}.`);
      }
      const was = await this.instruments.of(patch);
      const now = Math.max(newest.version, editionOf(patch));
      const carried = carryOver(was, newest.instrument, patch, now, answers);
      const { items, open } = carried;
      done.push({
        told: { id, name: patch.name, version, items, open },
        patch: carried.patch,
        now,
      });
    }
    return done;
  }
}
