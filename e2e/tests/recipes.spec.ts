import type { Page } from '@playwright/test';
import { expect, openDemoClip, readout, saved, test, typeReadout } from '../support/app';
import { applySheet, handles, openSheet, toTheEnd, undo, type Filled } from '../support/pace';

// The drop: 144 source frames at 24 fps, slowed to 40% from output 28 to 124, 189 output frames long.
test.beforeEach(async ({ page, app }) => {
  await openDemoClip(page, app, 'The drop');
  await applySheet(page, 'Speed', { choose: ['Whole clip'], fill: { Speed: '100%' } });
});

interface Case {
  action: string;
  step: string;
  at?: string;
  filled?: Filled;
  /** Output frame of the last picture, and the source frame it shows. */
  last: [output: string, source: string];
  /** A handle that must be there afterwards. */
  shows?: RegExp;
}

const cases: Case[] = [
  {
    action: 'Surge',
    step: 'surge',
    filled: { choose: ['Whole clip', 'Duration'] },
    last: ['00:00:05:23', '0143'],
    shows: /^300%/,
  },
  { action: 'Dip', step: 'dip', filled: { choose: ['Whole clip', 'Content'] }, last: ['', '0143'], shows: /^40%/ },
  {
    action: 'Stairs',
    step: 'stairs',
    at: '48f',
    filled: { choose: ['Content'] },
    last: ['00:00:06:06', '0143'],
    shows: /^70% for 5 frames/,
  },
  {
    action: 'There & back',
    step: 'there and back',
    filled: { choose: ['Whole clip', 'End the clip'] },
    last: ['', '0001'],
    shows: /^-100%/,
  },
  {
    action: 'Rewind',
    step: 'rewind',
    at: '96f',
    filled: { fill: { 'Source frames to rewind': '48' } },
    last: ['', '0143'],
    shows: /^-300%/,
  },
  { action: 'Stutter', step: 'stutter', filled: { choose: ['Whole clip'] }, last: ['00:00:05:23', '0140'] },
  { action: 'Stop-motion', step: 'stop-motion', filled: { choose: ['Whole clip'] }, last: ['00:00:05:23', '0142'] },
  {
    action: 'Time-lapse',
    step: 'time-lapse',
    filled: { choose: ['Whole clip'] },
    last: ['00:00:00:14', '0140'],
    shows: /^1000% for 14.4 frames/,
  },
  {
    action: 'Replay',
    step: 'replay',
    filled: { choose: ['Whole clip', 'Back, then forward'], fill: { 'Replay speed': '200%' } },
    last: ['00:00:11:23', '0142'],
  },
  {
    action: 'Set range',
    step: 'set a range',
    filled: { choose: ['Range'], fill: { From: '48f', To: '96f', Speed: '50%' } },
    last: ['00:00:07:23', '0143'],
    shows: /^50% for 88 frames/,
  },
  {
    action: 'Freeze',
    step: 'freeze',
    at: '72f',
    filled: { fill: { Duration: '12f' } },
    last: ['00:00:06:11', '0143'],
    shows: /^0% for 12 frames/,
  },
  {
    action: 'Reverse',
    step: 'reverse',
    filled: { choose: ['Whole clip'] },
    last: ['00:00:05:23', '0000'],
    shows: /^-100%/,
  },
  {
    action: 'Fit',
    step: 'fit',
    filled: { choose: ['Percent or factor'], fill: { 'Relative speed': '200%' } },
    last: ['00:00:02:23', '0142'],
    shows: /^200%/,
  },
];

async function tryOut(page: Page, { action, step, at, filled, last, shows }: Case): Promise<void> {
  const before = await handles(page);
  await typeReadout(page, 'Output', at ?? '0f');
  const sheet = await openSheet(page, action, filled);
  // What is tried out is seen before it is applied; discarded, it leaves nothing behind.
  await expect(sheet.getByRole('status')).toContainText('frames');
  if (shows) await expect.poll(() => handles(page)).toContainEqual(expect.stringMatching(shows));
  await sheet.getByRole('button', { name: 'Discard' }).click();
  await expect.poll(() => handles(page)).toEqual(before);

  await applySheet(page, action, filled);
  if (shows) await expect.poll(() => handles(page)).toContainEqual(expect.stringMatching(shows));
  await toTheEnd(page);
  if (last[0]) await expect(readout(page, 'Output')).toContainText(last[0]);
  await expect(readout(page, 'Source frame')).toContainText(last[1]);
  await saved(page);
  await undo(page, step);
  await expect.poll(() => handles(page)).toEqual(before);
}

// Several on one page, for opening it takes longer than each; each leaves it as it was.
const AT_ONCE = 5;
for (let first = 0; first < cases.length; first += AT_ONCE) {
  const some = cases.slice(first, first + AT_ONCE);
  test(`tried out, applied, undone: ${some.map(({ action }) => action).join(', ')}`, async ({ page }) => {
    for (const one of some) await test.step(one.action, () => tryOut(page, one));
  });
}

test('a range marked while it plays gets a duration, its edges become ramps', async ({ page }) => {
  // From frame 24 on, so that there is room for a ramp before the range however soon it is marked.
  await typeReadout(page, 'Output', '24f');
  const from = await readout(page, 'Output').textContent();
  await page.getByRole('button', { name: 'Play' }).click();
  await expect(readout(page, 'Output')).not.toHaveText(from!);
  await page.keyboard.press('i');
  await expect(page.getByRole('button', { name: 'Mark in' })).toHaveAttribute('aria-pressed', 'true');
  const marked = await readout(page, 'Output').textContent();
  // It plays on while a range is marked.
  await expect(readout(page, 'Output')).not.toHaveText(marked!);
  await page.getByRole('button', { name: 'Pause' }).click();
  await typeReadout(page, 'Output', '132f');
  await page.getByRole('button', { name: 'Mark out' }).click();
  await applySheet(page, 'Set range', {
    choose: ['In to out', 'Duration'],
    fill: { Duration: '9s', 'Ramps at both ends': '6f' },
  });
  expect((await handles(page)).filter((text) => /over 6 frames/.test(text!))).toHaveLength(2);
});

test('an ease is drawn, own handles are typed, or start and end in frames', async ({ page }) => {
  await typeReadout(page, 'Output', '72f');
  await applySheet(page, 'Ramp', {
    choose: ['in frames', 'Separate'],
    fill: { 'Frames at the start': '2', 'Frames at the end': '8' },
  });
  await page.getByRole('slider', { name: /^Ramp/ }).focus();
  const sheet = await openSheet(page, 'Ease', { choose: ['custom'], fill: { 'Handle 1, time': '1.5' } });
  await expect(sheet.getByRole('alert').first()).toContainText('Handle 1, time must be between 0 and 1');
  await sheet.getByRole('textbox', { name: 'Handle 1, time' }).fill('0.2');
  await sheet.getByRole('button', { name: 'Apply' }).click();
  await expect(page.getByRole('button', { name: 'Undo: ease a ramp' })).toBeEnabled();
});

test('timing is copied from one clip and pasted on another', async ({ page }) => {
  await applySheet(page, 'Set range', { choose: ['Range'], fill: { From: '48f', To: '96f', Speed: '50%' } });
  await openSheet(page, 'Copy timing');
  await expect(page.getByText('Copied the timing')).toBeVisible();
  await page.getByRole('button', { name: 'Back', exact: true }).click();
  await page.getByRole('link', { name: 'Retime The bowl' }).click();
  await expect(page.getByRole('slider').first()).toBeVisible();
  await toTheEnd(page);
  const end = (await readout(page, 'Output').textContent())!;
  await applySheet(page, 'Paste timing', { choose: ['Shape, keep duration'] });
  await toTheEnd(page);
  await expect(readout(page, 'Output')).toHaveText(end);
  expect((await handles(page)).filter((text) => /^×/.test(text!))).toHaveLength(2);
});

test('an edit while it plays takes effect and play goes on', async ({ page }) => {
  await page.getByRole('button', { name: 'Loop' }).click();
  await page.getByRole('button', { name: 'Play' }).click();
  await expect(readout(page, 'Source frame')).not.toContainText('0000');
  const level = page.getByRole('slider', { name: 'Part 1 of 1' });
  await level.focus();
  await page.keyboard.press('ArrowDown');
  await expect(level).toHaveAttribute('aria-valuetext', /^95%/);
  const shown = await readout(page, 'Source frame').textContent();
  await expect(readout(page, 'Source frame')).not.toHaveText(shown!);
  await expect(page.getByRole('button', { name: 'Pause' })).toBeVisible();
});
