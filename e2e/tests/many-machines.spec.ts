import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Effect, ExposureStep, ProjectDocument, ServerJob, StoredProject } from '@hastig/contract';
import { duplicateClips, groupClips, mapOf, programOf, reverseRange, SEQUENCE, withTiming } from '@hastig/core';
import { startWorker } from '../../scripts/worker-process';
import { expect, makeDemo, test, type TestApp } from '../support/app';
import { scratch } from '../support/files';
import { hasFramework } from '../support/framework';
import { expectSame, inOnePiece } from '../support/one-piece';
import { storeDocument } from '../support/timeline';

const form = { format: 'mp4', width: 160, height: 90 } as const;

/** Each way of making pictures: an instant, blended, along what moves, a shutter that is open, and some of what passes. */
const ways: readonly ExposureStep[] = [
  { id: 'held', slow: 'held', shutter: 0 },
  { id: 'blended', slow: 'blended', shutter: 0 },
  { id: 'compensated', slow: 'compensated', shutter: 0 },
  { id: 'open', slow: 'blended', shutter: 360, samples: 8 },
  { id: 'taken', slow: 'held', every: { frames: 3 } },
];
const trail: Effect = {
  id: 'trail',
  kind: 'trail',
  apart: 3,
  by: 'frames',
  copies: 3,
  decay: 0.6,
  combine: 'lightest',
};
const flash: Effect = { id: 'flash', kind: 'flash', way: 'light', strength: 2, colour: '#ffcc88', curve: 'smooth', over: { by: 'output', from: 10, to: 30 }, peak: 6 }; // prettier-ignore

/** Two minutes: the demo's film, with its ramps, freezes and reverses, once for each way; of the third a group that plays backwards. */
function longFilm(demo: ProjectDocument): ProjectDocument {
  const first = demo.clips.map(({ id }) => id);
  let project = demo;
  const named = (turn: number): string[] => first.map((id) => (turn === 0 ? id : `${id}-${turn}`));
  for (let turn = 1; turn < ways.length; turn++) project = duplicateClips(project, named(turn - 1), named(turn));
  const made = new Map(ways.flatMap((way, turn) => named(turn).map((id, n) => [id, { way, n }] as const)));
  project = {
    ...project,
    clips: project.clips.map((clip) => {
      const { way, n } = made.get(clip.id)!;
      return { ...clip, exposures: [way], ...(n < 2 && { effects: [n === 0 ? trail : flash] }) };
    }),
  };
  project = groupClips(project, named(2).slice(0, 2), { groupId: 'group', clipId: 'grouped', name: 'Group' });
  const grouped = project.clips.find(({ id }) => id === 'grouped')!;
  const map = mapOf(project, grouped);
  return withTiming(project, 'grouped', reverseRange(map, { from: 0, to: grouped.shown.frames }));
}

/** Has the server make a film. @returns the file, and the seconds that it took */
async function byMachines(app: TestApp, id: string, frames: number, machines: number) {
  const start = (n: number) => startWorker({ address: app.address, dataFolder: app.dataFolder, name: `Machine ${n}` });
  const workers = await Promise.all(Array.from({ length: machines }, (_, n) => start(n)));
  try {
    const { revision } = (await (await fetch(`${app.address}/api/projects/${id}`)).json()) as StoredProject;
    const render = { projectId: id, revision, file: 'Film.mp4', form, span: { from: 0, to: frames } };
    const headers = { 'Content-Type': 'application/json' };
    const answer = await fetch(`${app.address}/api/jobs`, {
      method: 'POST',
      headers,
      body: JSON.stringify({ render }),
    });
    const job = (await answer.json()) as ServerJob;
    const state = async (): Promise<ServerJob> =>
      (await (await fetch(`${app.address}/api/jobs/${job.id}`)).json()) as ServerJob;
    await expect.poll(async () => (await state()).state, { timeout: 900_000, intervals: [1000] }).toBe('done');
    const { startedAt, endedAt } = await state();
    const file = join(await scratch(), 'film.mp4');
    const made = await fetch(`${app.address}/api/jobs/${job.id}/file`);
    await writeFile(file, Buffer.from(await made.arrayBuffer()));
    return { file, seconds: (Date.parse(endedAt!) - Date.parse(startedAt!)) / 1000 };
  } finally {
    for (const worker of workers) await worker.stop();
  }
}

// A film in parts by two machines beside one in one piece is compared each time (`jobs.spec.ts`).
test(
  'two minutes with all there is are the same by one, two and three machines and in one piece',
  { tag: '@long' },
  async ({ app }) => {
    test.skip(!hasFramework, 'needs GStreamer');
    test.setTimeout(3_600_000);
    const { document } = await makeDemo(app);
    const film = longFilm(document);
    const { length, rate } = programOf(film, SEQUENCE);
    expect(length * rate.den).toBeGreaterThan(120 * rate.num);
    const id = await storeDocument(app, film);
    const whole = await inOnePiece(app, id, form);
    for (const machines of [1, 2, 3]) {
      const { file, seconds } = await byMachines(app, id, length, machines);
      console.log(`${machines} on ${length} frames: ${seconds.toFixed(0)} s`);
      await expectSame(whole, file, { ...form, frames: length });
    }
  },
);
