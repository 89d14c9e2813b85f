import type { ProjectDocument, StoredProject } from '@hastig/contract';
import { appendClip, groupClips, SEQUENCE, setMarkers, wholeClip } from '@hastig/core';
import { launchBrowser } from '@hastig/headless';
import { startThrowaway } from '../scripts/throwaway';
import type { Page } from 'playwright-core';
import { pageMemory } from './browser-memory';
import { withBusyCore } from './busy-core';
import { watchDrag, watchTasks } from './drag';
import { emptied } from './emptied';
import { line } from './line';
import { megabytes, playThrough, timelineStands, told } from './play-through';

const CLIPS = 40;
const GROUPS = 12;
const MARKERS = 200;
/** Frames of one clip: less than a second, so that there are many cuts. */
const LENGTH = 18;

/** A film of short clips of the demo's sources in turn, some of them in groups, with many markers. */
function film(demo: ProjectDocument): ProjectDocument {
  let project = emptied(demo);
  const sources = project.sources.slice(0, 3);
  for (let n = 0; n < CLIPS; n++) {
    const clip = wholeClip(project, `c${n}`, sources[n % sources.length]!);
    const shown = { from: (n * 7) % 60, frames: LENGTH };
    project = appendClip(project, SEQUENCE, { ...clip, name: `Shot ${n}`, shown });
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

/** The sizes of a phone and of a desk. */
const sizes = { phone: { width: 390, height: 844 }, desk: { width: 1280, height: 800 } };

/** Plays what lies on the timeline, and drags a clip of it. */
async function playAndDrag(page: Page, name: string): Promise<void> {
  await timelineStands(page);
  const tasks = await watchTasks(page);
  const played = await playThrough(page);
  const after = `longest task ${(await tasks()).toFixed(0)} ms, ${megabytes(pageMemory())} after it`;
  line(`${name}: played through its cuts`, `${told(played)}, ${after}`);
  while ((await page.locator('[data-crowd]').count()) > 0) await page.locator('[data-crowd]').first().click();
  const shots = page.getByRole('group', { name: 'Tracks' }).getByRole('button', { name: /: Shot \d+, from/ });
  const box = (await shots.last().boundingBox())!;
  const { frames, longestTask } = await watchDrag(page, box.x + box.width / 2, box.y + box.height / 2, 60);
  line(
    `${name}: a clip dragged (${GROUPS} groups, ${MARKERS} markers)`,
    `${frames.toFixed(0)} animation fps, longest task ${longestTask.toFixed(0)} ms`,
  );
}

/** A film of short shots in the real interface, at both sizes, with both cores to itself and with one. */
export async function benchFilm(rounds: number): Promise<void> {
  const app = await startThrowaway('bench');
  try {
    const demo = (await (await fetch(`${app.address}/api/demo`, { method: 'POST' })).json()) as StoredProject;
    for (const [size, viewport] of Object.entries(sizes)) {
      for (let round = 0; round < rounds; round++) {
        const response = await fetch(`${app.address}/api/projects`, {
          method: 'POST',
          headers: { 'Content-Type': 'application/json' },
          body: JSON.stringify({ document: film(demo.document) }),
        });
        const made = (await response.json()) as StoredProject;
        for (const [cores, under] of [
          ['both cores', (work: () => Promise<void>) => work()],
          ['one core busy', withBusyCore],
        ] as const) {
          const browser = await launchBrowser();
          try {
            const page = await browser.newPage({ viewport });
            await page.goto(`${app.address}/project/${made.id}/timeline`);
            await under(() => playAndDrag(page, `a film of ${CLIPS} shots, ${size}, ${cores}`));
          } finally {
            await browser.close();
          }
        }
      }
    }
  } finally {
    await app.stop();
  }
}
