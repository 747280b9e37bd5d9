import { type Shown, shownSchema } from '@hurrel/core';
import type { Database } from '../db/database';
import { ShownEntity } from '../db/entities';

/** What panels show now: of each the last that somebody said. */
export class ShownStore {
  constructor(private readonly database: Database) {}

  async get(panel: string): Promise<Shown | null> {
    const row = await this.database.source.getRepository(ShownEntity).findOneBy({ panel });
    if (!row) return null;
    // What an older or a newer Hurrel wrote is not guessed at: then nothing is known.
    const read = shownSchema.safeParse(JSON.parse(row.shown));
    return read.success ? read.data : null;
  }

  /** Changes what is known of a panel; where nothing is, nothing comes of it. @returns what it shows now */
  async change(panel: string, change: (shown: Shown) => Shown): Promise<Shown | null> {
    return this.database.write(async () => {
      const known = await this.get(panel);
      if (!known) return null;
      const shown = change(known);
      await this.put(panel, shown);
      return shown;
    });
  }

  async put(panel: string, shown: Shown): Promise<void> {
    await this.database.write(async (manager) => {
      const row = { panel, shown: JSON.stringify(shown), updatedAt: new Date().toISOString() };
      await manager.upsert(ShownEntity, row, ['panel']);
    });
  }
}
