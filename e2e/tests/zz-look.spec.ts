import { test, expect, makeDemo } from '../support/app';
import { devices } from '../support/devices';
const shots = '/tmp/shots';
async function beats(page: any, app: any) {
  const made = await fetch(`${app.address}/api/demo/beats`, { method: 'POST' });
  const project = await made.json();
  await page.goto(`${app.address}/project/${project.id}/beats`);
  await expect(page.getByRole('toolbar', { name: 'Beats actions' })).toBeVisible();
  await expect(page.getByText(/64 markers/)).toBeVisible({ timeout: 60000 });
  return project;
}
test('phone', async ({ page, app }) => {
  page.on('console', (m) => console.log('console', m.type(), m.text().slice(0, 300)));
  page.on('pageerror', (e) => console.log('ERR', e.message));
  const project = await beats(page, app);
  await page.waitForTimeout(2500);
  await page.screenshot({ path: `${shots}/p1.png` });
  const bar = page.getByRole('toolbar', { name: 'Beats actions' });
  await bar.getByRole('button', { name: 'Find beats' }).click();
  await page.waitForTimeout(4000);
  await page.screenshot({ path: `${shots}/p2.png` });
  await page.getByRole('button', { name: 'Discard' }).click();
  await bar.getByRole('button', { name: 'Tap', exact: true }).click();
  await page.waitForTimeout(500);
  await page.screenshot({ path: `${shots}/p3.png` });
  await page.getByRole('button', { name: 'Done' }).click();
  await bar.getByRole('button', { name: 'More' }).click();
  await page.waitForTimeout(300);
  await page.screenshot({ path: `${shots}/p4.png` });
  await page.goto(`${app.address}/project/${project.id}/clip/clip-steps/pace`);
  await page.waitForTimeout(2500);
  await page.screenshot({ path: `${shots}/p5.png` });
  await page.getByRole('toolbar', { name: 'Pace actions' }).getByRole('button', { name: 'More' }).click();
  await page.getByRole('dialog', { name: 'More' }).getByRole('button', { name: 'Land on markers' }).click();
  await page.waitForTimeout(1500);
  await page.screenshot({ path: `${shots}/p6.png` });
  await page.goto(`${app.address}/project/${project.id}/timeline`);
  await page.waitForTimeout(2500);
  await page.screenshot({ path: `${shots}/p7.png` });
});
test.describe('wide', () => {
  test.use({ ...devices.desk });
  test('wide', async ({ page, app }) => {
    await beats(page, app);
    await page.waitForTimeout(2500);
    await page.getByRole('toolbar', { name: 'Beats actions' }).getByRole('button', { name: 'Find hits' }).click();
    await page.waitForTimeout(3000);
    await page.screenshot({ path: `${shots}/w1.png` });
  });
});
