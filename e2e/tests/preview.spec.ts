import { constantSpan, rampSpan } from '@hastig/core';
import type { PatchOperation, StoredProject } from '@hastig/contract';
import { expect, openDemoClip, readout, test } from '../support/app';

interface Played {
  shown: number;
}

test('a clip plays through at speeds from −2 to 4, freeze included', async ({ page, app }) => {
  const made = (await (await fetch(`${app.address}/api/demo`, { method: 'POST' })).json()) as StoredProject;
  const clip = made.document.clips.findIndex(({ id }) => id === 'clip-bowl');
  const spans = [
    constantSpan(1, 20),
    rampSpan(1, 4, 15),
    constantSpan(4, 16),
    rampSpan(4, -2, 20),
    constantSpan(-2, 30),
    rampSpan(-2, 0.5, 20),
    constantSpan(0, 10),
    constantSpan(0.5, 30),
  ];
  const patch: PatchOperation[] = [
    { op: 'replace', path: '/sequence/rate', value: { num: 30, den: 1 } },
    { op: 'replace', path: `/clips/${clip}/timing`, value: { start: 0, spans } },
  ];
  const headers = { 'Content-Type': 'application/json' };
  await fetch(`${app.address}/api/projects/${made.id}`, {
    method: 'PATCH',
    headers,
    body: JSON.stringify({ revision: 1, patch }),
  });
  await page.goto(`${app.address}/project/${made.id}/clip/clip-bowl/pace`);
  await expect(page.getByRole('slider').first()).toBeVisible();
  await page.getByRole('button', { name: 'Play' }).click();
  await expect(page.getByRole('button', { name: 'Pause' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Play' })).toBeVisible({ timeout: 60_000 });
  const played = await page.evaluate(
    () => (performance.getEntriesByName('hastig:played').at(-1) as PerformanceMark).detail as Played,
  );
  // How many of its 161 frames were punctual is the bench's matter: it depends on the machine.
  expect(played.shown).toBeGreaterThan(0);
  await expect(page.getByRole('alert')).toBeHidden();
  await expect(readout(page, 'Output')).toContainText('00:00:05:10');
});

test('an edit during playback takes effect while it goes on', async ({ page, app }) => {
  await openDemoClip(page, app, 'The steps');
  await page.getByRole('button', { name: 'Loop' }).click();
  await page.getByRole('button', { name: 'Play' }).click();
  await expect(readout(page, 'Output')).not.toContainText('00:00:00:00');
  const level = page.getByRole('slider', { name: /^Part 1 of/ });
  const before = await level.getAttribute('aria-valuetext');
  await level.focus();
  await page.keyboard.press('ArrowDown');
  await expect(level).not.toHaveAttribute('aria-valuetext', before!);
  await expect(page.getByRole('button', { name: 'Pause' })).toBeVisible();
  const now = await readout(page, 'Output').textContent();
  await expect(readout(page, 'Output')).not.toHaveText(now!);
  await page.getByRole('button', { name: 'Pause' }).click();
  await expect(page.getByRole('button', { name: 'Play' })).toBeVisible();
});
