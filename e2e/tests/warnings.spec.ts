import type { Page } from '@playwright/test';
import { expect, openDemoClip, readout, test, typeReadout } from '../support/app';
import { applySheet, paceAction } from '../support/pace';

test.beforeEach(async ({ page, app }) => {
  await openDemoClip(page, app, 'The drop');
  await applySheet(page, 'Speed', { choose: ['Whole clip'], fill: { Speed: '100%' } });
});

const list = (page: Page) => page.getByRole('dialog', { name: 'Warnings' }).getByRole('listitem');

test('a clip as it was shot has none', async ({ page }) => {
  await expect(page.getByRole('button', { name: /warning/ })).toHaveCount(0);
  await paceAction(page, 'Warnings');
  await expect(page.getByRole('dialog', { name: 'Warnings' })).toContainText('No warnings');
});

test('outside source: told with its frames, ended there by one tap', async ({ page }) => {
  await applySheet(page, 'Speed', { choose: ['Whole clip', 'Duration'], fill: { Speed: '150%' } });
  await page.getByRole('button', { name: '1 warning' }).click();
  await expect(list(page)).toContainText('48 frames past the last source frame');
  await list(page).getByRole('button', { name: 'End clip where the source ends' }).click();
  await expect(list(page)).toHaveCount(0);
});

test('slower than the floor: raised to it by one tap', async ({ page }) => {
  await applySheet(page, 'Speed', { choose: ['Range', 'Content'], fill: { From: '48f', To: '72f', Speed: '50%' } });
  await page.getByRole('button', { name: '1 warning' }).click();
  await expect(list(page)).toContainText('24 frames to interpolate');
  await list(page).getByRole('button', { name: 'Go to 00:00:02:00' }).click();
  await expect(readout(page, 'Output')).toContainText('00:00:02:00');
  await list(page).getByRole('button', { name: 'Raise to the floor' }).click();
  await expect(list(page)).toHaveCount(0);
});

test('fast for too long, a ramp too short', async ({ page }) => {
  await applySheet(page, 'Speed', {
    choose: ['Range', 'Content'],
    fill: { From: '0f', To: '120f', Speed: '400%' },
  });
  await page.getByRole('button', { name: '1 warning' }).click();
  await expect(list(page)).toContainText('At 300% or faster for 1.25 s: looks like fast-forward');
  await page.getByRole('dialog').getByRole('button', { name: 'Close' }).click();
  await typeReadout(page, 'Output', '15f');
  await applySheet(page, 'Ramp', { fill: { 'Speed after': '300%', Duration: '1f' } });
  await page.getByRole('button', { name: '2 warnings' }).click();
  await list(page).getByRole('button', { name: 'Widen to 4 frames' }).click();
  await expect(list(page)).toHaveCount(1);
});

test('backwards without being asked: kept forwards by one tap', async ({ page }) => {
  await typeReadout(page, 'Output', '72f');
  await applySheet(page, 'Ramp', {
    choose: ['custom', 'Duration'],
    fill: { 'Speed after': '50%', 'Handle 1, value': '6', 'Handle 2, value': '6' },
  });
  const warning = list(page).filter({ hasText: 'Runs backwards' });
  await page.getByRole('button', { name: /warning/ }).click();
  await expect(warning).toHaveCount(1);
  await warning.getByRole('button', { name: 'Keep it forward' }).click();
  await expect(warning).toHaveCount(0);
});

test('the guide: floor, cadence, and reading the source at another rate', async ({ page }) => {
  await paceAction(page, 'Cadence');
  const guide = page.getByRole('dialog', { name: 'Floor and cadence' });
  await expect(guide).toContainText('24 fps in 24 fps: real frames only down to 100%');
  await expect(guide.getByRole('table', { name: 'Cadence of each part' }).getByRole('row').nth(1)).toHaveText(
    '1144144000',
  );
  await expect(guide.getByRole('table', { name: /Slowest speed/ }).getByRole('row', { name: /^60/ })).toContainText(
    '40%',
  );
  await guide.getByRole('radio', { name: '60', exact: true }).click();
  await expect(guide).toContainText('60 fps in 24 fps: real frames only down to 40%');
  await guide.getByRole('button', { name: 'Close' }).click();
  await page.getByRole('button', { name: 'Last frame' }).click();
  // 144 frames at 60 fps last 2.4 s: 57.6 output frames, the last begun one shown.
  await expect(readout(page, 'Output')).toContainText('00:00:02:09');
  await page.getByRole('button', { name: 'Back', exact: true }).click();
  const card = page.getByRole('listitem', { name: 'The drop.mp4' });
  await expect(card).toContainText('60 fps in a 24 fps sequence: real frames down to 40%');
  await card.getByRole('button', { name: 'Details of The drop.mp4' }).click();
  await expect(card).toContainText('24 fps, played at 60');
  await card.getByRole('radio', { name: '24 (file)' }).click();
  await expect(card).toContainText('00:00:06:00');
});
