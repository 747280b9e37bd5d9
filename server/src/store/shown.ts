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
   * Changes what is known of a panel; where nothing is, nothing comes of it.
   * @param change gets since when nobody has said anything, by the clock of the server as clocks of devices differ, and says it anew
   * @returns what it shows now
   */
  async change(
    panel: string,
    change: (shown: Shown, since: string) => { shown: Shown; since: string },
  ): Promise<Shown | null> {
    return this.database.write(async () => {
      const known = await this.find(panel);
      if (!known) return null;
      const { shown, since } = change(known.shown, known.since);
      await this.put(panel, shown, since);
      return shown;
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
