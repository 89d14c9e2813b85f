import { readFile, rm, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import type { Locator, Page } from '@playwright/test';
import type { ProjectDocument, StoredProject } from '@hastig/contract';
import { expect, makeDemo, openDemoFootage, saved, test, type TestApp } from '../support/app';
import { demoClip, fixture, scratch } from '../support/files';
import { projectOf } from '../support/timeline';

async function newProject(page: Page, app: TestApp, name: string): Promise<void> {
  await page.goto(app.address);
  await page.getByRole('button', { name: 'New project' }).click();
  await page.getByRole('textbox', { name: 'Project name' }).fill(name);
  await page.getByRole('button', { name: 'Create' }).click();
  await expect(page.getByRole('button', { name: 'Import clips' })).toBeVisible();
}

test('files that are no clips are refused with their reason before anything is stored', async ({ page, app }) => {
  await newProject(page, app, 'Faults');
  const folder = await scratch();
  const whole = await readFile(demoClip('drop'));
  const title = await readFile(join(dirname(demoClip('drop')), 'title.png'));
  const gif = 'GIF89a\x10\0\x10\0\x80\0\0\0\0\0\xff\xff\xff;';
  const files: Record<string, [content: Buffer, reason: RegExp]> = {
    'empty.mp4': [Buffer.alloc(0), /The file is empty/],
    'notes.mp4': [Buffer.from('This is a shopping list.\n'.repeat(100)), /can’t read this type of file/],
    'short.mp4': [whole.subarray(0, whole.length >> 1), /damaged|incomplete/],
    'cut.png': [title.subarray(0, title.length >> 1), /The picture is incomplete/],
    'old.gif': [Buffer.from(gif, 'latin1'), /This is a GIF picture/],
    'hevc.mp4': [await readFile(fixture('hevc.mp4')), /can’t decode HEVC .* Convert the file/],
  };
  const uploads: string[] = [];
  page.on('request', (request) => {
    if (request.url().includes('/api/uploads')) uploads.push(request.url());
  });
  for (const [name, [content]] of Object.entries(files)) await writeFile(join(folder, name), content);
  await page.getByLabel('Files to import').setInputFiles(Object.keys(files).map((name) => join(folder, name)));
  for (const [name, [, reason]] of Object.entries(files)) {
    const row = page.getByRole('listitem').filter({ hasText: name });
    await expect(row.getByRole('alert')).toHaveText(reason);
    await row.getByRole('button', { name: `Dismiss ${name}` }).click();
    await expect(row).toBeHidden();
  }
  expect(uploads).toEqual([]);
});

/** A clip made larger by an empty box at its end, as ISO/IEC 14496-12 allows ("free"). */
async function largeClip(megabytes: number): Promise<string> {
  const box = Buffer.alloc(megabytes * 2 ** 20);
  box.writeUInt32BE(box.length, 0);
  box.write('free', 4, 'latin1');
  const file = join(await scratch(), 'large.mp4');
  await writeFile(file, Buffer.concat([await readFile(fixture('plates-24.mp4')), box]));
  return file;
}

test('an upload goes on where it stopped when the server dies in the middle', async ({ page, app }) => {
  await newProject(page, app, 'Interrupted');
  const sizes: number[] = [];
  page.on('request', (request) => {
    if (request.method() === 'PATCH' && request.url().includes('/api/uploads/'))
      sizes.push(Number(request.headers()['upload-offset']));
  });
  const session = await page.context().newCDPSession(page);
  await session.send('Network.enable');
  await session.send('Network.emulateNetworkConditions', {
    offline: false,
    latency: 0,
    downloadThroughput: -1,
    uploadThroughput: 12 * 2 ** 20,
  });
  await page.getByLabel('Files to import').setInputFiles(await largeClip(40));
  // The second piece is under way, so the first is on the disk.
  await expect.poll(() => sizes.length).toBeGreaterThan(1);
  await app.kill();
  await expect(page.getByText('Connection lost')).toBeVisible();
  await app.restart();
  await expect(page.getByRole('link', { name: 'Retime large' })).toBeVisible({ timeout: 120_000 });
  expect(sizes.filter((offset) => offset === 0)).toHaveLength(1);
  await saved(page);
  await page.reload();
  await expect(page.getByRole('link', { name: 'Retime large' })).toBeVisible();
});

test('an upload can be cancelled', async ({ page, app }) => {
  await newProject(page, app, 'Cancelled');
  const session = await page.context().newCDPSession(page);
  await session.send('Network.enable');
  await session.send('Network.emulateNetworkConditions', {
    offline: false,
    latency: 0,
    downloadThroughput: -1,
    uploadThroughput: 2 * 2 ** 20,
  });
  await page.getByLabel('Files to import').setInputFiles(await largeClip(40));
  await page.getByRole('button', { name: 'Cancel large.mp4' }).click();
  await expect(page.getByText('large.mp4')).toBeHidden();
  await expect(page.getByText('No footage yet')).toBeVisible();
});

test('what is called saved survives the server being killed, and later edits wait for it', async ({ page, app }) => {
  await openDemoFootage(page, app);
  await page.getByRole('button', { name: 'Add The drop.mp4' }).click();
  await saved(page);
  await app.kill();
  await page.getByRole('button', { name: 'Add The bowl.mp4' }).click();
  await expect(page.getByRole('status', { name: 'Saving' })).toHaveText('not saved, retrying');
  await app.restart();
  await saved(page);
  await page.reload();
  await expect(page.getByRole('link', { name: 'Retime The drop 2' })).toBeVisible();
  await expect(page.getByRole('link', { name: 'Retime The bowl 2' })).toBeVisible();
});

test('two tabs that change the same are asked, and neither is overwritten silently', async ({ page, context, app }) => {
  await openDemoFootage(page, app);
  const sourceOf = async (tab: Page): Promise<Locator> => {
    await tab.getByRole('link', { name: 'Open The drop.mp4' }).click();
    return tab.getByRole('textbox', { name: 'Name', exact: true });
  };
  const other = await context.newPage();
  await other.goto(page.url());
  const [mine, theirs] = [await sourceOf(page), await sourceOf(other)];
  await mine.fill('First');
  await mine.press('Enter');
  await saved(page);
  // The other tab has not looked yet and edits its old state.
  await theirs.fill('Second');
  await theirs.press('Enter');
  const notice = other.getByRole('alert').filter({ hasText: 'changed in another tab' });
  await expect(notice).toBeVisible();
  await notice.getByRole('button', { name: 'Save mine as a copy' }).click();
  await expect(other.getByRole('heading', { name: 'Marble film (my version)' })).toBeVisible();
  await expect(other.getByRole('link', { name: 'Open Second' })).toBeVisible();

  // The first is as its own tab left it.
  await page.reload();
  await expect(mine).toHaveValue('First');
});

test('two tabs’ changes are put together without a question', async ({ page, context, app }) => {
  await openDemoFootage(page, app);
  await expect(page.getByRole('button', { name: 'Add The drop.mp4' })).toBeVisible();
  const other = await context.newPage();
  await other.goto(page.url());
  await expect(other.getByRole('button', { name: 'Add The bowl.mp4' })).toBeVisible();
  await page.getByRole('button', { name: 'Add The drop.mp4' }).click();
  await saved(page);
  await other.getByRole('button', { name: 'Add The bowl.mp4' }).click();
  await expect(other.getByText('Changes from another tab were merged with yours.')).toBeVisible();
  await saved(other);
  await other.reload();
  await expect(other.getByRole('link', { name: 'Retime The drop 2' })).toBeVisible();
  await expect(other.getByRole('link', { name: 'Retime The bowl 2' })).toBeVisible();
});

test('a file that the server lost is named, and found again; another one does not take its place', async ({
  page,
  app,
}) => {
  const { id, sources } = await lostProject(page, app);
  const lost = page.getByRole('alert').filter({ hasText: 'missing on the server' });
  await expect(lost.getByRole('listitem')).toHaveText([/plates-24\.mp4/]);
  await page.getByLabel('File of plates-24.mp4').setInputFiles(fixture('plates-60.mp4'));
  await expect(page.getByText('plates-60.mp4 isn’t the file that plates-24.mp4 was made of.')).toBeVisible();
  await page.getByLabel('File of plates-24.mp4').setInputFiles(fixture('plates-24.mp4'));
  await expect(page.getByText('plates-24.mp4 is back.')).toBeVisible();
  await expect(lost).toBeHidden();
  const { document } = (await (await fetch(`${app.address}/api/projects/${id}`)).json()) as StoredProject;
  expect(document.sources).toEqual(sources);
});

async function lostProject(page: Page, app: TestApp): Promise<{ id: string; sources: ProjectDocument['sources'] }> {
  const { sources } = await projectOf(page, app, [fixture('plates-24.mp4')]);
  const [, id] = /project\/([0-9a-f-]+)/.exec(page.url())!;
  await rm(join(app.dataFolder, 'media', sources[0]!.sha256));
  await page.goto(`${app.address}/project/${id}`);
  return { id: id!, sources };
}

test('addresses that lead nowhere say so, and lead back', async ({ page, app }) => {
  const title = page.getByRole('heading', { level: 1 });
  await page.goto(`${app.address}/project/00000000-0000-4000-8000-000000000000`);
  await expect(title).toHaveText('This project doesn’t exist');
  await page.getByRole('button', { name: 'All projects' }).click();
  await expect(page.getByRole('heading', { name: 'Hastig' })).toBeVisible();
  await page.goto(`${app.address}/somewhere/else`);
  await expect(title).toHaveText('There’s no page at this address');
  await page.getByRole('button', { name: 'All projects' }).click();
  await expect(page.getByRole('heading', { name: 'Hastig' })).toBeVisible();
  const { id } = await makeDemo(app);
  for (const [address, kind] of [
    ['clip/none/pace', 'clip'],
    ['clip/none/output', 'clip'],
    ['group/none', 'group'],
    ['source/none', 'source'],
  ]) {
    await page.goto(`${app.address}/project/${id}/${address}`);
    await expect(page.getByText(`This ${kind} is no longer in the project`)).toBeVisible();
    await expect(page).toHaveURL(new RegExp(address!));
  }
  await page.getByRole('button', { name: 'Timeline', exact: true }).click();
  await expect(page.getByTestId('lanes')).toBeVisible();
});

test('a browser without what is needed is told what it lacks', async ({ page, app }) => {
  await page.addInitScript(() => Reflect.deleteProperty(globalThis, 'VideoDecoder'));
  await page.goto(app.address);
  await expect(page.getByRole('heading', { name: 'This browser can’t run Hastig' })).toBeVisible();
  await expect(page.getByRole('listitem')).toHaveText(['• Video decoding (WebCodecs)']);
});
