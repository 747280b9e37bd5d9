/** Every way of taking one of each, the first of all foremost. */
export function* product<T>(of: readonly (readonly T[])[]): Generator<T[]> {
  const [first, ...rest] = of;
  if (!first) return yield [];
  for (const others of product(rest)) for (const one of first) yield [one, ...others];
}
