import { execFile } from 'node:child_process';
import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { promisify } from 'node:util';
import type { Page } from '@playwright/test';
import { accessFaults } from '../support/accessible';
import { expect, makeDemo, openDemoFootage, saved, test } from '../support/app';
import { scratch } from '../support/files';
import { hasPython } from '../support/framework';
import { clip, openDemoTimeline, storedDocument, storedRow, storeDocument, timelineAction } from '../support/timeline';

const run = promisify(execFile);

async function downloaded(page: Page, label: string): Promise<string> {
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: label, exact: true }).click(),
  ]);
  const file = join(await scratch(), download.suggestedFilename());
  await download.saveAs(file);
  return file;
}

test('a project goes out with its media and comes in again, whole', async ({ page, app }) => {
  await openDemoTimeline(page, app);
  await saved(page);
  const document = await storedDocument(page, app);
  await page.getByRole('link', { name: 'Output', exact: true }).click();
  const archive = await downloaded(page, 'Project with media');
  expect(archive).toMatch(/Marble film\.zip$/);
  const json = await downloaded(page, 'Project');
  expect((JSON.parse(await readFile(json, 'utf8')) as { document: unknown }).document).toEqual(document);
  await page.goto(app.address);
  const broken = join(await scratch(), 'notes.zip');
  await writeFile(broken, 'not a project');
  await page.getByLabel('Project file').setInputFiles(broken);
  await expect(page.getByRole('alert')).toContainText('neither JSON nor a ZIP');
  await page.getByLabel('Project file').setInputFiles(archive);
  await expect(page.getByRole('heading', { name: 'Marble film' })).toBeVisible();
  expect(await storedDocument(page, app)).toEqual(document);
});

test('the timing goes out as OpenTimelineIO and comes back exactly; what is left out is told', async ({
  page,
  app,
}) => {
  await openDemoTimeline(page, app);
  await saved(page);
  const before = await storedRow(page, app);
  await page.getByRole('link', { name: 'Output', exact: true }).click();
  const file = await downloaded(page, 'OpenTimelineIO');
  await expect(
    page.getByText(/curves are approximated by straight pieces for other programs, within [\d.]+ source frames/),
  ).toBeVisible();
  await page.getByRole('link', { name: 'Timeline' }).click();
  await clip(page, 'The bowl').click();
  await timelineAction(page, 'Remove');
  await page.getByRole('link', { name: 'Output', exact: true }).click();
  await page.getByLabel('OpenTimelineIO file').setInputFiles(file);
  await expect(page.getByText('Undo restores the previous timeline')).toBeVisible();
  await saved(page);
  expect(await storedRow(page, app)).toBe(before);
  const other = join(await scratch(), 'other.otio');
  await writeFile(other, '{"OTIO_SCHEMA":"Timeline.1","tracks":{"OTIO_SCHEMA":"Stack.1","children":[]}}');
  await page.getByLabel('OpenTimelineIO file').setInputFiles(other);
  await expect(page.getByRole('alert')).toContainText('timeline has no clips');
});

test('the timing goes out as an edit decision list and comes back within what is told', async ({ page, app }) => {
  await openDemoTimeline(page, app);
  await saved(page);
  const before = await storedRow(page, app);
  await page.getByRole('link', { name: 'Output', exact: true }).click();
  const file = await downloaded(page, 'EDL');
  expect(file).toMatch(/Marble film\.edl$/);
  await expect(page.getByText(/^\d+ events, within [\d.]+ source frames\.$/)).toBeVisible();
  const list = await readFile(file, 'utf8');
  expect(list).toMatch(/^TITLE: Marble film\nFCM: NON-DROP FRAME\n\n001 {2}THEDROP {2}B/);
  await page.getByLabel('EDL file').setInputFiles(file);
  await expect(page.getByText('Undo restores the previous timeline')).toBeVisible();
  await saved(page);
  const frames = (row: string): number[] => [...row.matchAll(/\/(\d+)/g)].map(([, count]) => Number(count));
  expect(frames(await storedRow(page, app))).toEqual(frames(before));
  const other = join(await scratch(), 'other.edl');
  await writeFile(other, 'TITLE: nothing');
  await page.getByLabel('EDL file').setInputFiles(other);
  await expect(page.getByRole('alert')).toContainText('it has no events');
});

test('a project is renamed, which is undone like any edit, and copied with all that is in it', async ({
  page,
  app,
}) => {
  await openDemoFootage(page, app);
  await page.getByRole('button', { name: /^Settings/ }).click();
  const name = page.getByRole('textbox', { name: 'Project name' });
  await name.fill('The long run');
  await name.press('Enter');
  await expect(page.getByRole('heading', { name: 'The long run' })).toBeVisible();
  await name.fill(' ');
  await name.press('Enter');
  await expect(page.getByRole('alert')).toContainText('1 to 200 characters');
  await page.getByRole('button', { name: 'Undo: rename the project' }).click();
  await expect(page.getByRole('heading', { name: 'Marble film' })).toBeVisible();
  await expect(name).toHaveValue('Marble film');
  await page.getByRole('button', { name: 'Redo: rename the project' }).click();
  await saved(page);
  const { name: _name, ...inside } = await storedDocument(page, app);

  await page.getByRole('button', { name: 'Back', exact: true }).click();
  await page.getByRole('button', { name: 'Copy The long run' }).click();
  await page.getByRole('link', { name: 'Open The long run (2)' }).click();
  await expect(page.getByRole('heading', { name: 'The long run (2)' })).toBeVisible();
  await expect(page.getByRole('img', { name: 'A frame of The drop.mp4' })).toBeVisible();
  expect(await storedDocument(page, app)).toEqual({ ...inside, name: 'The long run (2)' });
});

test('the timing goes out as tables by frame, key and cue; keys that were edited come back', async ({ page, app }) => {
  test.skip(!hasPython, 'needs Python');
  await openDemoTimeline(page, app);
  await saved(page);
  await page.getByRole('link', { name: 'Output', exact: true }).click();
  const [map, json, keys] = [await downloaded(page, 'Frame map'), await downloaded(page, 'Timing JSON'), await downloaded(page, 'Keys')]; // prettier-ignore
  // By a reader that is not ours: Python's.
  const { stdout } = await run('python3', ['-c', 'import csv,sys; rows=list(csv.DictReader(open(sys.argv[1],newline=""))); print(len(rows), rows[5]["timecode"], rows[5]["source_frame"])', map]); // prettier-ignore
  expect(stdout.trim()).toBe('640 00:00:00:05 5');
  const timing = JSON.parse(await readFile(json, 'utf8')) as { speed: number[]; sourceFrame: number[] };
  expect([timing.speed.length, timing.sourceFrame[5], timing.speed[5]]).toEqual([640, 5, 1]);
  const cues = await downloaded(page, 'Cue sheet');
  const sheet = await run('python3', ['-c', 'import csv,sys; rows=list(csv.DictReader(open(sys.argv[1],newline=""))); print(*[r["clip"]+" "+r["loudness_lufs"] for r in rows], sep="\\n")', cues]); // prettier-ignore
  expect(sheet.stdout).toMatch(/^The drop -\d+\.\d$/m);
  const before = (await storedDocument(page, app)).clips.find(({ name }) => name === 'The drop')!;
  const edited = join(await scratch(), 'edited.csv');
  const text = await readFile(keys, 'utf8');
  await writeFile(edited, text.replace(new RegExp(`^(${before.id},The drop,1,0,)([\\d.]+),`, 'm'), (_, start: string, frames: string) => `${start}${Number(frames) + 12},`)); // prettier-ignore
  await page.getByLabel('Keys file').setInputFiles(edited);
  await expect(page.getByText('1 clip retimed.')).toBeVisible();
  await saved(page);
  const after = (await storedDocument(page, app)).clips.find(({ id }) => id === before.id)!;
  expect(after.timing.spans[0]!.frames).toBe(before.timing.spans[0]!.frames + 12);
  await writeFile(edited, 'frame,name');
  await page.getByLabel('Keys file').setInputFiles(edited);
  await expect(page.getByRole('alert')).toContainText('the first row must name the columns');
});

test('projects show what they are; several are copied, exported and removed at once, with undo, and found by name', async ({
  page,
  app,
}) => {
  const { document } = await makeDemo(app);
  const project = (name: string) => page.getByRole('listitem', { name, exact: true });
  for (let n = 1; n <= 10; n++) await storeDocument(app, { ...document, name: `Sorted ${n}` });
  await page.goto(app.address);
  await page.getByRole('textbox', { name: 'Search projects' }).fill('sorted 10');
  await expect(project('Sorted 10')).toContainText(/26\.7 s · 3 clips · 8\.9 MB/);
  await expect(page.getByRole('img', { name: 'A frame of Sorted 10' })).toBeVisible();
  await expect(project('Sorted 9')).toBeHidden();
  await page.getByRole('textbox', { name: 'Search projects' }).fill('sorted');
  await page.getByRole('radio', { name: 'Name' }).click();
  await expect(page.getByRole('list', { name: 'Projects' }).getByRole('listitem').first()).toHaveAccessibleName('Sorted 1'); // prettier-ignore
  expect(await accessFaults(page, 'guidelines')).toEqual([]);

  const several = page.getByRole('toolbar', { name: 'Several projects' });
  const choose = async (...names: string[]): Promise<void> => {
    await several.getByRole('button', { name: 'Select several' }).click();
    for (const name of names) await page.getByRole('checkbox', { name: `Select ${name}`, exact: true }).click();
  };
  await choose('Sorted 1', 'Sorted 2');
  await several.getByRole('button', { name: 'Remove selected' }).click();
  await expect(page.getByText('Removed 2 projects.')).toBeVisible();
  await expect(project('Sorted 1')).toBeHidden();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(project('Sorted 1')).toBeVisible();
  await choose('Sorted 1', 'Sorted 2');
  await several.getByRole('button', { name: 'Copy selected' }).click();
  await expect(project('Sorted 1 (2)')).toBeVisible();
  await expect(project('Sorted 2 (2)')).toBeVisible();
  await choose('Sorted 1');
  const download = page.waitForEvent('download');
  await several.getByRole('button', { name: 'Export selected' }).click();
  expect((await download).suggestedFilename()).toMatch(/^Sorted 1.*\.zip$/);
  await page.getByRole('button', { name: 'Remove Sorted 1 (2)' }).click();
  await page.getByRole('button', { name: /^Removed \(/ }).click();
  const removed = page.getByRole('list', { name: 'Removed projects' }).getByRole('listitem', { name: 'Sorted 1 (2)' });
  await removed.getByRole('button', { name: 'Delete now' }).click();
  await expect(removed).toBeHidden();
});
