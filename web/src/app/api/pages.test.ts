import { readAll } from './pages';

const library = (length: number) => {
  const asked: string[] = [];
  const all = Array.from({ length }, (_, i) => i);
  const read = async (page: string) => {
    asked.push(page);
    const from = 200 * (Number(page) - 1);
    return { items: all.slice(from, from + 200), total: length };
  };
  return { asked, all, read };
};

it.each([0, 1, 199, 200, 201, 1001])('reads a list of %p to its end', async (length) => {
  const { all, asked, read } = library(length);
  expect(await readAll(read)).toEqual(all);
  expect(asked).toHaveLength(Math.max(1, Math.ceil(length / 200)));
});

it('ends when a list got shorter while it was read', async () => {
  const read = async (page: string) => ({ items: page === '1' ? [1] : [], total: 9 });
  expect(await readAll(read)).toEqual([1]);
});
