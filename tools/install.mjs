// Before what needs more than building and serving: installs the packages of checks and tests.
import { ensurePackages, fail } from './lib.mjs';

try {
  await ensurePackages();
} catch (error) {
  fail(error);
}
