/**
 * Where rows of these heights stand when they fill columns of a height, one after the other.
 * @param heads whether a row is the heading of the next one, and stays with it
 */
export function flow(
  heights: number[],
  height: number,
  heads: readonly boolean[] = [],
): { columns: number; places: { column: number; y: number }[] } {
  let [column, y] = [0, 0];
  const places = heights.map((h, i) => {
    const needed = heads[i] ? h + (heights[i + 1] ?? 0) : h;
    if (y > 0 && y + needed > height) [column, y] = [column + 1, 0];
    const place = { column, y };
    y += h;
    return place;
  });
  return { columns: column + 1, places };
}
