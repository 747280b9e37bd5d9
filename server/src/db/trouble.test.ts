import { troubleOf } from './trouble';

it.each([
  ['SQLITE_FULL', 'full'],
  ['ENOSPC', 'full'],
  ['EROFS', 'read-only'],
  ['SQLITE_IOERR_WRITE', 'failing'],
  ['ENOENT', undefined],
])('%s is told as %s', (code, kind) => {
  const error = Object.assign(new Error('x'), { code });
  expect(troubleOf(error)?.kind).toBe(kind);
  expect(troubleOf({ driverError: error })?.kind).toBe(kind);
});
