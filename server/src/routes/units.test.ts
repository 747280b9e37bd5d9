import { harness } from '../testing/harness';

const unit = {
  instrument: 'marram-estuary',
  name: 'spare',
  note: '',
  calibration: {},
  slots: [{ bank: 1, slot: 1, name: 'INIT', needed: true, note: '' }],
};

describe('units', () => {
  it('are listed, of all instruments or of one, and counted with it', async () => {
    const { call } = await harness();
    const all = await call('GET', '/units');
    expect(all.body.items.length).toBe(3);
    const sluices = await call('GET', '/units?instrument=oxbow-sluice');
    expect(sluices.body.items.map((u: { unit: { name: string } }) => u.unit.name)).toEqual([
      'lent by Skerrow Lock',
      'the barge’s own',
    ]);
    const { body } = await call('GET', '/instruments');
    expect(body.items.find((i: { id: string }) => i.id === 'oxbow-sluice').units).toBe(2);
  });

  it('are refused as a whole, with the place of every fault', async () => {
    const { call } = await harness();
    const wrong = await call('POST', '/units', {
      ...unit,
      calibration: { nothing: [{ at: 0, value: 1 }], cutoff: [{ at: 0.5, value: -1 }] },
      slots: [{ bank: 99, slot: 1 }],
    });
    expect(wrong.status).toBe(422);
    expect(wrong.body.errors.map((e: { pointer: string }) => e.pointer)).toEqual([
      '/calibration/nothing',
      '/calibration/cutoff',
      '/slots/0',
    ]);
    expect((await call('GET', '/units?instrument=marram-estuary')).body.items).toHaveLength(1);
    const unknown = await call('POST', '/units', { ...unit, instrument: 'none' });
    expect(unknown.body.errors[0].pointer).toBe('/instrument');
  });
});
