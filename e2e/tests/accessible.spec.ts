import { expect, startAction, test } from '../support/app';
import { accessFaults } from '../support/accessible';
import { devices } from '../support/devices';
import { paceAction } from '../support/pace';
import { clip, timelineAction } from '../support/timeline';

const beatsAction: typeof timelineAction = (page, action) => startAction(page, 'Beats', action);

for (const device of ['phone', 'desk'] as const) {
  test.describe(device, () => {
    test.use(devices[device]);

    const tag = device === 'desk' ? '@long' : [];
    test(
      'every view keeps the guidelines for accessible pages, dark and light',
      { tag },
      async ({ page, app, hasTouch }) => {
        const wear = (theme: 'dark' | 'light'): Promise<void> =>
          page.evaluate((name) => {
            localStorage.setItem('hastig-theme', name);
            document.documentElement.dataset.theme = name;
          }, theme);
        const faultless = (view: string, of: 'guidelines' | 'contrast', part?: string): Promise<void> =>
          test.step(`${view}: ${of}`, async () => expect(await accessFaults(page, of, part)).toEqual([]));
        const check = async (view: string): Promise<void> => {
          await faultless(view, 'guidelines');
          // The other theme is the same but for its colours.
          await wear('light');
          await faultless(view, 'contrast');
          await wear('dark');
        };
        /** Opens a sheet, checks it and shuts it again, in both themes; the place around it is checked once. */
        const sheet = async (start: typeof timelineAction, action: string): Promise<void> => {
          // At the desk they are the same ones, and so are their colours.
          if (!hasTouch) return;
          for (const theme of ['dark', 'light'] as const) {
            await wear(theme);
            await start(page, action);
            await faultless(action, theme === 'dark' ? 'guidelines' : 'contrast', '[role=dialog]');
            await page.keyboard.press('Escape');
            await expect(page.getByRole('dialog')).toBeHidden();
          }
          await wear('dark');
        };

        await page.goto(app.address);
        await page.getByRole('button', { name: 'New project' }).click();
        await check('projects');
        await page.getByRole('button', { name: 'Open demo' }).click();
        await page.getByRole('button', { name: /^Settings/ }).click();
        // At the desk the search is always there.
        if (hasTouch) await page.getByRole('button', { name: 'Search', exact: true }).click();
        // Of a long list only what is near is there.
        for (const name of ['The drop.mp4', 'The bowl.mp4', 'The steps.mp4'])
          await page.getByRole('listitem', { name }).scrollIntoViewIfNeeded();
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
          'Framing',
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
      },
    );
  });
}
