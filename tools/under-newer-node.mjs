// Imported first by what does not run under every Node.
import { underNewerNode } from './newer-node.mjs';

try {
  await underNewerNode();
} catch (error) {
  console.error(error.message);
  process.exit(1);
}
