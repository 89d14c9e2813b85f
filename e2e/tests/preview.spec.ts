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

declare global {
  interface Window {
    /** What was given to be heard: seconds of it, and how loud it was in all. */
    heard: { seconds: number; energy: number };
  }
}

test('shuttling is heard at its speed, forwards and backwards', async ({ page, app }) => {
  await page.addInitScript(() => {
    window.heard = { seconds: 0, energy: 0 };

    const copy = AudioBuffer.prototype.copyToChannel;
    AudioBuffer.prototype.copyToChannel = function (samples, channel, start) {
      if (channel === 0) {
        window.heard.seconds += samples.length / this.sampleRate;
        window.heard.energy += samples.reduce((sum, value) => sum + value * value, 0);
      }
      copy.call(this, samples, channel, start);
    };
  });
  await openDemoClip(page, app, 'The drop');
  const play = page.getByRole('button', { name: 'Play', exact: true });
  const shuttled = async (key: string): Promise<Window['heard']> => {
    await page.keyboard.press(key);
    await page.keyboard.press(key);
    await page.evaluate(() => (window.heard = { seconds: 0, energy: 0 }));
    await expect(play).toBeVisible({ timeout: 60_000 });
    return page.evaluate(() => window.heard);
  };
  const forwards = await shuttled('l');
  await expect(readout(page, 'Output')).toContainText('00:00:07:20');
  const backwards = await shuttled('j');
  await expect(readout(page, 'Output')).toContainText('00:00:00:00');
  for (const { seconds, energy } of [forwards, backwards]) {
    // 189 frames at 24 a second, twice as fast; what was made ready before the key was let go is not counted.
    expect(seconds).toBeGreaterThan(189 / 24 / 2 - 1.5);
    expect(seconds).toBeLessThan(189 / 24 / 2 + 0.5);
    expect(energy).toBeGreaterThan(0.1);
  }
});
