import fc from 'fast-check';
import { nextLook } from './where';

describe('where somebody stopped', () => {
  it('is found in as few looks as yes and no allow', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 300 }), fc.nat(), (n, seed) => {
        const steps = Array.from({ length: n }, (_, i) => i);
        const done = seed % (n + 1);
        const answers = new Map<number, boolean>();
        let next = nextLook(steps, answers);
        while ('look' in next) {
          answers.set(next.look, next.look < done);
          next = nextLook(steps, answers);
        }
        expect(next.done).toBe(done);
        expect(answers.size).toBeLessThanOrEqual(Math.ceil(Math.log2(n + 1)));
      }),
    );
  });

  it('needs no look where there is nothing to do', () => {
    expect(nextLook([], new Map())).toEqual({ done: 0 });
  });
});
