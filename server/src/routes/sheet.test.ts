import { harness } from '../testing/harness';
import { jest } from '@jest/globals';
import { type ContinuousControl, isWork, soundingValue, taperValue } from '@hurrel/core';
import type { SheetContent } from '../sheet/content';

/** A bass recorded on one unit, another that opens a quarter more, and what its sheets are made of. */
async function twoUnits() {
  const { call, byName, services } = await harness();
  const { id, version, patch } = await byName('Winch Room bass');
  const face = (await services.instruments.get(patch.instrument)).instrument;
  const cutoff = face.controls.find((c) => c.id === 'cutoff') as ContinuousControl;
  const middle = taperValue(cutoff.bindings[0]!.taper, 0.5);
  const unit = async (name: string, factor: number, instrument = patch.instrument) => {
    const calibration = { cutoff: [{ at: 0.5, value: factor * middle, against: 'tuner' }] };
    const made = await call('POST', '/units', { instrument, name, calibration });
    expect(made.status).toBe(201);
    return made.body.id as string;
  };
  const [left, right, other] = [
    await unit('left', 1),
    await unit('right', 1.25),
    await unit('elsewhere', 1, 'staithe-curlew'),
  ];
  const kept = await call(
    'PUT',
    `/patches/${id}`,
    { ...patch, unit: left },
    { 'if-match': `"${version}"` },
  );
  expect(kept.status).toBe(200);
  const drawn = jest.spyOn(services.work, 'do');
  /** What a sheet shows, or the refusal. */
  const sheet = async (query: string) => {
    drawn.mockClear();
    const { status, body } = await call('GET', `/patches/${id}/sheet.pdf?${query}`);
    const content = drawn.mock.calls.find(([name]) => name === 'sheet')?.[1] as SheetContent;
    return { status, body, content };
  };
  const reads = ({ patch: shown }: SheetContent) =>
    soundingValue(cutoff, shown.settings['cutoff']!) as number;
  return { sheet, reads, left, right, other };
}

describe('a sheet for a unit', () => {
  it('shows what the patch reads there, and whose readings they are', async () => {
    const { sheet, reads, left, right } = await twoUnits();
    const [own, there] = [await sheet('from=start'), await sheet(`from=start&unit=${right}`)];
    expect([own.status, there.status]).toEqual([200, 200]);
    // What opens more is opened less.
    expect(reads(there.content)).toBeLessThan(reads(own.content));
    expect(there.content.readingsOf).toBe('right');
    expect(own.content.readingsOf).toBeUndefined();
    expect((await sheet(`from=start&unit=${left}`)).content.readingsOf).toBeUndefined();
    const printed = await sheet('from=start&unit=printed');
    expect(printed.content.readingsOf).toBe('any unit, as printed');
    expect(printed.content.notReached).toEqual([]);
  });

  it('moves nothing from the patch itself: what stood there was read there too', async () => {
    const { sheet, right } = await twoUnits();
    const { content } = await sheet(`from=base&unit=${right}`);
    expect(content.plan.steps.filter(isWork)).toEqual([]);
  });

  it('is refused for a unit of another instrument, and for one that is gone', async () => {
    const { sheet, other } = await twoUnits();
    const refused = await sheet(`unit=${other}`);
    expect([refused.status, refused.body.errors[0].pointer]).toEqual([422, '/query/unit']);
    expect((await sheet('unit=nobody')).status).toBe(404);
    expect((await sheet('unit=no%20body')).status).toBeGreaterThanOrEqual(400);
  });
});
