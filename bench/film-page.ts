import type { ProjectDocument, StoredProject } from '@hastig/contract';
import { appendClip, FIRST_TRACK, groupClips, SEQUENCE, setMarkers, wholeClip } from '@hastig/core';
import { launchBrowser } from '@hastig/headless';
import { startThrowaway } from '../scripts/throwaway';
import { watchDrag } from './drag';
import { line } from './line';

const CLIPS = 40;
const GROUPS = 12;
const MARKERS = 200;
/** Frames of one clip: less than a second, so that there are many cuts. */
const LENGTH = 18;

/** A film of short clips of the demo's sources in turn, some of them in groups, with many markers. */
function film(demo: ProjectDocument): ProjectDocument {
  let project: ProjectDocument = {
    ...demo,
    clips: [],
    groups: [],
    sequence: { ...demo.sequence, tracks: demo.sequence.tracks.map((track) => ({ ...track, items: [] })) },
  };
  const sources = project.sources.slice(0, 3);
  for (let n = 0; n < CLIPS; n++) {
    const clip = wholeClip(project, `c${n}`, sources[n % sources.length]!);
    const shown = { from: (n * 7) % 60, frames: LENGTH };
    project = appendClip(project, SEQUENCE, FIRST_TRACK, { ...clip, name: `Shot ${n}`, shown });
  }
  for (let n = 0; n < GROUPS; n++) {
    const ids = { groupId: `g${n}`, clipId: `cg${n}`, name: `Group ${n}` };
    project = groupClips(project, [`c${n * 3}`, `c${n * 3 + 1}`], ids);
  }
  const markers = Array.from({ length: MARKERS }, (_, n) => ({
    ...{ id: `m${n}`, at: Math.floor((n * CLIPS * LENGTH) / MARKERS), name: '', tone: 'oak' as const },
  }));
  return setMarkers(project, SEQUENCE, markers);
}

/** A whole film in the real interface: dragged on the timeline, and played through its cuts. */
export async function benchFilm(rounds: number): Promise<void> {
  const app = await startThrowaway('bench');
  const browser = await launchBrowser();
  try {
    const demo = (await (await fetch(`${app.address}/api/demo`, { method: 'POST' })).json()) as StoredProject;
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    for (let round = 0; round < rounds; round++) {
      const response = await fetch(`${app.address}/api/projects`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ document: film(demo.document) }),
      });
      const made = (await response.json()) as StoredProject;
      await page.goto(`${app.address}/project/${made.id}/timeline`);
      const shot = page.getByRole('group', { name: 'Tracks' }).getByRole('button', { name: /: Shot 38, from/ });
      await shot.waitFor();
      await page.locator('[aria-busy=true]').waitFor({ state: 'hidden' });
      await page.getByRole('button', { name: 'Play' }).click();
      await page.getByRole('button', { name: 'Pause' }).waitFor();
      await page.getByRole('button', { name: 'Play' }).waitFor({ timeout: 120_000 });
      const { shown, skipped, worstDelay } = await page.evaluate(() => {
        const mark = performance.getEntriesByName('hastig:played').at(-1) as PerformanceMark;
        return mark.detail as { shown: number; skipped: number; worstDelay: number };
      });
      line(
        `a film of ${CLIPS} shots played through its cuts`,
        `${shown} shown, ${skipped} skipped, worst delay ${worstDelay.toFixed(0)} ms`,
      );
      const box = (await shot.boundingBox())!;
      const { frames, longestTask } = await watchDrag(page, box.x + box.width / 2, box.y + box.height / 2, 60);
      line(
        `a clip of it, dragged (${GROUPS} groups, ${MARKERS} markers)`,
        `${frames.toFixed(0)} animation frames a second, longest task ${longestTask.toFixed(0)} ms`,
      );
    }
  } finally {
    await browser.close();
    await app.stop();
  }
}
