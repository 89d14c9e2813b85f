import { dragBy, expect, openDemoFootage, readout, saved, test } from '../support/app';
import { fixture } from '../support/files';
import { remake } from '../support/remade';
import { projectOf, storedDocument, storedRow } from '../support/timeline';

test.beforeEach(async ({ page, app }) => {
  await openDemoFootage(page, app);
  await page.getByRole('link', { name: 'Open The bowl.mp4' }).click();
  await expect(page.getByTestId('contact-sheet')).toBeVisible();
});

test('a source is looked at frame by frame, its part chosen and laid on the timeline', async ({ page, app }) => {
  await page.getByRole('button', { name: 'Next frame' }).click();
  await expect(readout(page, 'Source frame')).toContainText('0001');
  await dragBy(page, page.getByTestId('contact-sheet'), 10, 0);
  await expect(readout(page, 'Source frame')).not.toContainText('0001');
  const type = async (frame: string): Promise<void> => {
    await readout(page, 'Source frame').click();
    await page.getByRole('textbox', { name: 'Source frame' }).fill(frame);
    await page.getByRole('textbox', { name: 'Source frame' }).press('Enter');
    await expect(readout(page, 'Source frame')).toContainText(frame);
  };
  await type('60');
  await page.getByRole('button', { name: 'Mark in' }).click();
  await type('179');
  await page.keyboard.press('o');
  await expect(page.getByText('00:00:02:00 of 00:00:05:00')).toBeVisible();
  await page.keyboard.press('m');
  await page.getByRole('textbox', { name: /^Name of marker at/ }).fill('turns');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Add to timeline' }).click();
  await expect(page.getByRole('group', { name: 'Tracks' })).toBeVisible();
  await saved(page);
  // 120 of 60 fps on 24: two seconds.
  expect((await storedRow(page, app)).split(' ').at(-1)).toBe('bowl/48');
  const { sources } = await storedDocument(page, app);
  expect(sources.find(({ name }) => name === 'The bowl.mp4')).toMatchObject({
    part: { from: 60, frames: 120 },
    markers: [{ at: 179, name: 'turns' }],
  });
});

test('a source is renamed, its file replaced with the timing kept, and what differs told', async ({ page, app }) => {
  await page.getByRole('textbox', { name: 'Name' }).fill('Bowl, wide.mp4');
  await page.getByRole('textbox', { name: 'Name' }).press('Enter');
  await expect(page.getByRole('heading', { name: 'Marble film · Bowl, wide.mp4' })).toBeVisible();
  await saved(page);
  const before = await storedDocument(page, app);
  await page.getByLabel('Replacement file').setInputFiles(fixture('hevc.mp4'));
  await expect(page.getByRole('alert')).toContainText('can’t decode HEVC');
  await page.getByRole('button', { name: 'Dismiss' }).click();
  await page.getByLabel('Replacement file').setInputFiles(fixture('plates-60.mp4'));
  await expect(page.getByRole('status').filter({ hasText: 'Differences' })).toContainText(
    'length was 300 frames, is 180 frames; size was 1280 × 720, is 320 × 180; sound was',
  );
  await saved(page);
  const after = await storedDocument(page, app);
  expect(after.clips).toEqual(before.clips);
  expect(after.sources[1]!.sha256).not.toBe(before.sources[1]!.sha256);
});

test('footage is found by name and put in order', async ({ page }) => {
  await page.getByRole('button', { name: 'Back', exact: true }).click();
  const cards = page.getByRole('list', { name: 'Sources' }).getByRole('listitem');
  await page.getByRole('button', { name: 'Search', exact: true }).click();
  await page.getByRole('radio', { name: 'Frame rate' }).click();
  await expect(cards.first()).toHaveAccessibleName('The steps.mp4');
  await page.getByRole('textbox', { name: 'Search' }).fill('bowl');
  await expect(cards).toHaveCount(1);
  await page.getByRole('textbox', { name: 'Search' }).fill('nothing such');
  await expect(page.getByText('No footage matches')).toBeVisible();
});

test('an interlaced source: its fields woven, one of two, or both as frames, their order swapped while it plays', async ({
  page,
  app,
}) => {
  await page.goto(page.url().replace('source-bowl', 'source-trough'));
  await expect(page.getByText('interlaced, top field first')).toBeVisible();
  const fields = page.getByRole('radiogroup', { name: 'Fields' });
  await expect(fields.getByRole('radio', { name: 'First field only' })).toBeChecked();
  await page.getByRole('button', { name: 'Add to timeline' }).click();
  await saved(page);
  const before = (await storedRow(page, app)).split(' ').at(-1);
  expect(before).toBe('trough/120');
  await page.goBack();
  await page.getByRole('button', { name: 'Last frame' }).click();
  await expect(readout(page, 'Source frame')).toContainText('0124');
  await fields.getByRole('radio', { name: 'Both, 50 fps' }).click();
  await page.getByRole('button', { name: 'Last frame' }).click();
  await expect(readout(page, 'Source frame')).toContainText('0249');
  await page.getByRole('button', { name: 'Play' }).click();
  await page.getByRole('button', { name: 'Bottom field first' }).click();
  await expect(page.getByText('The bottom field is now first.', { exact: false })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Pause' })).toBeVisible();
  await page.getByRole('button', { name: 'Pause' }).click();
  await saved(page);
  const { sources } = await storedDocument(page, app);
  expect(sources.find(({ id }) => id === 'source-trough')!.fields).toEqual({ use: 'both', first: 'bottom' });
  // The clip that was laid before is as long as it was.
  expect((await storedRow(page, app)).split(' ').at(-1)).toBe(before);
  await page.getByRole('button', { name: 'Undo: swap field order' }).click();
  await fields.getByRole('radio', { name: 'Woven' }).click();
  await expect(page.getByText('motion looks combed', { exact: false })).toBeVisible();
});

test('a file on its way behind a source shows how far it is, and is called off', async ({ page, app }) => {
  await page.route('**/api/uploads/**', () => undefined);
  const before = await storedDocument(page, app);
  await page.getByLabel('Replacement file').setInputFiles(fixture('plates-24.mp4'));
  await expect(page.getByRole('progressbar', { name: 'Upload of plates-24.mp4' })).toBeVisible();
  await page.getByRole('button', { name: 'Cancel plates-24.mp4' }).click();
  await expect(page.getByRole('list', { name: 'Importing' })).toBeHidden();
  await page.unrouteAll({ behavior: 'ignoreErrors' });
  expect((await storedDocument(page, app)).sources).toEqual(before.sources);
});

test('frames at irregular times are counted at a rate that is chosen; clips keep their length', async ({
  page,
  app,
}) => {
  // 30 a second; every ninth fell out, and nothing was recorded for two seconds.
  const times = Array.from({ length: 144 }, (_, n) => n / 30 + (n > 70 ? 2 : 0)).filter((_, n) => n % 9 !== 4);
  const file = await remake({ times, end: 6.8, sounds: [{ start: 0, end: 6.8, knocks: [1] }] });
  await projectOf(page, app, [file]);
  await page.getByRole('link', { name: 'Open clip.mov' }).click();
  const counted = page.getByRole('radiogroup', { name: 'Variable frame rate, play at' });
  await expect(counted.getByRole('radio', { name: '30 fps', exact: true })).toBeChecked();
  await expect(page.getByText('In sync with the sound. 76 frames repeat, no frame lost.')).toBeVisible();
  const shown = async (): Promise<number> => (await storedDocument(page, app)).clips[0]!.shown.frames;
  const before = await shown();
  await page.getByRole('button', { name: 'Last frame' }).click();
  await expect(readout(page, 'Source frame')).toContainText('0203');
  await counted.getByRole('radio', { name: '24 fps', exact: true }).click();
  await saved(page);
  expect(await shown()).toBe(before);
  await page.getByRole('button', { name: 'Last frame' }).click();
  await expect(readout(page, 'Source frame')).toContainText('0163');
  await counted.getByRole('radio', { name: 'Frame by frame' }).click();
  await expect(page.getByText('sound drifts out of sync')).toBeVisible();
  await saved(page);
  expect(await shown()).toBe(before);
  await page.getByRole('button', { name: 'Last frame' }).click();
  await expect(readout(page, 'Source frame')).toContainText('0127');
});
