import type { ProjectDocument } from '@hastig/contract';
import {
  constantSpan,
  duplicateClips,
  groupClips,
  mapOf,
  moveClips,
  picturePlan,
  programOf,
  reverseRange,
  SEQUENCE,
  speedClip,
  topFrame,
  trimClip,
  withTiming,
} from '@hastig/core';
import { expect, test } from '../support/app';
import { fixture, readPlates } from '../support/files';
import { projectOf, renderDocument } from '../support/timeline';

const named = (project: ProjectDocument, name: string): string => project.clips.find((clip) => clip.name === name)!.id;

/** Trims a clip to some of its frames, counted on the timeline. */
function part(project: ProjectDocument, name: string, from: number, to: number): ProjectDocument {
  const id = named(project, name);
  const { frames } = project.clips.find((clip) => clip.id === id)!.shown;
  return trimClip(trimClip(project, id, 'end', to - frames, 'close'), id, 'start', from, 'close');
}

/**
 * Cuts, a gap, retimes, a group that runs backwards, and that group in another one at double speed, backwards again. Each
 * source shows frames of its own range, so that the number on a picture tells the clip too.
 */
function film(document: ProjectDocument): ProjectDocument {
  let project = part(document, 'plates-b-frames', 0, 30);
  project = part(project, 'plates-24', 40, 70);
  project = part(project, 'plates-group-250', 100, 140);
  const [a, b, c] = ['plates-b-frames', 'plates-24', 'plates-group-250'].map((name) => named(project, name));
  project = speedClip(project, b!, 0.5);
  project = groupClips(project, [a!, b!], { groupId: 'g', clipId: 'once', name: 'once' });
  const back = (one: ProjectDocument, id: string): ProjectDocument => {
    const map = mapOf(
      one,
      one.clips.find((clip) => clip.id === id)!,
    );
    return withTiming(one, id, reverseRange(map, { from: 0, to: 90 }));
  };
  project = duplicateClips(project, ['once'], ['back']);
  project = back(project, 'back');
  project = groupClips(project, ['back'], { groupId: 'h', clipId: 'outer', name: 'outer' });
  const outer = mapOf(
    project,
    project.clips.find(({ id }) => id === 'outer')!,
  );
  project = withTiming(project, 'outer', reverseRange({ ...outer, spans: [constantSpan(2, 45)] }, { from: 0, to: 45 }));
  return moveClips(project, [c!], 'picture-1', 150, 'leave');
}

test('every frame of a rendered sequence is the right frame of the right clip', async ({ page, app }) => {
  const files = ['plates-b-frames.mp4', 'plates-24.mp4', 'plates-group-250.mp4'];
  const document = film(await projectOf(page, app, files.map(fixture)));
  const file = await renderDocument(page, app, document);
  const { plates } = await readPlates(file);

  // The same by hand: forwards, 24 on 24, then half speed; each second frame of it, backwards twice, so forwards.
  const forwards = [
    ...Array.from({ length: 30 }, (_, n) => n),
    ...Array.from({ length: 60 }, (_, n) => 40 + Math.floor(n / 2)),
  ];
  expect(plates.slice(0, 90)).toEqual(forwards);
  const plan = picturePlan(programOf(document, SEQUENCE));
  expect(plates.length).toBe(plan.count);
  const expected = Array.from({ length: plan.count }, (_, n) => topFrame(plan.at(n))?.frame ?? -1);
  expect(plates).toEqual(expected);
  expect(plates.slice(90, 135)).toEqual(Array.from({ length: 45 }, (_, n) => forwards[2 * n]));
  expect(expected.slice(135, 150)).toEqual(Array<number>(15).fill(-1));
  // 25 a second on 24: frame 100 and on, 25/24 of a frame further each time.
  expect(plates.slice(150, 153)).toEqual([104, 105, 106]);
});
