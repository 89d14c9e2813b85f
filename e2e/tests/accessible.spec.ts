import { expect, startAction, test } from '../support/app';
import { accessFaults } from '../support/accessible';
import { devices } from '../support/devices';
import { paceAction } from '../support/pace';
import { clip, timelineAction } from '../support/timeline';

const beatsAction: typeof timelineAction = (page, action) => startAction(page, 'Beats', action);

const kinds = [
  ['phone', 'dark'],
  ['phone', 'light'],
  ['desk', 'dark'],
  ['desk', 'light'],
] as const;

for (const [device, theme] of kinds) {
  test.describe(device, () => {
    test.use(devices[device]);

    test(`every view keeps the guidelines for accessible pages, ${theme}`, async ({ page, app, hasTouch }) => {
      const check = async (view: string, part?: string): Promise<void> => {
        await test.step(view, async () =>
          expect(await accessFaults(page, theme === 'light' ? 'contrast' : 'guidelines', part)).toEqual([]),
        );
      };
      /** Opens a sheet, checks it and shuts it again; the place around it is checked once. */
      const sheet = async (start: typeof timelineAction, action: string): Promise<void> => {
        await start(page, action);
        await check(action, '[role=dialog]');
        await page.keyboard.press('Escape');
        await expect(page.getByRole('dialog')).toBeHidden();
      };

      await page.goto(app.address);
      if (theme === 'light') await page.getByRole('button', { name: 'Light theme' }).click();
      await page.getByRole('button', { name: 'New project' }).click();
      await check('projects');
      await page.getByRole('button', { name: 'Open demo' }).click();
      await page.getByRole('button', { name: /^Settings/ }).click();
      // At the desk the search is always there.
      if (hasTouch) await page.getByRole('button', { name: 'Search', exact: true }).click();
      await page.getByRole('button', { name: 'Details of The trough.mp4' }).click();
      await check('footage');
      await page.getByRole('link', { name: 'Open The trough.mp4' }).click();
      await expect(page.getByTestId('contact-sheet')).toHaveAttribute('aria-busy', 'false');
      await page.getByRole('button', { name: /^Marker/ }).click();
      await check('a source');
      await page.getByRole('button', { name: 'Back', exact: true }).click();

      await page.getByRole('button', { name: 'Timeline', exact: true }).click();
      await clip(page, 'The bowl').click();
      await check('timeline');
      for (const action of [
        'Clip',
        'Picture',
        'Slip',
        'Join',
        'Fit to gap',
        'Tracks',
        'Sequence',
        'Markers',
        'Shortcuts',
      ])
        await sheet(timelineAction, action);
      await page.getByRole('button', { name: 'More', exact: true }).click();
      await check('more');
      await page.keyboard.press('Escape');

      await page.getByRole('link', { name: 'Beats', exact: true }).click();
      await expect(page.getByRole('toolbar', { name: 'Beats actions' })).toBeVisible();
      await check('beats');
      for (const action of ['Adjust', 'Even grid', 'Markers', 'Click']) await sheet(beatsAction, action);

      await page.getByRole('link', { name: 'Pace', exact: true }).click();
      await expect(page.getByRole('group', { name: 'Speed curve' })).toBeVisible();
      await check('pace');
      for (const action of ['Speed', 'Ramp', 'Trim', 'Surge', 'Stairs', 'Time-lapse', 'Cadence', 'Warnings'])
        await sheet(paceAction, action);
      await page.getByRole('button', { name: 'Positions' }).click();
      await check('positions');
      // At the desk the ledger stands beside the picture.
      if (hasTouch) {
        await page.getByRole('button', { name: 'Ledger' }).click();
        await check('ledger');
      }

      await page.getByRole('link', { name: 'Output', exact: true }).click();
      await check('output');
    });
  });
}
