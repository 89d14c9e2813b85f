import { join } from 'node:path';
import { writeFile } from 'node:fs/promises';
import type { StoredProject } from '@hastig/contract';
import { startWorker } from '../../scripts/worker-process';
import { expect, openDemoFootage, test } from '../support/app';
import { codedBy } from '../support/coded';
import { fixture, scratch } from '../support/files';
import { hasFramework } from '../support/framework';

test.skip(!hasFramework, 'needs GStreamer');

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
    const text = join(await scratch(), 'broken.avi');
    await writeFile(text, 'marbles '.repeat(1000));
    await page.getByLabel('Files to import').setInputFiles([avi, fixture('hevc.mp4'), text]);
    await page.getByRole('button', { name: 'Convert coded.avi' }).click();
    await page.getByRole('button', { name: 'Convert hevc.mp4' }).click();
    await page.getByRole('button', { name: 'Convert broken.avi' }).click();
    await expect(page.getByRole('alert').getByText('Nothing in it can be decoded.')).toBeVisible();
    await expect(page.getByRole('button', { name: 'Convert broken.avi' })).toHaveCount(0);
    const projectId = /project\/([^/?]+)/.exec(page.url())![1]!;
    const sources = async (): Promise<unknown[]> => {
      const stored = (await (await fetch(`${app.address}/api/projects/${projectId}`)).json()) as StoredProject;
      return stored.document.sources.flatMap(({ name, facts: { converted, video } }) =>
        converted ? [{ name, from: converted.from, frames: video!.frames, codec: video!.codec }] : [],
      );
    };
    await expect.poll(sources, { timeout: 90_000 }).toEqual([
      { name: 'coded.avi', from: 'Motion JPEG', frames: 144, codec: 'avc' },
      { name: 'hevc.mp4', from: 'H.265 / HEVC', frames: 24, codec: 'avc' },
    ]);
  } finally {
    await worker.stop();
  }
});
