// After tests of the server: what they shared is gone.
import { rmSync } from 'node:fs';

export default function putAway() {
  rmSync(process.env.HURREL_TEST_SHARED, { recursive: true, force: true });
}
