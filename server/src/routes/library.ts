import { createReadStream, mkdirSync } from 'node:fs';
import { mkdtemp, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { createRoute, z } from '@hono/zod-openapi';
import { backUp, backupFolder, dailyName } from '../db/backups';
import { fileOf, json, router, type Services } from './shared';

const health = z
  .object({
    ok: z.boolean(),
    replacedAt: z.string().nullable().openapi({
      description: 'When another library was put in the place of the one that was open',
    }),
    storage: z.object({
      state: z.enum(['well', 'low', 'trouble']),
      says: z.string(),
      free: z.number().nullable(),
    }),
  })
  .openapi('Health');

/** The library as a whole: whether it can be written, and a copy of it. */
export const libraryRoutes = ({ database }: Services) =>
  router()
    .openapi(
      createRoute({
        method: 'get',
        path: '/health',
        responses: json(health, 'Whether what is sent can be kept'),
      }),
      async (c) => {
        const storage = await database.storage.state();
        const { replacedAt } = database;
        return c.json({ ok: storage.state !== 'trouble', replacedAt, storage }, 200);
      },
    )
    .openapi(
      createRoute({
        method: 'get',
        path: '/backup',
        responses: fileOf(
          'application/vnd.sqlite3',
          'The whole library in one file, to be put back on the page of files or with `npm run restore`',
        ),
      }),
      async (c) => {
        const folder = backupFolder(database.file);
        mkdirSync(folder, { recursive: true });
        const own = await mkdtemp(join(folder, '.sent-'));
        const file = join(own, 'library.db');
        const clear = (): Promise<void> => rm(own, { recursive: true, force: true });
        try {
          await backUp(database.backup, file);
          const { size } = await stat(file);
          const stream = createReadStream(file);
          stream.once('close', () => void clear());
          return c.body(Readable.toWeb(stream) as unknown as ReadableStream, 200, {
            'content-type': 'application/vnd.sqlite3',
            'content-length': String(size),
            'content-disposition': `attachment; filename="${dailyName(new Date())}"`,
          }) as never;
        } catch (error) {
          await clear();
          throw error;
        }
      },
    );
