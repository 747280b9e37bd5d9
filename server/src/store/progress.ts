import type { Database } from '../db/database';
import { ProgressEntity } from '../db/entities';

/** Which steps of a rebuild are ticked, by patch and by what the panel was before. */
export class ProgressStore {
  constructor(private readonly database: Database) {}

  async get(patchId: string, origin: string): Promise<string[]> {
    const row = await this.database.source
      .getRepository(ProgressEntity)
      .findOneBy({ patchId, origin });
    return row ? (JSON.parse(row.done) as string[]) : [];
  }

  async put(patchId: string, origin: string, done: string[]): Promise<void> {
    await this.database.write(async (manager) => {
      const row = {
        patchId,
        origin,
        done: JSON.stringify(done),
        updatedAt: new Date().toISOString(),
      };
      await manager.upsert(ProgressEntity, row, ['patchId', 'origin']);
    });
  }
}
