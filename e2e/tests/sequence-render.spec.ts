import type { ProjectDocument, RetimeMap } from '@hastig/contract';
import {
  compile,
  constantSpan,
  duplicateClips,
  findClip,
  freeze,
  groupClips,
  mapOf,
  moveClips,
  picturePlan,
  programOf,
  rampSpan,
  removeClips,
  reverseRange,
  SEQUENCE,
  setSound,
  speedClip,
  timesAt,
  topFrame,
  trimClip,
  withTiming,
} from '@hastig/core';
import { scenes } from '@hastig/demo';
import { expect, makeDemo, test } from '../support/app';
import { fixture, readPlates, soundPeak } from '../support/files';
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

/** The demo's falling marbles: ramped, frozen and turned round, in a group that is ramped and turned round, in a group at 80%. */
function retimedDrop(document: ProjectDocument): { project: ProjectDocument; maps: RetimeMap[] } {
  const drop = named(document, 'The drop');
  let project = removeClips(
    document,
    document.clips.filter(({ id }) => id !== drop).map(({ id }) => id),
    'close',
  );
  const kept = (id: string, retime: (map: RetimeMap) => RetimeMap): void => {
    project = withTiming(project, id, retime(mapOf(project, findClip(project, id)!)));
    project = setSound(project, [id], (sound) => ({ ...sound, pitch: 'kept' }));
  };
  kept(drop, (map) => {
    const spans = [constantSpan(1, 30), rampSpan(1, 0.5, 12), constantSpan(0.5, 40), constantSpan(1, 50)];
    return reverseRange(freeze({ ...map, spans }, 60, 8, 'content'), { from: 90, to: 120 });
  });
  project = groupClips(project, [drop], { groupId: 'g', clipId: 'inner', name: 'inner' });
  kept('inner', (map) => {
    const spans = [constantSpan(1, 20), rampSpan(1, 1.5, 10), constantSpan(1.5, 30), constantSpan(0.75, 60)];
    return reverseRange({ ...map, spans }, { from: 20, to: 50 });
  });
  project = groupClips(project, ['inner'], { groupId: 'h', clipId: 'outer', name: 'outer' });
  project = speedClip(project, 'outer', 0.8);
  return { project, maps: [drop, 'inner', 'outer'].map((id) => mapOf(project, findClip(project, id)!)) };
}

test(
  'bounces are heard where they are seen, through ramps, a reverse and a freeze in nested groups',
  { tag: '@long' },
  async ({ page, app }) => {
    const { project, maps } = retimedDrop((await makeDemo(app)).document);
    const file = await renderDocument(page, app, project);
    const { marbles, fps } = scenes.find(({ name }) => name === 'drop')!;
    const impacts = marbles.flatMap((marble) => marble.impacts).filter(({ speed }) => speed > 1.5);
    const { plates } = await readPlates(file, false);
    const [drop, inner, outer] = maps as [RetimeMap, RetimeMap, RetimeMap];
    let compared = 0;
    for (const { time } of impacts) {
      const moments = [inner, outer].reduce(
        (found, map) => found.flatMap(({ from }) => timesAt(map, from)),
        timesAt(drop, time * fps),
      );
      for (const { from } of moments.filter((one) => one.to - one.from < 1e-6)) {
        if (from < 2 || from > Math.min(plates.length, compile(outer).length) - 2) continue;
        compared++;
        const expected = from / 24;
        const { time: heard, level } = await soundPeak(file, expected - 0.06, expected + 0.06);
        expect(level).toBeGreaterThan(0.05);
        // Its first, loudest swing comes within a quarter period of its pitch; backwards its last.
        expect(Math.abs(heard - expected)).toBeLessThan(0.003);
        // The picture there is the one in which the marble touches the wood.
        expect(Math.abs(plates[Math.floor(from)]! - time * fps)).toBeLessThanOrEqual(1.5);
      }
    }
    expect(compared).toBe(4);
  },
);
