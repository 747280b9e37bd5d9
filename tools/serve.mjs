// npm run serve: the built server and nothing else, in this process so that Ctrl-C reaches it.
import './under-newer-node.mjs';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { fail, root } from './lib.mjs';

const main = join(root, 'server/dist/main.js');
if (!existsSync(main)) fail('Hurrel has not been built yet: run npm start once, or npm run build.');
await import(main);
