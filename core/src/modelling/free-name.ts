/** A word as an id, or with the first number behind it that none of the others has. */
export function freeName(word: string, others: readonly { id: string }[]): string {
  const taken = new Set(others.map((one) => one.id));
  if (!taken.has(word)) return word;
  for (let n = 2; ; n++) if (!taken.has(`${word}-${n}`)) return `${word}-${n}`;
}
