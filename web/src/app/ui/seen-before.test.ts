import { jest } from '@jest/globals';
import { seenBefore } from './seen-before';

beforeEach(() => localStorage.clear());

it('is new once on a device', () => {
  expect([seenBefore('legend'), seenBefore('legend'), seenBefore('other')]).toEqual([
    false,
    true,
    false,
  ]);
});

it('is new each time where the device keeps nothing', () => {
  const get = jest.spyOn(Storage.prototype, 'getItem').mockImplementation(() => {
    throw new Error('forbidden');
  });
  expect([seenBefore('legend'), seenBefore('legend')]).toEqual([false, false]);
  get.mockRestore();
});
