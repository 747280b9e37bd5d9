import { fileURLToPath } from 'node:url';
import { build } from 'esbuild';

/** What TypeORM asks for only where another kind of database is meant. */
const OTHER_DATABASES = [
  '@google-cloud/spanner',
  '@sap/hana-client',
  '@sap/hana-client/*',
  'hdb-pool',
  'ioredis',
  'mongodb',
  'mssql',
  'mysql',
  'mysql2',
  'oracledb',
  'pg',
  'pg-native',
  'pg-query-stream',
  'react-native-sqlite-storage',
  'redis',
  'sql.js',
  'sqlite3',
  'ts-node',
  'typeorm-aurora-data-api-driver',
];

/**
 * The server and its worker, and the command for backups, each one file: a start reads no thousand others, and takes a
 * quarter less. Packages with native parts or files of their own stay outside.
 */
export const serverOptions = {
  entryPoints: {
    main: 'server/src/main.ts',
    library: 'server/src/library-command.ts',
    worker: 'server/src/work/worker.ts',
  },
  outdir: 'server/dist',
  bundle: true,
  platform: 'node',
  target: 'node22',
  format: 'esm',
  minifyWhitespace: true,
  sourcemap: true,
  logLevel: 'warning',
  alias: { '@hurrel/core': './core/src/index.ts' },
  external: ['better-sqlite3', 'pdfkit', 'sharp', 'piscina', '@fontsource/*', ...OTHER_DATABASES],
  // Packages written for CommonJS ask for Node's own modules.
  banner: {
    js: "import { createRequire as requireFrom } from 'node:module'; const require = requireFrom(import.meta.url);",
  },
};

export const buildServer = (outdir = serverOptions.outdir) => build({ ...serverOptions, outdir });

// `node tools/build-server.mjs FOLDER` puts it elsewhere, for a test that wants one of its own.
if (process.argv[1] === fileURLToPath(import.meta.url)) await buildServer(process.argv[2]);
