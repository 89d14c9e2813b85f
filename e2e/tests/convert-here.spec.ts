import { readdir, writeFile } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { GifWriter } from 'omggif';
import type { StoredProject } from '@hastig/contract';
import { startWorker } from '../../scripts/worker-process';
import { expect, openDemoFootage, test } from '../support/app';
import { codedBy, telephoneFilm, telephonePart } from '../support/coded';
import { fixture, readPlates, scratch } from '../support/files';
import { hasFramework } from '../support/framework';

test.skip(!hasFramework, 'needs GStreamer');

/** A GIF of 64 × 48 whose pictures are black and white in turn, each for a fifth of a second. */
function turning(pictures: number): Buffer {
  const bytes = Buffer.alloc(64 * 48 * pictures + 1000);
  const gif = new GifWriter(bytes, 64, 48, { palette: [0x000000, 0xffffff] });
  for (let n = 0; n < pictures; n++) gif.addFrame(0, 0, 64, 48, Array<number>(64 * 48).fill(n % 2), { delay: 20 });
  return bytes.subarray(0, gif.end());
}

test('a file that this browser can’t decode is offered to be converted, and is footage then; one that is damaged says so', async ({
  page,
  app,
}) => {
  const worker = await startWorker({ address: app.address, dataFolder: app.dataFolder, name: 'This computer' });
  try {
    await openDemoFootage(page, app);
    const avi = await codedBy(
      'avi',
      fixture('plates-24.mp4'),
      'd. ! queue ! videoconvert ! jpegenc quality=95 ! avimux',
    );
    const gif = join(await scratch(), 'turning.gif');
    await writeFile(gif, turning(6));
    const telephone = await telephoneFilm();
    const text = join(await scratch(), 'broken.avi');
    await writeFile(text, 'marbles '.repeat(1000));
    await page.getByLabel('Files to import').setInputFiles([avi, fixture('hevc.mp4'), gif, telephone.path, text]);
    await page.getByRole('button', { name: 'Convert coded.avi' }).click();
    await page.getByRole('button', { name: 'Convert hevc.mp4' }).click();
    await page.getByRole('button', { name: 'Convert turning.gif' }).click();
    await page.getByRole('button', { name: `Convert ${basename(telephone.path)}` }).click();
    await page.getByRole('button', { name: 'Convert broken.avi' }).click();
    await expect(page.getByRole('alert').getByText('Nothing in it can be decoded.')).toBeVisible();
    await expect(page.getByRole('button', { name: 'Convert broken.avi' })).toHaveCount(0);
    const projectId = /project\/([^/?]+)/.exec(page.url())![1]!;
    const stored = async (): Promise<StoredProject> =>
      (await (await fetch(`${app.address}/api/projects/${projectId}`)).json()) as StoredProject;
    const sources = async (): Promise<unknown[]> => {
      const made = (await stored()).document.sources.flatMap(({ name, facts: { converted, video } }) =>
        converted ? [{ name, from: converted.from, frames: video!.frames, codec: video!.codec }] : [],
      );
      // They are converted in the order in which their uploads end.
      return made.sort((one, other) => one.name.localeCompare(other.name));
    };
    await expect.poll(sources, { timeout: 90_000 }).toEqual([
      { name: 'clip.mov', from: 'H.265 / HEVC', frames: 48, codec: 'avc' },
      { name: 'coded.avi', from: 'Motion JPEG', frames: 144, codec: 'avc' },
      { name: 'hevc.mp4', from: 'H.265 / HEVC', frames: 24, codec: 'avc' },
      { name: 'turning.gif', from: 'GIF (Graphics Interchange Format)', frames: 6, codec: 'avc' },
    ]);
    // What the project plays is turned and has every plate at its own time.
    const clip = (await stored()).document.sources.find(({ name }) => name === 'clip.mov')!;
    const played = join(await scratch(), 'played.mov');
    await writeFile(played, Buffer.from(await (await fetch(`${app.address}/api/media/${clip.sha256}`)).arrayBuffer()));
    const read = await readPlates(played, true, telephonePart);
    expect(read.plates).toEqual(Array.from({ length: 48 }, (_, n) => n));
    read.times.forEach((time, n) => expect(Math.abs(time - telephone.times[n]!)).toBeLessThan(1 / 10_000));
    expect([clip.facts.video!.width, clip.facts.video!.height]).toEqual([180, 320]);
  } finally {
    await worker.stop();
  }
});

test('a conversion that is cancelled half way leaves nothing, and the machine goes on', async ({ page, app }) => {
  const worker = await startWorker({ address: app.address, dataFolder: app.dataFolder, name: 'This computer' });
  try {
    await openDemoFootage(page, app);
    const film = 'videotestsrc pattern=ball num-buffers=700 ! video/x-raw,width=1280,height=720 ! jpegenc ! avimux';
    const long = await codedBy('avi', fixture('plates-24.mp4'), `d. ! fakesink ${film}`);
    await page.getByLabel('Files to import').setInputFiles([long]);
    await page.getByRole('button', { name: 'Convert coded.avi' }).click();
    await expect(page.getByText(/^Converting on the server, [1-9]\d?%/)).toBeVisible();
    await page.getByRole('button', { name: 'Cancel coded.avi' }).click();
    await expect(page.getByText('coded.avi')).toHaveCount(0);
    const kept = async (): Promise<string[]> => {
      const lists = ['jobs', 'uploads', 'worker'].map((folder) =>
        readdir(join(app.dataFolder, folder), { recursive: true, withFileTypes: true }),
      );
      return (await Promise.all(lists)).flat().flatMap((entry) => (entry.isFile() ? [join(entry.parentPath, entry.name)] : [])); // prettier-ignore
    };
    await expect.poll(kept).toEqual([]);
    await page.getByLabel('Files to import').setInputFiles([fixture('hevc.mp4')]);
    await page.getByRole('button', { name: 'Convert hevc.mp4' }).click();
    await expect(page.getByRole('button', { name: 'Undo: import hevc.mp4' })).toBeVisible();
  } finally {
    await worker.stop();
  }
});
