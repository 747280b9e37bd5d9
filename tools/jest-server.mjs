// Before tests of the server: the core as one file, and a folder for the demo library, which the first that needs it makes for all.
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import coreAsOneFile from './jest-core.mjs';

export default async function prepare() {
  await coreAsOneFile();
  process.env.HURREL_TEST_SHARED = mkdtempSync(join(tmpdir(), 'hurrel-test-shared-'));
}
