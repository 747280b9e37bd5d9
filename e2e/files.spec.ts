import { readFileSync } from 'node:fs';
import { expect, test } from './app';

test('a library goes out as one file, is looked at, and only what differs comes back in', async ({
  page,
  api,
  errors,
}) => {
  const { id } = await api.create('init', 'Sent by post');
  await page.goto('/library');
  await page.getByRole('link', { name: 'Files', exact: true }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Everything as one file' }).click();
  const file = (await (await download).path())!;
  expect(readFileSync(file).subarray(0, 2).toString()).toBe('PK');

  // One is changed, one is removed meanwhile.
  const stored = await api.get(`/patches/${id}`);
  await api.put(stored, { ...stored.patch, tempo: 77 });
  const gone = await api.create('init', 'Thrown out by mistake');
  const both = await page.request.get('/api/v1/parcel.zip');
  await page.request.delete(`/api/v1/patches/${gone.id}`, { headers: { 'if-match': '*' } });

  await page.getByLabel(/Choose a file/).setInputFiles({
    name: 'before.zip',
    mimeType: 'application/zip',
    buffer: readFileSync(file),
  });
  const look = page.getByRole('region', { name: 'before.zip' });
  await expect(look.getByRole('heading', { name: /^Different here 1/ })).toBeVisible();
  await expect(look.getByRole('heading', { name: /^New/ })).toHaveCount(0);
  await look.getByText('1 difference').click();
  await expect(look.getByRole('row', { name: 'Tempo 77 bpm 120 bpm' })).toBeVisible();
  await expect(look.getByRole('button', { name: 'Import 0 documents' })).toBeDisabled();
  await look.getByLabel('What is done with Sent by post').selectOption('theirs, as a new version');
  await look.getByRole('button', { name: 'Import 1 document' }).click();
  await expect(page.getByText('1 document is in.')).toBeVisible();
  expect((await api.get(`/patches/${id}`)).patch.tempo).toBe(120);

  // The same once more, merged line by line.
  const again = await api.get(`/patches/${id}`);
  await api.put(again, { ...again.patch, tempo: 81, name: 'Sent by hand' });
  await page.getByLabel(/Choose a file/).setInputFiles({
    name: 'merged.zip',
    mimeType: 'application/zip',
    buffer: readFileSync(file),
  });
  const merged = page.getByRole('region', { name: 'merged.zip' });
  await merged.getByLabel('What is done with Sent by post').selectOption('merged, line by line');
  await merged.getByLabel('Take theirs of Tempo').check();
  await merged.getByRole('button', { name: 'Import 1 document' }).click();
  await expect(page.getByText('1 document is in.').last()).toBeVisible();
  await expect.poll(async () => (await api.get(`/patches/${id}`)).patch.tempo).toBe(120);
  expect((await api.get(`/patches/${id}`)).patch.name).toBe('Sent by hand');

  // What was removed is offered to come back; a dropped file is looked at on any page.
  await page.goto('/instruments');
  const data = await page.evaluateHandle(
    (base64) => {
      const bytes = Uint8Array.from(atob(base64), (c) => c.charCodeAt(0));
      const transfer = new DataTransfer();
      transfer.items.add(new File([bytes], 'dropped.zip', { type: 'application/zip' }));
      return transfer;
    },
    (await both.body()).toString('base64'),
  );
  await page.dispatchEvent('main', 'dragover', { dataTransfer: data });
  await expect(page.getByText(/Drop to preview/)).toBeVisible();
  await page.dispatchEvent('main', 'drop', { dataTransfer: data });
  const dropped = page.getByRole('region', { name: 'dropped.zip' });
  await expect(dropped.getByRole('heading', { name: /^Removed here 1/ })).toBeVisible();
  await dropped.getByRole('button', { name: 'Import 1 document' }).click();
  await expect(page.getByText('1 document is in.').last()).toBeVisible();
  expect((await api.get(`/patches/${gone.id}`)).patch.name).toBe('Thrown out by mistake');
  expect(errors).toEqual([]);
});

test('the patches of the song that was chosen are saved', async ({ page, api, errors }) => {
  const { items } = await api.get<{ items: { id: string; song: string }[] }>('/patches?size=200');
  const idsOf = (name: string) => items.flatMap(({ id, song }) => (song === name ? [id] : []));
  await page.goto('/files');
  const songs = page.getByLabel('Song', { exact: true });
  await expect(songs.getByRole('option').nth(2)).toBeAttached();
  const names = await songs.getByRole('option').allTextContents();
  for (const name of [names[2]!, names[1]!]) {
    await songs.selectOption(name);
    const download = page.waitForEvent('download');
    await page.getByRole('link', { name: 'Save', exact: true }).first().click();
    const saved = new URL((await download).url()).searchParams.get('patches')!.split(',');
    expect(saved.sort()).toEqual(idsOf(name).sort());
  }
  expect(errors).toEqual([]);
});

test('what is no file of Hurrel is told in one sentence, and the page is alive', async ({
  page,
}) => {
  await page.goto('/files');
  const field = page.getByLabel(/Choose a file/);
  await field.setInputFiles({
    name: 'notes.zip',
    mimeType: 'application/zip',
    buffer: Buffer.from('not a zip at all'),
  });
  await expect(page.getByRole('alert')).toHaveText(
    'notes.zip: This is neither a zip nor a document of Hurrel: choose a file that Hurrel saved.',
  );
  await field.setInputFiles({
    name: 'patch.json',
    mimeType: 'application/json',
    buffer: Buffer.from('{"format":"hurrel-patch","version":1,"name":"x","tempo":9000}'),
  });
  await expect(page.getByRole('alert')).toContainText('patch.json: document.json, /');
});

test('settings go out as a table and come back in, one step to undo', async ({ page, api }) => {
  const { id } = await api.create('init', 'On a table');
  await page.goto(`/patch/${id}/details`);
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'The settings as CSV' }).click();
  const csv = readFileSync((await (await download).path())!, 'utf8');
  expect(csv).toContain('cutoff,Filter cutoff,10');
  const send = (text: string) =>
    page.getByLabel('Take settings from CSV').setInputFiles({
      name: 'table.csv',
      mimeType: 'text/csv',
      buffer: Buffer.from(text),
    });
  await send(csv.replace('cutoff,Filter cutoff,10', 'cutoff,Filter cutoff,loud'));
  await expect(page.getByRole('alert')).toContainText('table.csv, line');
  await send(csv.replace('cutoff,Filter cutoff,10', 'cutoff,Filter cutoff,4.5'));
  await expect(page.getByText(/settings taken from On a table/)).toBeVisible();
  await expect
    .poll(async () => (await api.get(`/patches/${id}`)).patch.settings['cutoff'])
    .toEqual({
      kind: 'set',
      value: 0.45,
    });
  const png = page.waitForEvent('download');
  await page.getByRole('button', { name: 'as PNG' }).click();
  expect(
    readFileSync((await (await png).path())!)
      .subarray(1, 4)
      .toString(),
  ).toBe('PNG');
});

test('patches chosen by hand go out as one table, and its columns come back in', async ({
  page,
  api,
  errors,
}) => {
  const [one, two] = [
    await api.create('init', 'Ledger one'),
    await api.create('init', 'Ledger two'),
  ];
  await page.goto('/files');
  await page.getByText('Some of them, chosen by hand').click();
  await page.getByLabel('Narrow the list').fill('ledger');
  await page.getByLabel('all 2').check();
  await expect(page.getByRole('link', { name: '2 as one file' })).toHaveAttribute(
    'href',
    new RegExp(`${one.id}|${two.id}`),
  );
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Their settings as one table' }).click();
  const csv = readFileSync((await (await download).path())!, 'utf8');
  expect(csv.split('\r\n')[0]).toMatch(/^control,in words,Ledger (one|two),Ledger (one|two)$/);

  // One cell is changed; a wrong one is told with its place, and nothing of it is taken.
  const at = csv.split('\r\n')[0]!.split(',').indexOf('Ledger two');
  const changed = (reading: string): Buffer =>
    Buffer.from(
      csv
        .split('\r\n')
        .map((line) => {
          const cells = line.split(',');
          return cells[0] === 'cutoff' ? cells.with(at, reading).join(',') : line;
        })
        .join('\r\n'),
    );
  const table = page.getByLabel('Import a table of settings');
  const give = (reading: string) =>
    table.setInputFiles({ name: 'two.csv', mimeType: 'text/csv', buffer: changed(reading) });
  await give('green');
  await expect(page.getByRole('alert')).toContainText(/two\.csv: Line \d+, column \d+: .*"green"/);
  await give('7.5');
  const look = page.getByRole('region', { name: 'two.csv' });
  await expect(look.getByLabel('Where Ledger two goes')).toHaveValue(two.id);
  await look.getByLabel('Where Ledger one goes').selectOption('nowhere');
  await look.getByRole('button', { name: 'Import 1 column' }).click();
  await expect(look.getByText('taken, version 2')).toBeVisible();
  expect((await api.get(`/patches/${two.id}`)).patch.settings['cutoff']).toMatchObject({
    kind: 'set',
    value: 0.75,
  });
  expect((await api.get(`/patches/${one.id}`)).version).toBe(1);

  // The same patch in lines to read aloud, out and in.
  await page.goto(`/patch/${two.id}/details`);
  const spoken = page.waitForEvent('download');
  await page.getByRole('button', { name: 'As lines to read aloud' }).click();
  const lines = readFileSync((await (await spoken).path())!, 'utf8');
  expect(lines).toContain('cutoff 7.5');
  await page.getByLabel('Take such lines in').setInputFiles({
    name: 'lines.txt',
    mimeType: 'text/plain',
    buffer: Buffer.from(lines.replace('cutoff 7.5', 'cutoff 2.5')),
  });
  await expect(page.getByText(/settings taken from lines.txt/)).toBeVisible();
  await expect
    .poll(async () => (await api.get(`/patches/${two.id}`)).patch.settings['cutoff'])
    .toMatchObject({ value: 0.25 });
  expect(errors).toEqual([]);
});
