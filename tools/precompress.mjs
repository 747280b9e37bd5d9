// Leaves a gzipped file beside each one of a folder that gains by it.
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { extname, join } from 'node:path';
import { gzipSync } from 'node:zlib';

const KINDS = new Set(['.js', '.css', '.svg', '.json', '.webmanifest', '.wasm']);
const SMALLEST = 1024;

export function precompress(folder) {
  for (const entry of readdirSync(folder, { recursive: true, withFileTypes: true })) {
    if (!entry.isFile() || !KINDS.has(extname(entry.name))) continue;
    const path = join(entry.parentPath, entry.name);
    const bytes = readFileSync(path);
    if (bytes.length >= SMALLEST) writeFileSync(`${path}.gz`, gzipSync(bytes, { level: 9 }));
  }
}
