import { link, mkdir, mkdtemp, open, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { StoredProject } from '@hastig/contract';
import { newProject } from '@hastig/core';
import { launchBrowser } from '@hastig/headless';
import type { Page } from 'playwright-core';
import { startThrowaway, type ThrowawayApp } from '../scripts/throwaway';
import { browserMemory } from './browser-memory';
import { watchTasks } from './drag';
import { line } from './line';
import { megabytes } from './play-through';

/** Pixels of a still of 12 megapixels. */
const STILL = { width: 4000, height: 3000 };
const SAMPLE_RATE = 48_000;

/** A photograph's worth of detail as a JPEG. */
async function photograph(): Promise<Buffer> {
  const browser = await launchBrowser();
  try {
    const page = await browser.newPage();
    const bytes = await page.evaluate(async ({ width, height }) => {
      const canvas = new OffscreenCanvas(width, height);
      const context = canvas.getContext('2d')!;
      // Numbers that depend on nothing but their place.
      let state = 7;
      for (let n = 0; n < 20_000; n++) {
        const [a, b, c, d] = [1, 2, 3, 4].map(() => (state = (state * 16_807) % 2_147_483_647) / 2_147_483_647);
        context.fillStyle = `hsl(${a! * 360} ${b! * 60}% ${c! * 90}%)`;
        context.fillRect(d! * width, b! * height, 20 + a! * 120, 20 + c! * 90);
      }
      const blob = await canvas.convertToBlob({ type: 'image/jpeg', quality: 0.95 });
      return [...new Uint8Array(await blob.arrayBuffer())];
    }, STILL);
    return Buffer.from(bytes);
  } finally {
    await browser.close();
  }
}

/** Numbered stills in a folder; one file under all their names. */
async function numbered(folder: string, count: number, photo: Buffer): Promise<string[]> {
  await mkdir(folder);
  const first = join(folder, 'still');
  await writeFile(first, photo);
  const names = Array.from({ length: count }, (_, n) => join(folder, `IMG_${String(n + 1).padStart(4, '0')}.jpg`));
  for (const name of names) await link(first, name);
  return names;
}

/** A sound of so many seconds, mono: bursts of noise, as a WAVE file (16 bit). */
async function longSound(path: string, seconds: number): Promise<void> {
  const file = await open(path, 'w');
  const bytes = seconds * SAMPLE_RATE * 2;
  const head = Buffer.alloc(44);
  head.write('RIFF', 0);
  head.writeUInt32LE(36 + bytes, 4);
  head.write('WAVEfmt ', 8);
  head.writeUInt32LE(16, 16);
  head.writeUInt16LE(1, 20);
  head.writeUInt16LE(1, 22);
  head.writeUInt32LE(SAMPLE_RATE, 24);
  head.writeUInt32LE(SAMPLE_RATE * 2, 28);
  head.writeUInt16LE(2, 32);
  head.writeUInt16LE(16, 34);
  head.write('data', 36);
  head.writeUInt32LE(bytes, 40);
  await file.write(head);
  const second = Buffer.alloc(SAMPLE_RATE * 2);
  for (let n = 0; n < SAMPLE_RATE; n++)
    second.writeInt16LE(Math.round(20_000 * Math.exp(-n / 9000) * Math.sin(n / 7)), n * 2);
  for (let n = 0; n < seconds; n++) await file.write(second);
  await file.close();
}

interface OpenProject {
  page: Page;
  close(): Promise<void>;
}

async function openProject(app: ThrowawayApp): Promise<OpenProject> {
  const made = await fetch(`${app.address}/api/projects`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ document: newProject('Footage') }),
  });
  const { id } = (await made.json()) as StoredProject;
  const browser = await launchBrowser();
  const page = await browser.newPage({ viewport: { width: 390, height: 844 } });
  await page.goto(`${app.address}/project/${id}`);
  await page.getByRole('button', { name: 'Import clips' }).waitFor();
  return { page, close: () => browser.close() };
}

/** Has something done, and tells how long it took and the most memory that the browser had meanwhile. */
async function watched(work: () => Promise<void>): Promise<{ seconds: number; peak: number }> {
  let peak = browserMemory();
  const timer = setInterval(() => (peak = Math.max(peak, browserMemory())), 250);
  const started = performance.now();
  await work();
  clearInterval(timer);
  return { seconds: (performance.now() - started) / 1000, peak };
}

async function importStills(app: ThrowawayApp, files: string[]): Promise<number> {
  const { page, close } = await openProject(app);
  try {
    const name = `IMG_0001–${String(files.length).padStart(4, '0')}`;
    const { seconds, peak } = await watched(async () => {
      await page.getByLabel('Files to import').setInputFiles(files);
      await page.getByRole('button', { name: 'Import as one clip' }).click();
      await page.getByRole('listitem', { name, exact: true }).waitFor({ timeout: 0 });
    });
    line(
      `${files.length} stills of 12 megapixels, imported`,
      `${seconds.toFixed(0)} s, ${megabytes(peak)} at its peak`,
    );
    const seen = await watched(async () => {
      await page.getByRole('link', { name: `Open ${name}` }).click();
      await page.locator('[data-testid=contact-sheet][aria-busy=false]').waitFor({ timeout: 120_000 });
      await page.getByRole('button', { name: 'Play' }).click();
      await page.waitForTimeout(5000);
    });
    line(`${files.length} stills, looked at and played`, `${megabytes(seen.peak)} at its peak`);
    return peak;
  } finally {
    await close();
  }
}

async function importSound(app: ThrowawayApp, file: string, name: string): Promise<number> {
  const { page, close } = await openProject(app);
  try {
    const { seconds, peak } = await watched(async () => {
      await page.getByLabel('Files to import').setInputFiles(file);
      await page.getByRole('listitem', { name, exact: true }).waitFor({ timeout: 0 });
    });
    const wave = await watched(async () => {
      await page.getByRole('link', { name: `Open ${name}` }).click();
      const canvas = page.getByTestId('waveform');
      await canvas.locator('xpath=self::*[@aria-busy="false"]').waitFor({ timeout: 0 });
      await page.getByText(/^Waveform: /).waitFor({ state: 'detached', timeout: 0 });
    });
    line(
      `${name}, imported`,
      `${seconds.toFixed(1)} s, ${megabytes(peak)} at its peak; waveform ${wave.seconds.toFixed(1)} s, ${megabytes(wave.peak)}`,
    );
    const tasks = await watchTasks(page);
    const box = (await page.getByTestId('waveform').boundingBox())!;
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
    for (let n = 0; n < 40; n++) await page.mouse.wheel(0, -120);
    for (let n = 0; n < 40; n++) await page.mouse.wheel(40, 0);
    for (let n = 0; n < 40; n++) await page.mouse.wheel(0, 120);
    const zoomed = await tasks();
    const playing = await watchTasks(page);
    await page.getByRole('button', { name: 'Play' }).click();
    await page.waitForTimeout(4000);
    line(
      `${name}, zoomed, scrolled, played`,
      `longest task ${zoomed.toFixed(0)} ms, playing ${(await playing()).toFixed(0)} ms, ${megabytes(browserMemory())} after it`,
    );
    return Math.max(peak, wave.peak);
  } finally {
    await close();
  }
}

/** Footage that is large: 600 stills of 12 megapixels beside 60, and two hours of sound beside one. Both long enough for the browser to clear away several times. */
export async function benchFootage(): Promise<void> {
  const folder = await mkdtemp(join(tmpdir(), 'hastig-footage-'));
  const app = await startThrowaway('bench');
  try {
    const photo = await photograph();
    const few = await importStills(app, await numbered(join(folder, 'few'), 60, photo));
    const many = await importStills(app, await numbered(join(folder, 'many'), 600, photo));
    line(
      '600 stills beside 60',
      `memory at its peak: ratio ${(many / few).toFixed(2)}, each still ${megabytes(photo.length)}`,
    );
    const peaks: number[] = [];
    for (const [name, seconds] of [
      ['one hour.wav', 3600],
      ['two hours.wav', 7200],
    ] as const) {
      await longSound(join(folder, name), seconds);
      peaks.push(await importSound(app, join(folder, name), name));
    }
    line('two hours of sound beside one', `memory at its peak: ratio ${(peaks[1]! / peaks[0]!).toFixed(2)}`);
  } finally {
    await app.stop();
    await rm(folder, { recursive: true, force: true });
  }
}
