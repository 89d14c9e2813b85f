import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { newProject } from '@hastig/core';
import { accessFaults } from '../support/accessible';
import { expect, readout, saved, test } from '../support/app';
import { drawStill, fixture, readPlates, scratch } from '../support/files';
import { clip, projectOf, renderDocument, storeDocument, storedDocument, storedRow } from '../support/timeline';

const SIZE = { width: 320, height: 180 };

/** A JPEG that says it must be turned (Exif 2.32, tag 0x0112 in a big-endian TIFF of one entry). */
function turned(jpeg: Buffer, orientation: number): Buffer {
  const tiff = Buffer.from([
    0x4d,
    0x4d,
    0,
    42,
    0,
    0,
    0,
    8,
    0,
    1,
    1,
    0x12,
    0,
    3,
    0,
    0,
    0,
    1,
    0,
    orientation,
    0,
    0,
    0,
    0,
    0,
    0,
  ]);
  const content = Buffer.concat([Buffer.from('Exif\0\0', 'latin1'), tiff]);
  const head = Buffer.from([0xff, 0xe1, 0, content.length + 2]);
  return Buffer.concat([jpeg.subarray(0, 2), head, content, jpeg.subarray(2)]);
}

/** The smallest AVIF there is: two by two pixels. */
const AVIF =
  'AAAAIGZ0eXBhdmlmAAAAAGF2aWZtaWYxbWlhZk1BMUIAAADybWV0YQAAAAAAAAAoaGRscgAAAAAAAAAAcGljdAAAAAAAAAAAAAAAAGxpYmF2aWYAAAAADnBpdG0AAAAAAAEAAAAeaWxvYwAAAABEAAABAAEAAAABAAABGgAAAB0AAAAoaWluZgAAAAAAAQAAABppbmZlAgAAAAABAABhdjAxQ29sb3IAAAAAamlwcnAAAABLaXBjbwAAABRpc3BlAAAAAAAAAAIAAAACAAAAEHBpeGkAAAAAAwgICAAAAAxhdjFDgQ0MAAAAABNjb2xybmNseAACAAIAAYAAAAAXaXBtYQAAAAAAAAABAAEEAQKDBAAAACVtZGF0EgAKCBgANogQEAwgMg8f8D///8WfhwB8+ErK42A=';

test('stills come in, are held as long as one likes, and are rendered as they are', async ({ page, app }) => {
  const folder = await scratch();
  const plates = { 'plate.png': 41, 'plate.webp': 42, 'clear.png': 43 };
  const files = [fixture('plates-24.mp4')];
  for (const [name, number] of Object.entries(plates)) {
    const type = name.endsWith('png') ? 'image/png' : 'image/webp';
    const bytes = await drawStill({ type, ...SIZE, number, alpha: name === 'clear.png' });
    await writeFile(join(folder, name), bytes);
    files.push(join(folder, name));
  }
  const upright = await drawStill({ type: 'image/jpeg', width: 180, height: 320, number: 44 });
  await writeFile(join(folder, 'turned.jpg'), turned(upright, 6));
  await writeFile(join(folder, 'two.avif'), Buffer.from(AVIF, 'base64'));
  await projectOf(page, app, [...files, join(folder, 'turned.jpg'), join(folder, 'two.avif')]);

  // As displayed, after rotation; who may be transparent says so.
  const { sources } = await storedDocument(page, app);
  expect(sources.find(({ name }) => name === 'turned.jpg')!.facts.still).toMatchObject(SIZE);
  const alpha = Object.fromEntries(sources.map(({ name, facts }) => [name, facts.still?.alpha ?? false]));
  expect(alpha).toMatchObject({ 'plate.png': true, 'plate.webp': false, 'clear.png': true, 'turned.jpg': false });

  await page.getByRole('button', { name: 'Timeline', exact: true }).click();
  // Each for five seconds, and pulled out further than that.
  await clip(page, 'plate').first().click();
  const end = page.getByRole('slider', { name: 'End of plate' });
  await end.focus();
  await end.press('Shift+ArrowRight');
  await end.press('ArrowRight');
  await saved(page);
  expect(await storedRow(page, app)).toBe('plates-24/144 plate/131 plate/120 clear/120 turned/120 two/120');

  // The one that lets through lies above the clip.
  const document = await storedDocument(page, app);
  const idOf = (index: number): string => document.clips[index]!.id;
  const above = {
    id: 'above',
    kind: 'picture' as const,
    name: 'Above',
    items: [{ gap: 24 }, { clip: idOf(3) }],
  };
  const shorter = document.clips
    .slice(0, 4)
    .map((one, index) => ({ ...one, shown: { ...one.shown, frames: [48, 5, 5, 12][index]! } }));
  const [first] = document.sequence.tracks;
  const film = {
    ...document,
    clips: shorter,
    sequence: {
      ...document.sequence,
      tracks: [{ ...first!, items: [0, 1, 2].map((index) => ({ clip: idOf(index) })) }, above],
    },
  };
  const { plates: seen } = await readPlates(await renderDocument(page, app, film));
  const counted = (from: number, count: number): number[] => Array.from({ length: count }, (_, n) => from + n);
  expect(seen).toEqual([
    ...counted(0, 24),
    ...Array<number>(12).fill(43),
    ...counted(36, 12),
    ...Array<number>(5).fill(41),
    ...Array<number>(5).fill(42),
  ]);
});

test('numbered stills become one source at a rate; what is missing is told; what does not fit is refused by its name', async ({
  page,
  app,
}) => {
  const numbers = Array.from({ length: 30 }, (_, n) => n + 1).filter(
    (number) => number !== 5 && (number < 11 || number > 13),
  );
  const still = async (number: number, size = SIZE) => ({
    name: `IMG_${String(number).padStart(4, '0')}.png`,
    mimeType: 'image/png',
    buffer: await drawStill({ type: 'image/png', ...size, number }),
  });
  const files = await Promise.all(numbers.map((number) => still(number)));
  await page.goto(`${app.address}/project/${await storeDocument(app, newProject('Clouds'))}`);
  // In no order, as pickers give them.
  await page.getByLabel('Files to import').setInputFiles([...files].reverse());
  const offer = page.getByRole('group', { name: 'Image sequence IMG_0001–0030' });
  await expect(offer).toContainText('26 stills');
  await expect(offer.getByRole('status')).toContainText('4 numbers are missing: 5, 11–13.');
  expect(await accessFaults(page, 'guidelines')).toEqual([]);
  await offer.getByRole('radio', { name: '25', exact: true }).click();
  await expect(offer).toContainText('Makes one clip of 1.04 s');
  await offer.getByRole('button', { name: 'Import as one clip' }).click();
  await expect(page.getByRole('listitem', { name: 'IMG_0001–0030' })).toBeVisible();
  await saved(page);
  const document = await storedDocument(page, app);
  expect(document.sequence).toMatchObject({ rate: { num: 25, den: 1 }, width: 320, height: 180 });
  expect(document.sources).toMatchObject([
    { readAs: { num: 25, den: 1 }, facts: { still: { pictures: 26, first: 1 } } },
  ]);

  // Seen and stepped through like any clip, and rendered so.
  await page.getByRole('link', { name: 'Open IMG_0001–0030' }).click();
  await page.getByRole('button', { name: 'Last frame' }).click();
  await expect(readout(page, 'Source frame')).toHaveAccessibleName(/0025/);
  const { plates } = await readPlates(await renderDocument(page, app, document));
  expect(plates).toEqual(numbers);

  await page.goto(`${app.address}/project/${await storeDocument(app, newProject('Clouds'))}`);
  await page.getByLabel('Files to import').setInputFiles([await still(7), await still(8, { width: 160, height: 90 })]);
  await page.getByRole('button', { name: 'Import as one clip' }).click();
  await expect(page.getByRole('alert')).toContainText(
    'IMG_0008.png is 160 × 90 pixels, but the first picture is 320 × 180',
  );

  // Or each for itself.
  await page.getByRole('button', { name: 'Dismiss IMG_0007–0008.tar' }).click();
  await page.getByLabel('Files to import').setInputFiles([await still(7), await still(8)]);
  await page.getByRole('button', { name: 'Import as separate stills' }).click();
  await expect(page.getByRole('listitem', { name: 'IMG_0008.png' })).toBeVisible();
  await saved(page);
  expect((await storedDocument(page, app)).sources.map(({ name }) => name)).toEqual(['IMG_0007.png', 'IMG_0008.png']);
});
