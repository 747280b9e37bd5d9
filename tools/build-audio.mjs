import { build } from 'esbuild';

/** The audio thread's module: Angular's builder takes workers, but no worklets. */
export const audioOptions = {
  entryPoints: { 'live-processor': 'web/src/audio/live-processor.ts' },
  outdir: 'web/public/audio',
  bundle: true,
  minify: true,
  format: 'iife',
  target: 'es2022',
  logLevel: 'warning',
};

export const buildAudio = () => build(audioOptions);
