import { type Shown, shownSchema } from '@hurrel/core';
import type { Database } from '../db/database';
import { ShownEntity } from '../db/entities';

/** What panels show now: of each the last that somebody said. */
export class ShownStore {
  constructor(private readonly database: Database) {}

  async get(panel: string): Promise<Shown | null> {
    return (await this.find(panel))?.shown ?? null;
  }

  /**
   * Changes what is known of a panel.
   * @param change gets what is known, null when nothing is, and since when nobody has said anything, by the clock of the server as
   *   clocks of devices differ; says both anew, or null where nothing comes of it
   * @returns what it shows now
   */
  async change(
    panel: string,
    change: (shown: Shown | null, since: string) => { shown: Shown; since: string } | null,
  ): Promise<Shown | null> {
    return this.database.write(async () => {
      const known = await this.find(panel);
      const changed = change(known?.shown ?? null, known?.since ?? '');
      if (!changed) return known?.shown ?? null;
      await this.put(panel, changed.shown, changed.since);
      return changed.shown;
    });
  }

  async put(panel: string, shown: Shown, updatedAt = new Date().toISOString()): Promise<void> {
    await this.database.write(async (manager) => {
      const row = { panel, shown: JSON.stringify(shown), updatedAt };
      await manager.upsert(ShownEntity, row, ['panel']);
    });
  }

  private async find(panel: string): Promise<{ shown: Shown; since: string } | null> {
    const row = await this.database.source.getRepository(ShownEntity).findOneBy({ panel });
    if (!row) return null;
    // What an older or a newer Hurrel wrote is not guessed at: then nothing is known.
    const read = shownSchema.safeParse(JSON.parse(row.shown));
    return read.success ? { shown: read.data, since: row.updatedAt } : null;
  }
}
