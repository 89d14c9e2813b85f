import { randomBytes } from 'node:crypto';
import { rm } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import type { StoredProject } from '@hastig/contract';
import { test as base, expect, type Locator, type Page } from '@playwright/test';
import pg from 'pg';
import { startServer, type ServerProcess } from '../../scripts/server-process';
import { scratch } from './files';

const clientFolder = fileURLToPath(new URL('../../client/dist', import.meta.url));

/** A server of the tests' own: a fresh database, a fresh folder, the demo in it. */
export interface TestApp {
  readonly address: string;
  /** Where it keeps its files. */
  readonly dataFolder: string;
  /** Ends the server as a crash would. */
  kill(): Promise<void>;
  /** Starts it again on the same port. */
  restart(): Promise<void>;
}

async function makeDatabase(url: string): Promise<{ url: string; drop(): Promise<void> }> {
  const name = `e2e_${randomBytes(6).toString('hex')}`;
  const admin = async (sql: string): Promise<void> => {
    const client = new pg.Client({ connectionString: url });
    await client.connect();
    await client.query(sql);
    await client.end();
  };
  await admin(`create database ${name}`);
  return { url: url.replace(/\/[^/]*$/, `/${name}`), drop: () => admin(`drop database ${name} with (force)`) };
}

export const test = base.extend<object, { app: TestApp }>({
  app: [
    // Playwright asks for this parameter by its pattern, even where nothing is taken from it.
    async ({}, use) => {
      const main = process.env.TEST_DATABASE_URL;
      if (!main) throw new Error('TEST_DATABASE_URL is not set; run the tests with npm test');
      const database = await makeDatabase(main);
      const dataFolder = await scratch();
      const start = (port: number): Promise<ServerProcess> =>
        startServer({ databaseUrl: database.url, dataFolder, clientFolder, port, demo: true });
      let server = await start(0);
      const { address } = server;
      await use({
        address,
        dataFolder,
        kill: () => server.kill(),
        restart: async () => {
          server = await start(Number(new URL(address).port));
        },
      });
      await server.stop();
      await database.drop();
      await rm(dataFolder, { recursive: true, force: true });
    },
    { scope: 'worker' },
  ],
});

export { expect };

/** Makes a new demo project, as the button of the first page does. */
export async function makeDemo(app: TestApp): Promise<StoredProject> {
  const made = await fetch(`${app.address}/api/demo`, { method: 'POST' });
  expect(made.status).toBe(201);
  return (await made.json()) as StoredProject;
}

/** Opens a new demo project, by its address. */
export async function openDemoFootage(page: Page, app: TestApp): Promise<void> {
  await page.goto(`${app.address}/project/${(await makeDemo(app)).id}`);
  await expect(page.getByRole('link', { name: 'Retime The drop' })).toBeVisible();
}

/** Opens a new demo project's clip in Pace, by its address. */
export async function openDemoClip(
  page: Page,
  app: TestApp,
  clip: 'The drop' | 'The bowl' | 'The steps',
): Promise<void> {
  const { id, document } = await makeDemo(app);
  const { id: clipId } = document.clips.find(({ name }) => name === clip)!;
  await page.goto(`${app.address}/project/${id}/clip/${clipId}/pace`);
  await expect(page.getByRole('group', { name: 'Speed curve' })).toBeVisible();
  await expect(page.getByRole('slider').first()).toBeVisible();
}

/** The number that the readout shows under a label. */
export function readout(page: Page, label: string) {
  return page.getByRole('group', { name: 'Readout' }).getByRole('button', { name: new RegExp(`^${label}:`) });
}

/** Types a number into the readout. */
export async function typeReadout(page: Page, label: 'Output' | 'Source frame' | 'Speed', text: string): Promise<void> {
  await readout(page, label).click();
  const entry = page.getByRole('textbox', { name: label, exact: true });
  await entry.fill(text);
  await entry.press('Enter');
}

/** Starts one of a place's actions: from its bar, or from behind “More”. */
export async function startAction(
  page: Page,
  place: 'Beats' | 'Pace' | 'Picture' | 'Sound' | 'Timeline',
  label: string,
): Promise<void> {
  const bar = page.getByRole('toolbar', { name: `${place} actions` });
  const direct = bar.getByRole('button', { name: label, exact: true });
  if ((await direct.count()) > 0) {
    await direct.click();
    return;
  }
  await bar.getByRole('button', { name: 'More', exact: true }).click();
  await page.getByRole('dialog', { name: 'More' }).getByRole('button', { name: label, exact: true }).click();
}

/** Waits until everything is on the server. */
export async function saved(page: Page): Promise<void> {
  await expect(page.getByRole('status', { name: 'Saving' })).toHaveText('saved');
}

/** Where something lies, once it has come to rest: the same in two animation frames that follow each other. */
export async function restingBox(target: Locator): Promise<{ x: number; y: number; width: number; height: number }> {
  let last = '';
  for (;;) {
    const box = (await target.boundingBox())!;
    const now = JSON.stringify(box);
    if (box && now === last) return box;
    last = now;
    await target.evaluate(() => new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve))));
  }
}

/** Drags with the pointer from the middle of one thing by some pixels, in steps as a hand does. */
export async function dragBy(page: Page, target: ReturnType<Page['getByRole']>, dx: number, dy: number): Promise<void> {
  const box = await restingBox(target);
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  for (let step = 1; step <= 8; step++) await page.mouse.move(x + (dx * step) / 8, y + (dy * step) / 8);
  await page.mouse.up();
}
