/** A list as a record by the `id` of its entries; of two with one id, the later. */
export const byId = <T extends { id: string }>(all: readonly T[]): Record<string, T> =>
  Object.fromEntries(all.map((one) => [one.id, one]));
