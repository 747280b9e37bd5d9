import { oldNode } from './node-version';

it('a Node that SQLite cannot run in is told, with what to do', () => {
  expect(oldNode('20.20.2')).toMatch(
    /this is Node 20\.20\.2, and 22 or newer is needed.*npm start/,
  );
  expect(oldNode('22.0.0')).toBeNull();
  expect(oldNode('100.1.0')).toBeNull();
  expect(oldNode()).toBeNull();
});
