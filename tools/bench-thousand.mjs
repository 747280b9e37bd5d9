// A library of a thousand patches of one's own instrument: carried over, sent out, taken in.
import { createRequire } from 'node:module';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { withLibrary } from './app.mjs';
import { root } from './lib.mjs';

const COUNT = 1000;
/** Patches that the page sends at a time. */
const LOT = 50;
const ID = 'bench-weir';

const weir = () => ({
  ...JSON.parse(readFileSync(join(root, 'library/instruments/oxbow-sluice.json'), 'utf8')),
  id: ID,
  name: 'Weir',
});

/** The instrument, and a thousand patches with every control of it recorded, each otherwise. */
function fill(file) {
  const Database = createRequire(join(root, 'server/package.json'))('better-sqlite3');
  const db = new Database(file);
  const now = new Date().toISOString();
  const instrument = weir();
  const run = (sql, ...values) => db.prepare(sql).run(...values);
  db.transaction(() => {
    run(
      'INSERT INTO instrument (id, head, created_at, name, maker, updated_at) VALUES (?, 1, ?, ?, ?, ?)',
      ...[ID, now, instrument.name, instrument.maker, now],
    );
    run(
      'INSERT INTO instrument_version (instrument_id, number, document, origin, created_at, since) VALUES (?, 1, ?, ?, ?, 1)',
      ...[ID, JSON.stringify(instrument), 'created', now],
    );
    for (let i = 0; i < COUNT; i++) {
      const id = `thousand-${i}`;
      const settings = Object.fromEntries(
        instrument.controls.map((c, k) => [
          c.id,
          {
            kind: 'set',
            value: c.positions
              ? c.positions[(i + k) % c.positions.length].id
              : ((i * 7 + k * 13) % 100) / 100,
          },
        ]),
      );
      const patch = {
        ...{ format: 'hurrel-patch', version: 1, name: `Thousand ${i}`, instrument: ID },
        ...{ revision: instrument.revisions[0].id, song: `Song ${i % 40}`, role: 'bass' },
        ...{ tempo: 120, about: '', settings, notes: {}, cables: [], matrix: [] },
        ...{ variations: [], ends: {}, meant: {}, phrase: [], patterns: [], checkpoints: [] },
      };
      run(
        'INSERT INTO patch (id, instrument_id, name, song, role, about, recorded, head, created_at, updated_at) VALUES (?, ?, ?, ?, ?, ?, ?, 1, ?, ?)',
        ...[id, ID, patch.name, patch.song, patch.role, '', Object.keys(settings).length, now, now],
      );
      run(
        'INSERT INTO patch_version (patch_id, number, document, origin, created_at) VALUES (?, 1, ?, ?, ?)',
        ...[id, JSON.stringify(patch), 'created', now],
      );
    }
  })();
  db.close();
}

const json = async (response) => {
  if (!response.ok) throw new Error(await response.text());
  return response.json();
};
const send = (url, body, headers = {}) => ({
  url,
  init: {
    method: 'POST',
    body: JSON.stringify(body),
    headers: { 'content-type': 'application/json', ...headers },
  },
});
const post = ({ url, init }) => fetch(url, init).then(json);

/** Seconds in which a thousand patches are carried over to a scale drawn anew, lot by lot as the page does it. */
export const carryThousand = () =>
  withLibrary(fill, async (url) => {
    const api = `${url}/api/v1`;
    const instrument = weir();
    const cutoff = instrument.controls.find((c) => c.id === 'cutoff');
    cutoff.scale.marks = cutoff.scale.marks.map((m) => ({ ...m, value: m.value * 2 }));
    await fetch(`${api}/instruments/${ID}`, {
      method: 'PUT',
      body: JSON.stringify(instrument),
      headers: { 'content-type': 'application/json', 'if-match': '"1"' },
    }).then(json);
    const since = performance.now();
    const { items } = await fetch(`${api}/instruments/${ID}/behind`).then(json);
    if (items.length !== COUNT) throw new Error(`${items.length} patches are behind`);
    for (let at = 0; at < items.length; at += LOT) {
      const patches = items.slice(at, at + LOT).map(({ id, version }) => ({ id, version }));
      await post(send(`${api}/instruments/${ID}/carry`, { patches }));
    }
    const took = (performance.now() - since) / 1000;
    const left = await fetch(`${api}/instruments/${ID}/behind`).then(json);
    if (left.items.length > 0) throw new Error(`${left.items.length} patches were left behind`);
    return took;
  });

const zipOf = async (url) =>
  new Uint8Array(await (await fetch(`${url}/api/v1/parcel.zip`)).arrayBuffer());

/** Seconds in which a library of a thousand patches goes out as one zip. */
export const exportThousand = () =>
  withLibrary(fill, async (url) => {
    const since = performance.now();
    const bytes = await zipOf(url);
    if (bytes.length < 100_000) throw new Error('The zip is too small');
    return (performance.now() - since) / 1000;
  });

/** Saves a patch again and again; ends with the longest wait in ms. */
async function saving(api) {
  const [{ id }] = (await fetch(`${api}/patches?q=Winch`).then(json)).items;
  let newest = await fetch(`${api}/patches/${id}`).then(json);
  const waits = [];
  let going = true;
  const save = async () => {
    const since = performance.now();
    newest = await fetch(`${api}/patches/${id}`, {
      method: 'PUT',
      headers: { 'content-type': 'application/json', 'if-match': `"${newest.version}"` },
      body: JSON.stringify({ ...newest.patch, about: `saved ${waits.length} times` }),
    }).then(json);
    waits.push(performance.now() - since);
  };
  for (let i = 0; i < 20; i++) await save();
  waits.length = 0;
  const all = (async () => {
    while (going) await save();
  })();
  return async () => {
    going = false;
    await all;
    return Math.max(...waits);
  };
}

/** Ms of the longest save while a library of a thousand patches goes out, and while it is taken in. */
export const carryStall = async () => {
  const [bytes, out] = await withLibrary(fill, async (url) => {
    const longest = await saving(`${url}/api/v1`);
    return [await zipOf(url), await longest()];
  });
  const taken = await withLibrary(
    () => undefined,
    async (url) => {
      const api = `${url}/api/v1`;
      const longest = await saving(api);
      const { token } = await fetch(`${api}/parcels`, { method: 'POST', body: bytes }).then(json);
      await post(send(`${api}/parcels/${token}`, { decisions: {} }));
      return longest();
    },
  );
  console.error(`  longest save: ${out.toFixed(0)} ms going out, ${taken.toFixed(0)} ms taken in`);
  return Math.max(out, taken);
};

/** Seconds in which it is looked at and taken in by a library without it; how long others wait meanwhile is told beside. */
export const importThousand = async () => {
  const bytes = await withLibrary(fill, zipOf);
  return withLibrary(
    () => undefined,
    async (url) => {
      const api = `${url}/api/v1`;
      const waits = [];
      let going = true;
      const others = (async () => {
        while (going) {
          const since = performance.now();
          await fetch(`${api}/patches?size=50`)
            .then(json)
            .catch(() => (going = false));
          waits.push(performance.now() - since);
          await new Promise((done) => setTimeout(done, 20));
        }
      })();
      const since = performance.now();
      const { token, items } = await fetch(`${api}/parcels`, {
        method: 'POST',
        body: bytes,
      }).then(json);
      const fresh = items.filter((i) => i.standing === 'new').length;
      if (fresh < COUNT) throw new Error(`${fresh} documents are new`);
      await post(send(`${api}/parcels/${token}`, { decisions: {} }));
      const took = (performance.now() - since) / 1000;
      going = false;
      await others;
      waits.sort((a, b) => a - b);
      console.error(
        `  others waited ${waits[Math.ceil(waits.length * 0.99) - 1].toFixed(0)} ms (p99 of ${waits.length})`,
      );
      return took;
    },
  );
};
