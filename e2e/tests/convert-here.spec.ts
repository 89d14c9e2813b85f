import { join } from 'node:path';
import { writeFile } from 'node:fs/promises';
import { GifWriter } from 'omggif';
import type { StoredProject } from '@hastig/contract';
import { startWorker } from '../../scripts/worker-process';
import { expect, openDemoFootage, test } from '../support/app';
import { codedBy } from '../support/coded';
import { fixture, scratch } from '../support/files';
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
    const text = join(await scratch(), 'broken.avi');
    await writeFile(text, 'marbles '.repeat(1000));
    await page.getByLabel('Files to import').setInputFiles([avi, fixture('hevc.mp4'), gif, text]);
    await page.getByRole('button', { name: 'Convert coded.avi' }).click();
    await page.getByRole('button', { name: 'Convert hevc.mp4' }).click();
    await page.getByRole('button', { name: 'Convert turning.gif' }).click();
    await page.getByRole('button', { name: 'Convert broken.avi' }).click();
    await expect(page.getByRole('alert').getByText('Nothing in it can be decoded.')).toBeVisible();
    await expect(page.getByRole('button', { name: 'Convert broken.avi' })).toHaveCount(0);
    const projectId = /project\/([^/?]+)/.exec(page.url())![1]!;
    const sources = async (): Promise<unknown[]> => {
      const stored = (await (await fetch(`${app.address}/api/projects/${projectId}`)).json()) as StoredProject;
      const made = stored.document.sources.flatMap(({ name, facts: { converted, video } }) =>
        converted ? [{ name, from: converted.from, frames: video!.frames, codec: video!.codec }] : [],
      );
      // They are converted in the order in which their uploads end.
      return made.sort((one, other) => one.name.localeCompare(other.name));
    };
    await expect.poll(sources, { timeout: 90_000 }).toEqual([
      { name: 'coded.avi', from: 'Motion JPEG', frames: 144, codec: 'avc' },
      { name: 'hevc.mp4', from: 'H.265 / HEVC', frames: 24, codec: 'avc' },
      { name: 'turning.gif', from: 'GIF (Graphics Interchange Format)', frames: 6, codec: 'avc' },
    ]);
  } finally {
    await worker.stop();
  }
});
