import { Listeners } from './listeners';

describe('listeners', () => {
  it('hear what is said of their thing, until they go', () => {
    const all = new Listeners<string>();
    const heard: (string | null)[] = [];
    const deaf = all.listen('a', (said) => heard.push(said));
    all.say('a', 'one');
    all.say('b', 'of something else');
    deaf();
    all.say('a', 'two');
    expect(heard).toEqual(['one']);
    expect(all.count).toBe(0);
  });

  it('hear that nothing more will be said', () => {
    const all = new Listeners<string>();
    const heard: (string | null)[] = [];
    all.listen('a', (said) => heard.push(said));
    const deaf = all.listen('b', (said) => heard.push(said));
    all.close();
    deaf();
    expect(heard).toEqual([null, null]);
    expect(all.count).toBe(0);
  });
});
