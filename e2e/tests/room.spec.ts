import type { Locator, Page } from '@playwright/test';
import { expect, makeDemo, openDemoClip, startAction, test } from '../support/app';
import { applySheet, openSheet } from '../support/pace';

const sizes = [
  { width: 390, height: 844 },
  { width: 844, height: 390 },
  { width: 360, height: 640 },
  { width: 768, height: 1024 },
  { width: 1280, height: 800 },
];
const isWide = ({ width, height }: { width: number; height: number }): boolean => width >= 900 && height >= 540;
const isTurned = ({ width, height }: { width: number; height: number }): boolean => height < 540 && width > height;

const picture = (page: Page): Locator => page.getByRole('img', { name: 'Picture of The drop' });

async function boxOf(part: Locator): Promise<{ x: number; y: number; width: number; height: number }> {
  return (await part.boundingBox())!;
}

/** Drags something by its middle, with a mouse or a finger: both send pointer events. */
async function pull(page: Page, part: Locator, dx: number, dy: number): Promise<void> {
  const { x, y, width, height } = await boxOf(part);
  const [middleX, middleY] = [x + width / 2, y + height / 2];
  await page.mouse.move(middleX, middleY);
  await page.mouse.down();
  await page.mouse.move(middleX + dx / 2, middleY + dy / 2, { steps: 3 });
  await page.mouse.move(middleX + dx, middleY + dy, { steps: 3 });
  await page.mouse.up();
}

for (const size of sizes) {
  test.describe(`${size.width} × ${size.height}`, () => {
    test.use({ viewport: size, hasTouch: !isWide(size) });
    // A phone upright and turned, and a desk, every time.
    const tag = size.width === 360 || size.width === 768 ? '@long' : [];

    test(
      'the picture is given more room and less, which is remembered; and all of the screen',
      { tag },
      async ({ page, app }) => {
        await openDemoClip(page, app, 'The drop');
        const divider = page.getByRole('separator', { name: 'Resize picture' });
        const upright = isTurned(size);
        const extent = async (): Promise<number> => {
          const { x, y } = await boxOf(divider);
          return upright ? x : y;
        };
        const before = await extent();
        await pull(page, divider, upright ? 70 : 0, upright ? 0 : 100);
        await expect.poll(extent).toBeGreaterThan(before + 30);
        const larger = await extent();
        await page.reload();
        await expect(picture(page)).toBeVisible();
        await expect.poll(extent).toBeCloseTo(larger, 0);
        await divider.press('Home');
        await expect.poll(extent).toBeLessThan(before + 1);
        await expect(picture(page)).toBeVisible();

        await page.getByRole('button', { name: 'Full screen' }).click();
        const exit = page.getByRole('button', { name: 'Exit full screen' });
        await expect(exit).toBeInViewport({ ratio: 1 });
        for (const name of ['Play', 'Last frame']) {
          await expect(page.getByRole('button', { name, exact: true })).toBeInViewport({ ratio: 1 });
        }
        const { width, height } = page.viewportSize()!;
        await expect
          .poll(async () => {
            const shown = await boxOf(picture(page));
            return Math.max(shown.width / width, shown.height / height);
          })
          .toBeGreaterThan(0.98);
        // While it plays, a tap takes the controls away and brings them back.
        await page.keyboard.press('Space');
        await expect(page.getByRole('button', { name: 'Pause', exact: true })).toBeVisible();
        await picture(page).click({ position: { x: 20, y: 20 } });
        await expect(exit).toBeHidden();
        await picture(page).click({ position: { x: 20, y: 20 } });
        await expect(exit).toBeVisible();
        await page.keyboard.press('Space');
        await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
        // As the browser does with Escape, which it keeps to itself while something fills the screen.
        await page.evaluate(() => document.exitFullscreen());
        await expect(exit).toBeHidden();
        await expect(page.getByRole('group', { name: 'Speed curve' })).toBeInViewport({ ratio: 0.99 });
        // By its key, there and back.
        await page.keyboard.press('Shift+f');
        await expect(exit).toBeVisible();
        await exit.click();
        await expect(exit).toBeHidden();
      },
    );

    test('a sheet is pulled up and pushed down, and keeps what was typed', { tag }, async ({ page, app }) => {
      test.skip(isWide(size), 'A wide screen shows sheets at its side, from top to bottom.');
      await openDemoClip(page, app, 'The drop');
      const sheet = await openSheet(page, 'Ramp', { fill: { Duration: '20f' } });
      const grip = page.getByRole('separator', { name: 'Resize sheet' });
      const height = async (): Promise<number> => (await boxOf(sheet)).height;
      const before = await height();
      await pull(page, grip, 0, -size.height);
      await expect.poll(height).toBeGreaterThan(before + 40);
      await expect(picture(page)).toBeInViewport({ ratio: 0.9 });
      await expect(page.getByRole('navigation', { name: 'Places' })).toBeInViewport({ ratio: 0.99 });
      await pull(page, grip, 0, size.height);
      await expect.poll(height).toBeLessThan(80);
      await expect(page.getByRole('group', { name: 'Speed curve' })).toBeInViewport({ ratio: 0.99 });
      await grip.press('Enter');
      await expect.poll(height).toBeCloseTo(before, 0);
      await expect(sheet.getByRole('textbox', { name: 'Duration' })).toHaveValue('20f');
    });

    test('the ledger has a line a key where there is room, two at most elsewhere', { tag }, async ({ page, app }) => {
      await openDemoClip(page, app, 'The drop');
      await applySheet(page, 'Stairs', { fill: { 'From speed': '100%', 'To speed': '20%', 'Step height': '10%' } });
      if (!isWide(size)) await page.getByRole('button', { name: 'Ledger' }).click();
      const rows = page.getByRole('row', { name: /^Key \d+ of/ });
      await expect(rows.first()).toBeVisible();
      const { height } = await boxOf(rows.first());
      expect(height).toBeLessThanOrEqual(isWide(size) ? 36 : 92);
      await expect(page.getByRole('columnheader', { name: 'Speed out' })).toBeInViewport({ ratio: 1 });
      if (!isWide(size)) return;
      const { y: top, height: all } = await boxOf(page.getByRole('table', { name: 'Ledger' }));
      const seen = await rows.evaluateAll(
        (elements, end) => elements.filter((element) => element.getBoundingClientRect().bottom <= end).length,
        top + all,
      );
      expect(seen).toBeGreaterThanOrEqual(8);
      // Nothing is cut off in a line.
      const cut = await rows.evaluateAll((elements) =>
        elements.flatMap((row) =>
          [...row.querySelectorAll<HTMLElement>('*')]
            .filter((part) => part.children.length === 0 && part.scrollWidth > part.clientWidth + 1)
            .map((part) => part.textContent),
        ),
      );
      expect(cut).toEqual([]);
    });
  });
}

test('every place fits every size of screen', async ({ page, app }) => {
  const { id } = await makeDemo(app);
  const base = `${app.address}/project/${id}`;
  const fits = async (): Promise<void> => {
    const beyond = await page.evaluate(() =>
      [...document.querySelectorAll('[role=button], [role=link], [role=separator]')]
        .filter((part) => !part.closest('[data-testid=lanes], [data-testid=threads], [aria-label="Speed curve"]'))
        .filter((part) => {
          const toolbar = part.closest('[role=toolbar]')?.firstElementChild;
          return !toolbar || toolbar.scrollWidth <= toolbar.clientWidth;
        })
        .map((part) => ({ name: part.getAttribute('aria-label'), box: part.getBoundingClientRect() }))
        .filter(({ box }) => box.width > 0 && (box.right > innerWidth + 1 || box.left < -1))
        .map(({ name }) => name),
    );
    expect(beyond).toEqual([]);
  };
  const curve = page.getByRole('group', { name: 'Speed curve' });
  const places: [address: string, isThere: (size: { height: number }) => Promise<void>][] = [
    [base, () => expect(page.getByRole('link', { name: 'Retime The drop' })).toBeVisible()],
    [`${base}/source/source-bowl`, () => expect(page.getByTestId('contact-sheet')).toBeVisible()],
    [`${base}/timeline`, () => expect(page.getByTestId('lanes')).toBeVisible()],
    [
      `${base}/output`,
      () => expect(page.getByRole('button', { name: 'Render', exact: true })).toBeInViewport({ ratio: 1 }),
    ],
    [
      `${base}/clip/clip-drop/pace`,
      async ({ height }) => {
        await expect(curve).toBeInViewport({ ratio: 0.99 });
        await expect.poll(async () => (await boxOf(curve)).height).toBeGreaterThan(height < 450 ? 110 : 150);
      },
    ],
  ];
  for (const [address, isThere] of places) {
    await page.goto(address);
    for (const size of [...sizes, { width: 1920, height: 1080 }, { width: 640, height: 400 }]) {
      await test.step(`${address.slice(base.length)} at ${size.width} × ${size.height}`, async () => {
        await page.setViewportSize(size);
        await isThere(size);
        // What was laid out anew stands once it fits.
        await expect(fits).toPass();
      });
    }
  }
});

test('Space plays whatever was clicked before', async ({ page, app }) => {
  await openDemoClip(page, app, 'The drop');
  await openSheet(page, 'Speed');
  const play = page.getByRole('button', { name: 'Play', exact: true });
  const pause = page.getByRole('button', { name: 'Pause', exact: true });
  const sheet = page.getByRole('dialog', { name: 'Speed' });
  const clicked: Locator[] = [
    page.getByRole('button', { name: 'Loop' }),
    page.getByRole('button', { name: 'Next frame' }),
    page.getByRole('button', { name: 'Snap' }),
    page.getByRole('slider', { name: 'Part 3 of 5' }),
    sheet.getByRole('radio', { name: 'Duration' }).first(),
    page.getByRole('separator', { name: 'Resize picture' }),
  ];
  for (const control of clicked) {
    await control.click();
    await page.keyboard.press('Space');
    await expect(pause).toBeVisible();
    await page.keyboard.press('Space');
    await expect(play).toBeVisible();
  }
  // Loop was pressed once, by the click. The divider's click made the picture a strip, which has no such button.
  await page.getByRole('separator', { name: 'Resize picture' }).click();
  await expect(page.getByRole('button', { name: 'Loop' })).toHaveAttribute('aria-pressed', 'true');
  await page.keyboard.press('Escape');
  await startAction(page, 'Pace', 'Shortcuts');
  await expect(page.getByRole('listitem').filter({ hasText: 'Full screen on/off' })).toBeVisible();
});
