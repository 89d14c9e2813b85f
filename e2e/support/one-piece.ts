import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { expect } from '@playwright/test';
import type { OutputForm } from '@hastig/contract';
import { locationOf } from '@hastig/engine/location';
import { filmOrder, jobOf } from '@hastig/engine/orders';
import { unpackProject } from '@hastig/server';
import { RenderPage } from '@hastig/worker/render-page';
import type { TestApp } from './app';
import { scratch } from './files';
import { greyPictures, soundOf } from './framework';

/** A project's film rendered in one piece, without a server. */
export async function inOnePiece(app: TestApp, id: string, form: OutputForm): Promise<string> {
  const folder = await scratch();
  const archive = join(folder, 'film.zip');
  await writeFile(archive, Buffer.from(await (await fetch(`${app.address}/api/projects/${id}/archive`)).arrayBuffer()));
  const { document, media } = await unpackProject(archive, folder);
  const page = await RenderPage.open(media, () => undefined);
  try {
    const sources = Object.fromEntries(
      document.sources.map((source) => [source.id, locationOf(source, page.address(source.sha256))]),
    );
    const of = filmOrder(document, { sources });
    const out = join(folder, 'whole.mp4');
    await page.render(jobOf(of, form, { from: 0, to: of.program.length }), out);
    return out;
  } finally {
    await page.close();
  }
}

interface Wanted {
  width: number;
  height: number;
  frames: number;
}

/** Two files have the same pictures once they are decoded, and the same sound, to the sample. */
export async function expectSame(one: string, other: string, { width, height, frames }: Wanted): Promise<void> {
  const [were, are] = [await greyPictures(one, width, height), await greyPictures(other, width, height)];
  expect([were.length, are.length]).toEqual([frames, frames]);
  expect(were.findIndex((picture, n) => !picture.equals(are[n]!))).toBe(-1);
  const [heard, again] = [await soundOf(one, 48_000, 2), await soundOf(other, 48_000, 2)];
  expect(again[0]!.length).toBe(heard[0]!.length);
  expect(heard[0]!.findIndex((value, n) => value !== again[0]![n])).toBe(-1);
}
