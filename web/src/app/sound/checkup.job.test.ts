import { blankPatch, instrumentSchema, type Patch } from '@hurrel/core';
import curlewFile from '../../../../library/instruments/staithe-curlew.json';
import { checkupJob } from './checkup.job';

const curlew = instrumentSchema.parse(curlewFile);
const patch: Patch = {
  ...blankPatch(curlew, 'fed'),
  feed: {
    sound: 'c'.repeat(64),
    name: 'rain',
    jack: 'j-ext',
    start: 'running',
    round: true,
    level: 0.5,
  },
};

describe('what is said of a patch whose recording is missing', () => {
  it('is that it is missing, and all that can be said without it', async () => {
    Object.assign(globalThis, { fetch: () => Promise.resolve({ ok: false, status: 404 }) });
    const [first, ...others] = await checkupJob.checkup({ instrument: curlew, patch });
    expect(first).toMatchObject({ id: 'feed-missing', severity: 'wrong' });
    expect(first!.why).toContain('"rain"');
    const { feed: _, ...bare } = patch;
    const without = await checkupJob.checkup({ instrument: curlew, patch: bare });
    expect(without.some((f) => f.id === 'feed-missing')).toBe(false);
    // Silent for a reason of its own: nothing is turned up on a blank panel.
    expect(others.map((f) => f.severity)).toContain('silent');
  });
});
