import { copyFile, mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { StoredProject } from '@hastig/contract';
import { newProject } from '@hastig/core';
import { launchBrowser } from '@hastig/headless';
import { startThrowaway } from '../scripts/throwaway';
import { pageMemory } from './browser-memory';
import { line } from './line';
import { megabytes, playThrough, timelineStands, told } from './play-through';
import { openBench } from './render-page';

/** Seconds of each clip; they differ, so that they are three files. */
const LENGTHS = [4, 5, 6];
const RATE = 24;
const HEIGHT = 2160;

async function makeClips(folder: string): Promise<string[]> {
  const bench = await openBench();
  try {
    const files: string[] = [];
    for (const seconds of LENGTHS) {
      await bench.page.evaluate(([length, fps, height]) => window.makeClip(length, fps, height), [
        seconds,
        RATE,
        HEIGHT,
      ] as const);
      files.push(join(folder, `${seconds} seconds.mp4`));
      await copyFile(join(bench.folder, 'clip'), files.at(-1)!);
    }
    return files;
  } finally {
    await bench.close();
  }
}

/** Three sources of 3840 × 2160 brought in, laid one after the other and played, all open at once, at a phone's size. */
export async function benchWide(): Promise<void> {
  const folder = await mkdtemp(join(tmpdir(), 'hastig-wide-'));
  const files = await makeClips(folder);
  const app = await startThrowaway('bench');
  const browser = await launchBrowser();
  try {
    const page = await browser.newPage({ viewport: { width: 390, height: 844 } });
    const made = await fetch(`${app.address}/api/projects`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ document: newProject('Wide', { num: RATE, den: 1 }) }),
    });
    const { id } = (await made.json()) as StoredProject;
    await page.goto(`${app.address}/project/${id}`);
    await page.getByLabel('Files to import').setInputFiles(files);
    for (const seconds of LENGTHS) await page.getByRole('link', { name: `Retime ${seconds} seconds` }).waitFor();
    await page
      .getByRole('status', { name: 'Saving' })
      .filter({ hasText: /^saved$/ })
      .waitFor();
    await page.goto(`${app.address}/project/${id}/timeline`);
    await timelineStands(page);
    let peak = 0;
    const timer = setInterval(() => (peak = Math.max(peak, pageMemory())), 250);
    const played = await playThrough(page);
    clearInterval(timer);
    const name = `${LENGTHS.length} sources of ${(HEIGHT * 16) / 9} × ${HEIGHT}, played`;
    line(name, `${told(played)}, ${megabytes(peak)} at its peak, ${megabytes(pageMemory())} after it`);
  } finally {
    await browser.close();
    await app.stop();
    await rm(folder, { recursive: true, force: true });
  }
}
