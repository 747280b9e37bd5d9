/** An id of a file, from words: small letters, digits and hyphens, 48 at most. */
export function idFrom(words: string): string {
  const plain = words
    .toLowerCase()
    .replace(/^\+/, 'plus ')
    .replace(/^[-−]/, 'minus ')
    .normalize('NFKD')
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 44)
    .replace(/-+$/, '');
  return plain === '' || plain === 'constructor' ? 'x' : plain;
}

/** The id, or with a number behind it the first that is free; it is taken then. */
export function take(wanted: string, taken: Set<string>): string {
  let id = wanted;
  for (let n = 2; taken.has(id); n++) id = `${wanted}-${n}`;
  taken.add(id);
  return id;
}
