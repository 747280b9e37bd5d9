// Finds a package of the interface in the file that stands for it (tools/jest-packages.mjs).
const { existsSync, readFileSync } = require('node:fs');
const { join } = require('node:path');

const folder = join(__dirname, '..', '.cache', 'jest', 'packages');
const index = join(folder, 'index.json');
/** Jest asks for its own parts before there is anything. */
const NONE = { files: {} };
let made = NONE;

module.exports = (request, options) => {
  if (made === NONE && existsSync(index)) made = JSON.parse(readFileSync(index, 'utf8'));
  return Object.hasOwn(made.files, request)
    ? join(folder, made.files[request])
    : options.defaultResolver(request, options);
};
