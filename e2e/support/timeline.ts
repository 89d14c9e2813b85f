import type { ProjectDocument, StoredProject } from '@hastig/contract';
import { newProject } from '@hastig/core';
import type { Locator, Page } from '@playwright/test';
import { expect, makeDemo, saved, startAction, type TestApp } from './app';
import { scratch } from './files';

/** Opens a new demo's timeline, its three clips in a row. */
export async function openDemoTimeline(page: Page, app: TestApp): Promise<void> {
  const { id } = await makeDemo(app);
  await page.goto(`${app.address}/project/${id}/timeline`);
  await expect(clip(page, 'The steps')).toBeVisible();
}

/** A clip or group on the timeline, by its name. */
export function clip(page: Page, name: string): Locator {
  return page.getByRole('group', { name: 'Tracks' }).getByRole('button', { name: new RegExp(`: ${name}, from`) });
}

/** What lies on the tracks, from left to right as screen readers hear it. */
export function clipNames(page: Page): Promise<string[]> {
  return page
    .getByRole('group', { name: 'Tracks' })
    .locator('[data-clip][role=button]')
    .evaluateAll((all) => all.map((one) => /: (.*), from/.exec(one.getAttribute('aria-label')!)![1]!));
}

/** Starts one of the timeline's actions: from the bar, or from behind “More”. */
export const timelineAction = (page: Page, label: string): Promise<void> => startAction(page, 'Timeline', label);

/** The project as the server has it. */
export async function storedDocument(page: Page, app: TestApp): Promise<ProjectDocument> {
  const id = /project\/([^/]+)/.exec(page.url())![1];
  return ((await (await fetch(`${app.address}/api/projects/${id}`)).json()) as StoredProject).document;
}

/** The first picture track as text: clips by name and length, gaps as numbers in brackets. */
export async function storedRow(page: Page, app: TestApp, track = 0): Promise<string> {
  const { sequence, clips } = await storedDocument(page, app);
  return sequence.tracks[track]!.items.map((item) => {
    if ('gap' in item) return `(${item.gap})`;
    const { name, shown } = clips.find(({ id }) => id === item.clip)!;
    return `${name}/${shown.frames}`;
  }).join(' ');
}

/** A new project with some files brought in, laid one after the other. */
export async function projectOf(page: Page, app: TestApp, files: readonly string[]): Promise<ProjectDocument> {
  await page.goto(`${app.address}/project/${await storeDocument(app, newProject('Row'))}`);
  await page.getByLabel('Files to import').setInputFiles([...files]);
  // Not by what is in sight: of a long list only a part is there.
  await expect.poll(async () => (await storedDocument(page, app)).sources.length).toBe(files.length);
  await expect(page.getByRole('listitem', { name: files[0]!.split('/').at(-1)! })).toBeVisible();
  await saved(page);
  return storedDocument(page, app);
}

/** Stores a document as a new project and returns its id. */
export async function storeDocument(app: TestApp, document: ProjectDocument): Promise<string> {
  const made = await fetch(`${app.address}/api/projects`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ document }),
  });
  expect(made.status).toBe(201);
  return ((await made.json()) as { id: string }).id;
}

// The browser keeps what it rendered: a name that is taken would get another.
let rendered = 0;

/** Stores a document as a new project, renders it in the place Output, and returns the downloaded file. */
export async function renderDocument(page: Page, app: TestApp, document: ProjectDocument): Promise<string> {
  const id = await storeDocument(app, document);
  await page.goto(`${app.address}/project/${id}/output`);
  const name = `row ${++rendered}`;
  await page.getByRole('textbox', { name: 'File name' }).fill(name);
  await page.getByRole('button', { name: 'Render', exact: true }).click();
  await expect(page.getByText(`${name}.mp4 is ready`)).toBeVisible({ timeout: 120_000 });
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: `Download ${name}.mp4` }).click();
  const file = `${await scratch()}/${name}.mp4`;
  await (await download).saveAs(file);
  return file;
}
