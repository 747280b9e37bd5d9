import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { Api, expect, pickPatch, Server, temporaryFolder, test } from './app';

test('movements are ticked one by one, and stay ticked over a reload', async ({
  page,
  api,
  errors,
}) => {
  const id = await api.copyOf('Winch Room bass');
  await page.goto(`/patch/${id}/rebuild?from=start`);
  await expect(page.getByRole('heading', { name: 'Shape' })).toBeVisible();
  await expect(page.getByTestId('target')).toHaveText('pulse');
  await page.keyboard.press('Space');
  await expect(page.getByTestId('target')).toHaveText("16'");
  await page.keyboard.press('Space');
  await expect(page.getByTestId('target')).toHaveText('18%');
  await expect
    .poll(
      async () => (await api.get<{ done: string[] }>(`/patches/${id}/progress?from=start`)).done,
    )
    .toEqual(['osc1-shape', 'osc1-octave']);
  await page.reload();
  await expect(page.getByTestId('target')).toHaveText('18%');
  await page.keyboard.press('ArrowLeft');
  await expect(page.getByTestId('target')).toHaveText("16'");
  await page.keyboard.press('ArrowRight');
  await expect(page.getByTestId('target')).toHaveText('18%');
  expect(errors).toEqual([]);
});

test('the list leads through targets, ranges and places to listen, to the end', async ({
  page,
  api,
}) => {
  const id = await api.copyOf('Winch Room bass');
  await page.goto(`/patch/${id}/rebuild?from=init`);
  const plan = await (
    await page.request.post('/api/v1/rebuild', { data: { from: 'init', to: { patchId: id } } })
  ).json();
  const seen: string[] = [];
  const stored = (ticks: string[]) =>
    expect
      .poll(
        async () => (await api.get<{ done: string[] }>(`/patches/${id}/progress?from=init`)).done,
      )
      .toEqual(ticks);
  for (const step of plan.steps) {
    if (step.kind === 'listening') {
      await expect(page.getByText(`You should hear: ${step.checkpoint.hear}`)).toBeVisible();
      await page.keyboard.press('h');
      await expect(page.getByRole('main').getByRole('button', { name: /Stop/ })).toBeVisible();
      await page.keyboard.press('h');
    } else {
      await expect(page.getByTestId('target')).toHaveText(step.to);
      if (step.target) await expect(page.getByText(`by ear: ${step.target}`)).toBeVisible();
      if (step.range)
        await expect(page.getByText(`anywhere ${step.range[0]} to ${step.range[1]}`)).toBeVisible();
    }
    seen.push(step.id);
    await page.keyboard.press('Space');
    // Each place to listen is a rest: what was ticked until then is stored.
    if (step.kind === 'listening') await stored(seen);
  }
  await expect(page.getByText('The panel is rebuilt.')).toBeVisible();
  await stored(seen);
});

test('from another patch only what differs is moved, and the sheet is one page', async ({
  page,
  api,
}) => {
  const id = await api.copyOf('Winch Room bass', 'Bass to rebuild');
  const kick = await api.idOf('Winch Room kick');
  await page.goto(`/patch/${id}/rebuild`);
  await pickPatch(page, 'What the panel shows now', 'Winch Room kick');
  await expect(page).toHaveURL(new RegExp(`from=${kick}`));
  // The kick left its noise and its sweep on: the sweep goes off before anything is built.
  await expect(page.getByRole('heading', { name: 'Env 2 to pitch' })).toBeVisible();
  // What the panel shows is known from the first tick on.
  await page.keyboard.press('Space');
  await expect(page.getByRole('heading', { name: 'Env 2 to pitch' })).toHaveCount(0);
  const shown = () => api.get<{ shown: { name: string } | null }>('/shown/instrument-oxbow-sluice');
  await expect.poll(async () => (await shown()).shown?.name).toBe('Bass to rebuild');
  const href = await page.getByRole('link', { name: 'Sheet to print' }).getAttribute('href');
  const pdf = await page.request.get(href!);
  expect(pdf.headers()['content-type']).toBe('application/pdf');
  expect((await pdf.body()).toString('latin1').match(/\/Type \/Page\b/g)).toHaveLength(1);
});

test('a patch against itself has nothing to move', async ({ page, api }) => {
  const { id } = await api.create('init', 'Same');
  await page.goto(`/patch/${id}/rebuild?from=init`);
  await expect(page.getByText('Nothing to move')).toBeVisible();
});

test('ticks made while the server is away wait, and are sent when it is back', async ({
  page,
  request,
}) => {
  const folder = temporaryFolder();
  const server = new Server(join(folder, 'away.db'));
  await server.start();
  const api = new Api(request, server.url);
  const id = await api.idOf('Fog Signal horn');
  await page.goto(`${server.url}/patch/${id}/rebuild`);
  const bar = page.getByRole('progressbar', { name: 'Steps done' });
  // The button is there before the ticks are read, and answers only afterwards.
  await expect(page.getByRole('button', { name: /^Done/ })).toBeEnabled();
  await server.stop();
  await page.keyboard.press('Space');
  await page.keyboard.press('Space');
  await expect(page.getByText('2 ticks wait on this device')).toBeVisible();
  const done = await bar.getAttribute('aria-valuenow');
  await server.start();
  await expect(page.getByText('ticks wait')).toBeHidden();
  await page.reload();
  await expect(bar).toHaveAttribute('aria-valuenow', done!);
  const { done: kept } = await api.get<{ done: string[] }>(`/patches/${id}/progress?from=start`);
  expect(kept).toHaveLength(2);
  await server.stop();
  rmSync(folder, { recursive: true, force: true });
});
