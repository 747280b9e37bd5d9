/** The first of `word-1`, `word-2` ... that none of the others has; counting begins behind their number. */
export function freeId(word: string, others: readonly { id: string }[]): string {
  const taken = new Set(others.map((one) => one.id));
  let n = others.length + 1;
  while (taken.has(`${word}-${n}`)) n++;
  return `${word}-${n}`;
}

/** A word as an id, or with the first number behind it that none of the others has. */
export function freeName(word: string, others: readonly { id: string }[]): string {
  const taken = new Set(others.map((one) => one.id));
  if (!taken.has(word)) return word;
  for (let n = 2; ; n++) if (!taken.has(`${word}-${n}`)) return `${word}-${n}`;
}
