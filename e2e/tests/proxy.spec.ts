import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { StoredDerived } from '@hastig/contract';
import { expect, openDemoFootage, readout, saved, test, type TestApp } from '../support/app';
import { codePlates, drawnColour, fixture, readPlates, scratch } from '../support/files';
import { remake } from '../support/remade';
import { projectOf, storedDocument } from '../support/timeline';

const copies = async (app: TestApp): Promise<StoredDerived[]> =>
  ((await (await fetch(`${app.address}/api/derived`)).json()) as StoredDerived[]).filter(
    ({ kind }) => kind === 'proxy',
  );

test('a proxy is made, called off, gone on with after a reload, has every frame, and is taken away', async ({
  page,
  app,
}) => {
  await page.goto(app.address);
  await page.getByRole('button', { name: 'New project' }).click();
  await page.getByRole('textbox', { name: 'Project name' }).fill('Long groups');
  await page.getByRole('button', { name: 'Create' }).click();
  await page.getByLabel('Files to import').setInputFiles(fixture('plates-long.mp4'));
  await page.getByRole('link', { name: 'Open plates-long.mp4' }).click();
  const copy = page.getByRole('group', { name: 'Proxy' });
  await expect(copy.getByText('decoding up to 250')).toBeVisible();
  await saved(page);

  await copy.getByRole('button', { name: 'Make proxy' }).click();
  await expect(copy.getByRole('progressbar', { name: 'Proxy of plates-long.mp4' })).toBeVisible();
  await expect.poll(async () => (await copies(app))[0]?.pieces.length ?? 0).toBeGreaterThan(0);
  await copy.getByRole('button', { name: 'Stop' }).click();
  await expect(copy.getByText(/of 3 pieces are ready and in use/)).toBeVisible();
  const before = (await copies(app))[0]!.pieces;
  expect(before.length).toBeLessThan(3);

  await page.reload();
  await expect(copy.getByText(/of 3 pieces are ready and in use/)).toBeVisible();
  await copy.getByRole('button', { name: 'Resume' }).click();
  await expect(copy.getByText('for playback and scrubbing', { exact: false })).toBeVisible({ timeout: 120_000 });
  const { sha256, pieces } = (await copies(app))[0]!;
  expect(pieces.map(({ piece }) => piece)).toEqual([0, 1, 2]);
  // What was there is not made again.
  expect(pieces[0]).toEqual(before[0]);

  // Each frame of the file is in its place.
  const folder = await scratch();
  let first = 0;
  for (const { piece, bytes } of pieces) {
    const content = Buffer.from(
      await (await fetch(`${app.address}/api/derived/${sha256}/proxy-1/${piece}`)).arrayBuffer(),
    );
    expect(content.length).toBe(bytes);
    const file = join(folder, `${piece}.mp4`);
    await writeFile(file, content);
    const { plates } = await readPlates(file);
    expect(plates).toEqual(plates.map((_, index) => first + index));
    first += plates.length;
  }
  expect(first).toBe(1300);

  // Played from one piece into the next.
  await readout(page, 'Source frame').click();
  await page.getByRole('textbox', { name: 'Source frame' }).fill('590');
  await page.getByRole('textbox', { name: 'Source frame' }).press('Enter');
  await expect(readout(page, 'Source frame')).toContainText('0590');
  await page.getByRole('button', { name: 'Play' }).click();
  // Passing frames are polled for: any frame of the next piece will do, not one that may have gone by.
  await expect
    .poll(async () => Number.parseInt((await readout(page, 'Source frame').textContent()) ?? '', 10))
    .toBeGreaterThanOrEqual(600);
  await page.getByRole('button', { name: 'Pause' }).click();

  await copy.getByRole('button', { name: 'Remove proxy' }).click();
  await expect(copy.getByRole('button', { name: 'Make proxy' })).toBeVisible();
  expect(await copies(app)).toEqual([]);
  // The document knows nothing of all this.
  expect(JSON.stringify(await storedDocument(page, app))).not.toContain('cop');
});

test('a copy of frames at irregular times has each of them once; one of HDR is as bright as its file', async ({
  page,
  app,
}) => {
  const times = Array.from({ length: 60 }, (_, n) => n / 30 + (n > 30 ? 1 : 0));
  const bright = { primaries: 'bt2020', transfer: 'pq', matrix: 'bt2020-ncl' };
  const wide = await codePlates({ count: 24, width: 320, height: 180, bits: 10, colours: bright });
  await projectOf(page, app, [await remake({ times, end: 3 }), wide]);
  for (const [name, frames] of [
    ['clip.mov', 60],
    ['coded.webm', 24],
  ] as const) {
    const before = (await copies(app)).map(({ sha256 }) => sha256);
    await page.getByRole('link', { name: `Open ${name}` }).click();
    const copy = page.getByRole('group', { name: 'Proxy' });
    await copy.getByRole('button', { name: 'Make proxy' }).click();
    await expect(copy.getByText('for playback and scrubbing', { exact: false })).toBeVisible();
    const made = (await copies(app)).find(({ sha256 }) => !before.includes(sha256))!;
    const file = join(await scratch(), 'piece.mp4');
    const content = await (await fetch(`${app.address}/api/derived/${made.sha256}/proxy-1/0`)).arrayBuffer();
    await writeFile(file, Buffer.from(content));
    expect((await readPlates(file)).plates).toEqual(Array.from({ length: frames }, (_, n) => n));
    if (name === 'coded.webm') {
      const [shown, copied] = [await drawnColour(wide, 160, 40), await drawnColour(file, 160, 40)];
      shown.forEach((value, channel) => expect(Math.abs(value - copied[channel]!)).toBeLessThanOrEqual(6));
    }
    await page.getByRole('button', { name: 'Back', exact: true }).click();
  }
});

test('a copy that cannot be kept says why, and the source works without it', async ({ page, app }) => {
  await openDemoFootage(page, app);
  await page.getByRole('link', { name: 'Open The drop.mp4' }).click();
  await page.context().route('**/api/derived/*/proxy-*/**', (route) =>
    route.fulfill({
      status: 507,
      contentType: 'application/problem+json',
      body: JSON.stringify({ title: 'The disk is full.', detail: 'Free some space and try again.', status: 507 }),
    }),
  );
  const copy = page.getByRole('group', { name: 'Proxy' });
  await copy.getByRole('button', { name: 'Make proxy' }).click();
  await expect(copy.getByRole('alert')).toContainText('Free some space');
  await expect(copy.getByRole('button', { name: 'Make proxy' })).toBeVisible();
  await page.getByRole('button', { name: 'Next frame' }).click();
  await expect(readout(page, 'Source frame')).toContainText('0001');
});
