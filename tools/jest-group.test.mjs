import { takeIn } from './jest-group.mjs';

const ran = [];
const before = it;

await takeIn('one file', async () => {
  beforeEach(() => ran.push('hook of one'));
  it('leaves something behind', () => {
    globalThis.leftBehind = 1;
    globalThis.structuredClone = null;
    ran.push('one');
  });
  it.each([2, 3])('has tests of a table: %i', (n) => void ran.push(`one ${n}`));
});
await takeIn('another file', async () => {
  describe('below another', () => {
    it('has hooks of its own, and a world of its own', () => {
      expect(globalThis).not.toHaveProperty('leftBehind');
      expect(globalThis.structuredClone([1])).toEqual([1]);
      ran.push('another');
    });
  });
});
const after = it;

describe('a group of files', () => {
  it('runs what each says, in their order', () => {
    const one = ['one', 'one 2', 'one 3'].flatMap((test) => ['hook of one', test]);
    expect(ran).toEqual([...one, 'another']);
    expect(after).toBe(before);
  });
});
