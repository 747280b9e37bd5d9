/** A page of a list, as the server answers it. */
export interface Page<T> {
  items: T[];
  total: number;
}

/** Most that one page holds. */
export const PAGE_SIZE = 200;

/** Reads a list to its end, page after page. */
export async function readAll<T>(read: (page: string) => Promise<Page<T>>): Promise<T[]> {
  const all: T[] = [];
  for (let page = 1; ; page++) {
    const { items, total } = await read(String(page));
    all.push(...items);
    if (items.length === 0 || all.length >= total) return all;
  }
}
