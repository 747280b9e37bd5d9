/** The first of `word-1`, `word-2` ... that none of the others has; counting begins behind their number. */
export function freeId(word: string, others: readonly { id: string }[]): string {
  const taken = new Set(others.map((one) => one.id));
  let n = others.length + 1;
  while (taken.has(`${word}-${n}`)) n++;
  return `${word}-${n}`;
}
