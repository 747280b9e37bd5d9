import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { root } from './root';

const files = [
  'README.md',
  'CONTRIBUTING.md',
  'CHANGELOG.md',
  ...['docs', 'docs/decisions'].flatMap((folder) =>
    readdirSync(join(root, folder))
      .filter((name) => name.endsWith('.md'))
      .map((name) => `${folder}/${name}`),
  ),
];
const texts = files.map((file) => [file, readFileSync(join(root, file), 'utf8')] as const);

const FOLDERS = [
  '',
  'core/src',
  'server/src',
  'web/src/app',
  'web/src',
  'core/src/circuit',
  'core/src/sound',
];
/** Names in backticks that look like a place in the repository, without the holes of a pattern. */
const places = (text: string): string[] =>
  [...text.matchAll(/`([a-z][\w.-]+\/(?:[\w.-]+\/)*[\w.-]*)`/g)].flatMap(([, place]) =>
    place && !/^(application|text|audio|image)\//.test(place) ? [place] : [],
  );
const links = (text: string): string[] =>
  [...text.matchAll(/\]\(([^)#:\s]+)(?:#[^)]*)?\)/g)].map(([, to]) => to!);
const exists = (place: string): boolean =>
  FOLDERS.some((folder) =>
    ['', '.ts', '.md', '.json'].some((end) => existsSync(join(root, folder, place + end))),
  );

describe('what the documents say of the house', () => {
  it.each(texts)('%s links to what is there', (file, text) => {
    const gone = links(text).filter((to) => !existsSync(join(root, dirname(file), to)));
    expect(gone).toEqual([]);
  });

  it.each(texts.filter(([file]) => file !== 'CHANGELOG.md'))(
    '%s names places that are there',
    (_file, text) => {
      expect(places(text).filter((place) => !exists(place))).toEqual([]);
    },
  );
});
