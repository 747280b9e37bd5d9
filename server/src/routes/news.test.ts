import { harness } from '../testing/harness';

let h: Awaited<ReturnType<typeof harness>>;
beforeAll(async () => {
  h = await harness();
});
afterAll(() => h.database.close());

/** Reads what is said on a line. */
async function listen(of: string) {
  const answer = await h.app.request(`/api/v1/news/stream?of=${of}`);
  const reader = answer.body!.pipeThrough(new TextDecoderStream()).getReader();
  let heard = '';
  return {
    async until(words: string): Promise<void> {
      while (!heard.includes(words)) {
        const { value, done } = await reader.read();
        if (done) throw new Error(`It ended before "${words}": ${heard}`);
        heard += value;
      }
    },
    heard: () => heard,
    stop: () => reader.cancel(),
  };
}

describe('newer versions of open documents', () => {
  it('are told to whoever has them open, once they can be read', async () => {
    const bass = await h.byName('Winch Room bass');
    const horn = await h.byName('Fog Signal horn');
    const line = await listen(`patch:${bass.id},evening:nobody`);
    await line.until('open');
    const match = ({ version }: { version: number }) => ({ 'if-match': `"${version}"` });
    await h.call('PUT', `/patches/${horn.id}`, { ...horn.patch, about: 'x' }, match(horn));
    await h.call('PUT', `/patches/${bass.id}`, { ...bass.patch, about: 'x' }, match(bass));
    const said = JSON.stringify({ kind: 'patch', id: bass.id, version: bass.version + 1 });
    await line.until(said);
    expect(line.heard()).not.toContain(horn.id);
    expect((await h.byName('Winch Room bass')).version).toBe(bass.version + 1);
    await line.stop();
    expect(h.services.patches.news.count).toBe(0);
  });

  it('of what is none are refused', async () => {
    for (const wanted of ['', 'patch', 'patch:../x', 'device:1'])
      expect((await h.call('GET', `/news/stream?of=${wanted}`)).status).toBe(422);
  });
});
