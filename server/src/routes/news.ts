import { z } from '@hono/zod-openapi';
import { Problem } from '../problem';
import { storesByKind } from '../store/stores';
import { router, type Services } from './shared';
import { streamOf } from './stream';

/** How many documents one page has open. */
const MOST_OPEN = 20;

const openedSchema = z
  .string()
  .regex(/^(patch|instrument|unit|session|evening):[A-Za-z0-9-]{1,64}$/);

/** Newer versions of open documents, as they are saved: `?of=patch:ID,unit:ID`. An endless answer. */
export const newsStream = (services: Services) => {
  const stores = storesByKind(services);
  return router().get('/news/stream', (c) => {
    const of = z.array(openedSchema).min(1).max(MOST_OPEN).safeParse(c.req.query('of')?.split(','));
    if (!of.success)
      throw new Problem(422, 'Invalid request', '/query/of: expected patch:ID, unit:ID and so on');
    return streamOf(c, services, (say, end) =>
      of.data.map((name) => {
        const [kind, id] = name.split(':') as [keyof typeof stores, string];
        return stores[kind].news.listen(id, (version) =>
          version === null ? end() : say('news', JSON.stringify({ kind, id, version })),
        );
      }),
    );
  });
};
