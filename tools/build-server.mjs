import { fileURLToPath } from 'node:url';
import { build } from 'esbuild';

/** The server and its worker, and the command for backups; packages with native parts or files of their own stay outside. */
export const serverOptions = {
  entryPoints: {
    main: 'server/src/main.ts',
    library: 'server/src/library-command.ts',
    worker: 'server/src/work/worker.ts',
  },
  outdir: 'server/dist',
  bundle: true,
  platform: 'node',
  target: 'node20',
  format: 'esm',
  sourcemap: true,
  logLevel: 'warning',
  alias: { '@hurrel/core': './core/src/index.ts' },
  external: [
    'yauzl',
    'yazl',
    'typeorm',
    'better-sqlite3',
    'pdfkit',
    'sharp',
    'piscina',
    'hono',
    'hono/*',
    '@hono/*',
    'zod',
    'async-mutex',
    'mkcert',
    'qrcode',
    '@fontsource/*',
  ],
};

export const buildServer = (outdir = serverOptions.outdir) => build({ ...serverOptions, outdir });

// `node tools/build-server.mjs FOLDER` puts it elsewhere, for a test that wants one of its own.
if (process.argv[1] === fileURLToPath(import.meta.url)) await buildServer(process.argv[2]);
