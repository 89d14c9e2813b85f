import { join } from 'node:path';
import { writeFile } from 'node:fs/promises';
import { picturePlan, stretchesOf } from '@hastig/core';
import { locationOf } from '@hastig/engine/location';
import { filmOrder, jobOf } from '@hastig/engine/orders';
import { unpackProject } from '@hastig/server';
import { RenderPage } from '@hastig/worker/render-page';
import { expect, makeDemo, test } from '../support/app';
import { scratch } from '../support/files';
import { hasFramework } from '../support/framework';
import { expectSame } from '../support/one-piece';

const small = { width: 160, height: 90 } as const;
const title =
  'a film whose stretches are rendered by themselves, in any order, and joined, is the same as one rendered in one piece';

for (const form of [
  { format: 'mp4', ...small },
  { format: 'webm', ...small, soundCoding: 'opus' },
  { format: 'mov', ...small, soundCoding: 'pcm-s24' },
  { format: 'mkv', ...small, soundCoding: 'flac' },
] as const) {
  // Each is rendered seven times; a film in parts beside one in one piece is compared each time (`jobs.spec.ts`).
  test(`${title}: ${form.format}`, { tag: '@long' }, async ({ app }) => {
    test.skip(!hasFramework, 'needs GStreamer');
    const demo = await makeDemo(app);
    const folder = await scratch();
    const archive = join(folder, 'film.zip');
    const answer = await fetch(`${app.address}/api/projects/${demo.id}/archive`);
    await writeFile(archive, Buffer.from(await answer.arrayBuffer()));
    const { document, media } = await unpackProject(archive, folder);
    const files = new Map(media);
    const page = await RenderPage.open(files, () => undefined);
    try {
      const sources = Object.fromEntries(
        document.sources.map((source) => [source.id, locationOf(source, page.address(source.sha256))]),
      );
      const of = filmOrder(document, { sources });
      const job = jobOf(of, form, { from: 0, to: of.program.length });
      const at = (name: string): string => join(folder, `${name}.${form.format}`);
      const whole = await page.render(job, at('whole'));
      const stretches = stretchesOf(picturePlan(job.program, job.rate).count, job.rate, job.keyEvery);
      expect(stretches.length).toBe(4);
      const { marks: _, ...part } = job;
      const make = async (name: string, only: typeof job.only): Promise<string> => {
        files.set(name, at(name));
        await page.render({ ...part, ...(only && { only }) }, at(name));
        return page.address(name);
      };
      const pictures: string[] = [];
      for (const n of [2, 0, 3, 1]) pictures[n] = await make(`stretch ${n}`, stretches[n]);
      const sound = await make('sound', 'sound');
      const joined = await page.render({ ...job, parts: { pictures, sound } }, at('joined'));
      expect([joined.frames, joined.seconds]).toEqual([whole.frames, whole.seconds]);
      await expectSame(at('whole'), at('joined'), { ...small, frames: 640 });
    } finally {
      await page.close();
    }
  });
}
