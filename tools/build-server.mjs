import { build } from 'esbuild';

/** Bundles the server and its render worker; packages stay outside and are loaded from node_modules. */
export const buildServer = () =>
  build({
    entryPoints: { main: 'server/src/main.ts', 'render-worker': 'server/src/render/worker.ts' },
    outdir: 'server/dist',
    bundle: true,
    platform: 'node',
    target: 'node20',
    format: 'esm',
    sourcemap: true,
    logLevel: 'warning',
    alias: { '@hurrel/core': './core/src/index.ts' },
    external: [
      'typeorm',
      'better-sqlite3',
      'pdfkit',
      'piscina',
      'hono',
      'hono/*',
      'zod',
      '@hono/*',
      'async-mutex',
      '@fontsource/*',
    ],
  });
