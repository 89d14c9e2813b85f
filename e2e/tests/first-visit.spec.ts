import { accessFaults } from '../support/accessible';
import { expect, startAction, test, typeReadout } from '../support/app';

test('a first visit is led through the demo by hand, may leave and go on, and is asked once', async ({ page, app }) => {
  await page.goto(app.address);
  const offer = page.getByRole('group', { name: 'Path through the demo' });
  await offer.getByRole('button', { name: 'Start' }).click();
  const strip = page.getByRole('region', { name: 'Path through the demo' });
  await expect(strip).toContainText('1 of 5 · Slow a part');
  expect(await accessFaults(page, 'guidelines')).toEqual([]);
  await strip.getByRole('button', { name: 'Go there' }).click();
  await expect(page.getByRole('slider').first()).toBeVisible();
  await typeReadout(page, 'Speed', '50%');
  await expect(strip).toContainText('2 of 5 · Land it on a beat');

  // Left, and taken up from the first page.
  await strip.getByRole('button', { name: 'Leave the path' }).click();
  await expect(strip).toBeHidden();
  await page.goto(app.address);
  await expect(offer).toBeHidden();
  await page.getByRole('button', { name: 'Go on with the path: 4 left' }).click();
  await expect(strip).toContainText('2 of 5 · Land it on a beat');
  await strip.getByRole('button', { name: 'Go there' }).click();
  await startAction(page, 'Pace', 'Land on markers');
  const land = page.getByRole('dialog', { name: 'Land on markers' });
  await expect(land.getByRole('status')).toHaveText(/\d+ on markers/);
  await land.getByRole('button', { name: 'Apply' }).click();
  await expect(strip).toContainText('3 of 5 · Keep its pitch');

  await strip.getByRole('button', { name: 'Go there' }).click();
  await startAction(page, 'Sound', 'Pitch');
  const pitch = page.getByRole('dialog', { name: 'Pitch' });
  await pitch.getByRole('radio', { name: 'Is kept' }).click();
  await pitch.getByRole('button', { name: 'Apply' }).click();
  await expect(strip).toContainText('4 of 5 · Compare');
  await strip.getByRole('button', { name: 'Go there' }).click();
  await expect(page.getByRole('table', { name: 'Numbers of A and B' })).toBeVisible();
  await expect(strip).toContainText('5 of 5 · Render');
  await strip.getByRole('button', { name: 'Go there' }).click();
  await page.getByRole('radiogroup', { name: 'Preset' }).getByRole('radio', { name: 'Sound only' }).click();
  await page.getByRole('button', { name: 'Render', exact: true }).click();
  await expect(strip).toContainText('That was the whole path', { timeout: 90_000 });
  await strip.getByRole('button', { name: 'Leave the path' }).click();
  await page.goto(app.address);
  await expect(page.getByRole('button', { name: 'New project' })).toBeVisible();
  await expect(page.getByRole('button', { name: /Go on with the path/ })).toBeHidden();
  await expect(offer).toBeHidden();
});

test('the handbook is where the question is: its page, a search, links, notices; all of it from this server', async ({
  page,
  app,
}) => {
  const asked: string[] = [];
  page.on('request', (request) => asked.push(new URL(request.url()).origin));
  await page.goto(app.address);
  await page.getByRole('button', { name: 'Not now' }).click();
  await page.getByRole('link', { name: 'Open Marble film' }).first().click();
  await page.getByRole('link', { name: 'Retime The drop' }).click();
  await expect(page.getByRole('slider').first()).toBeVisible();
  await page.keyboard.press('?');
  await page.getByRole('dialog', { name: 'Shortcuts' }).getByRole('button', { name: 'Handbook' }).click();
  await expect(page.getByRole('heading', { name: 'Handbook · Pace' })).toBeVisible();
  await expect(page.getByRole('img').first()).toBeVisible();
  expect(await accessFaults(page, 'guidelines')).toEqual([]);
  const search = page.getByRole('textbox', { name: 'Search the handbook' });
  await search.fill('unevenness');
  await page
    .getByRole('list', { name: 'Found' })
    .getByRole('link', { name: /^Compare · Read the numbers/ })
    .click();
  await expect(page.getByRole('heading', { name: 'Handbook · Compare' })).toBeVisible();
  await search.fill('zzzz');
  await expect(page.getByText('The handbook says nothing of that.')).toBeVisible();
  await page.getByRole('button', { name: 'Notices' }).click();
  await expect(page.getByText('Permission is hereby granted').first()).toBeVisible();
  await expect(page.getByText('@expo-google-fonts/schibsted-grotesk').first()).toBeVisible();
  for (let back = 0; back < 3; back++) await page.getByRole('button', { name: 'Back' }).click();
  expect(new Set(asked)).toEqual(new Set([app.address]));
});
