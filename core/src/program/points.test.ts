import type { Carry, Effect, PictureTrack, ProjectDocument, Reframe, Smooth, Steady } from '@hastig/contract';
import {
  addTrack,
  constantSpan,
  effectList,
  exposureList,
  frameSize,
  leafFrames,
  mapOf,
  moveClips,
  moveMap,
  picturePlan,
  plainPicture,
  planeAfter,
  planeInverse,
  keptMoves,
  programOf,
  programUpdate,
  putTrack,
  SEQUENCE,
  removeClips,
  setPicture,
  smoothedParts,
  splitClip,
  updatedProgram,
  withTiming,
  type Program,
  type SeenPicture,
} from '..';
import { clipOf, group as groupClips, rowOf } from '../../test/projects';
import { withScaledSource } from '../project/scaled-source';

// Pictures of 64 by 36; a point that goes to the right by a pixel and down by half of one with each position.
const goes: PictureTrack = {
  ...{ id: 'p', name: 'Point 0', frame: 0, box: { x: 0, y: 0, width: 8, height: 8 } },
  at: Array.from({ length: 60 }, (_, n) => [8 + n / 2, 10 + n / 8, 1]).flat(),
};
const placeAt = (position: number): { x: number; y: number } => ({ x: 8 + position / 2, y: 10 + position / 8 });

const follows: Reframe = {
  ...{ id: 'r', kind: 'reframe', shape: 16 / 9, ease: [1 / 3, 1 / 3, 2 / 3, 2 / 3] },
  ...{ from: { x: 0.5, y: 0.5, size: 0.5 }, to: { x: 0.5, y: 0.5, size: 0.5 }, follow: { track: 'p', seconds: 0 } },
};
const tiny = { x: 0.5, y: 0.5, size: 0.1 };
const carry: Carry = { id: 'a', kind: 'carry', clip: 'c0', track: 'p' };

const sized = (project: ProjectDocument): ProjectDocument => ({
  ...project,
  sequence: { ...project.sequence, width: 64, height: 36 },
});
const tracked = (project: ProjectDocument): ProjectDocument => putTrack(sized(project), 's0', goes);
const put = (project: ProjectDocument, id: string, ...effects: Effect[]): ProjectDocument =>
  effectList.set(project, { clips: [id] }, () => effects);
const at = (project: ProjectDocument, n: number): SeenPicture => picturePlan(programOf(project, SEQUENCE)).at(n);
/** Two clips, `c1` on a track above `c0`. */
const stacked = (): ProjectDocument => moveClips(addTrack(tracked(rowOf(60, 60)), SEQUENCE, 'picture', 'upper'), ['c1'], 'upper', 0, 'leave'); // prettier-ignore

/** A clip at a speed from a position on. */
const paced = (project: ProjectDocument, start: number, speed: number): ProjectDocument =>
  withTiming(project, 'c0', { ...mapOf(project, clipOf(project, 'c0')), start, spans: [constantSpan(speed, 20)] });

/** Which place of the frame is in the middle of what a reframe shows. */
function middle([layer]: SeenPicture): { x: number; y: number } {
  const { x, y, scale } = layer!.settings!;
  return { x: (0.5 - x / scale) * 64, y: (0.5 - y / scale) * 36 };
}

describe('a box that follows a point', () => {
  it.each([
    ['as it plays', 0, 1],
    ['fast', 0, 2],
    ['backwards', 59, -2],
  ])('has it in its middle, %s', (_, start, speed) => {
    const project = put(paced(tracked(rowOf(60)), start, speed), 'c0', follows);
    for (const n of [10, 14, 19]) {
      const { x, y } = middle(at(project, n));
      const there = placeAt(start + speed * n);
      // It lies in the frame whole: half of it is 16 by 9 pixels.
      expect(x).toBeCloseTo(Math.max(16, Math.min(48, there.x)), 9);
      expect(y).toBeCloseTo(Math.max(9, Math.min(27, there.y)), 9);
    }
  });

  it('is evened out over its own time: what goes straight stays, what swings does not', () => {
    const swings = { ...goes, at: Array.from({ length: 60 }, (_, n) => [32 + 8 * (n % 2), 18, 1]).flat() };
    const project = put(putTrack(sized(rowOf(60)), 's0', swings), 'c0', { ...follows, follow: { track: 'p', seconds: 1 } }); // prettier-ignore
    for (const n of [25, 26, 27]) expect(Math.abs(middle(at(project, n)).x - 36)).toBeLessThan(0.8);
    const straight = put(tracked(rowOf(60)), 'c0', { ...follows, follow: { track: 'p', seconds: 0.5 } });
    expect(middle(at(straight, 40)).x).toBeCloseTo(placeAt(40).x, 1);
  });

  it('goes between frames where they are made, and lies on the picture as it is placed', () => {
    const slow = paced(tracked(rowOf(60)), 0, 0.5);
    const held = put(slow, 'c0', { ...follows, from: tiny, to: tiny });
    expect(middle(at(held, 19)).x).toBe(middle(at(held, 18)).x);
    const blended = exposureList.put(held, { clips: ['c0'] }, { id: 'e', slow: 'blended' });
    expect(middle(at(blended, 19)).x - middle(at(blended, 18)).x).toBeCloseTo(0.25, 9);
    const small = setPicture(put(tracked(rowOf(60)), 'c0', follows), ['c0'], { ...plainPicture, scale: 0.5, x: 0.1, y: 0 }); // prettier-ignore
    const [layer] = at(small, 40);
    const { x, scale } = layer!.settings!;
    expect((0.5 - x / scale) * 64).toBeCloseTo(32 + 0.1 * 64 + (placeAt(40).x - 32) / 2, 9);
  });

  it('stays where it was put where its track is gone', () => {
    const project = put(sized(rowOf(60)), 'c0', follows);
    expect(middle(at(project, 30))).toEqual({ x: 32, y: 18 });
  });
});

describe('a picture that is attached to a point', () => {
  it('lies on it, wherever that goes', () => {
    const project = put(stacked(), 'c1', carry);
    for (const n of [0, 20, 50]) {
      const [, above] = at(project, n);
      expect(above!.settings!.x).toBeCloseTo(placeAt(n).x / 64 - 0.5, 9);
      expect(above!.settings!.y).toBeCloseTo(placeAt(n).y / 36 - 0.5, 9);
    }
    // Only over its stretch, where it has one.
    const part = put(stacked(), 'c1', { ...carry, over: { by: 'output', from: 10, to: 20 } });
    expect(at(part, 5)).toHaveLength(1);
    expect(at(part, 15)[1]!.settings!.x).toBeCloseTo(placeAt(15).x / 64 - 0.5, 9);
  });

  it('is where the point is seen in a picture that is steadied', () => {
    const steady: Steady = { id: 's', kind: 'steady', tracks: ['p'], frame: 24, edges: 'mirror' };
    const project = put(put(stacked(), 'c1', carry), 'c0', steady);
    for (const n of [0, 20, 50]) {
      const above = at(project, n)[1]!.settings!;
      expect((above.x + 0.5) * 64).toBeCloseTo(placeAt(24).x, 9);
      expect((above.y + 0.5) * 36).toBeCloseTo(placeAt(24).y, 9);
    }
  });

  it('goes on over a split of what it is attached to, either part being left', () => {
    const parts = splitClip(put(stacked(), 'c1', carry), 'c0', 30, 'later');
    for (const project of [parts, removeClips(parts, ['c0'], 'leave')]) {
      const above = at(project, 40).at(-1)!.settings!;
      expect(above.x).toBeCloseTo(placeAt(40).x / 64 - 0.5, 9);
    }
  });

  it('stays where it is where the other clip is gone', () => {
    const project = removeClips(put(stacked(), 'c1', carry), ['c0'], 'leave');
    expect(at(project, 20)[0]!.settings).toBeUndefined();
  });

  it('is told to whoever plays it once, as long as the sources stay as they are', () => {
    const project = put(stacked(), 'c1', carry);
    const program = programOf(project, SEQUENCE);
    const first = updatedProgram(undefined, programUpdate(undefined, program));
    const places = Float64Array.from(goes.at.filter((_, n) => n % 3 !== 2));
    expect(first.points).toEqual({ p: { sourceId: 's0', places } });
    const moved = programOf(setPicture(project, ['c0'], { ...plainPicture, scale: 0.5 }), SEQUENCE);
    const update = programUpdate(program, moved);
    expect(update.points).toBeNull();
    expect(updatedProgram(first, update).points).toBe(first.points);
  });
});

describe('a camera that is smoothed', () => {
  const size = { width: 64, height: 36 };
  const smooth: Smooth = { id: 'c', kind: 'smooth', model: 'similarity', frame: 12, edges: 'mirror' };
  const maps = Array.from({ length: 40 }, (_, n) => moveMap({ x: 3 * Math.sin(n), y: 0, turn: 0, size: 1 }, size));
  const moves = maps.map((map, n) => ({
    map: n === 0 ? map : planeAfter(map, planeInverse(maps[n - 1]!)!),
    confidence: n === 0 ? 0 : 1,
  }));
  const analysed = (project: ProjectDocument, from = 10): ProjectDocument => ({
    ...sized(project),
    sources: project.sources.map((source) => ({ ...source, cameras: [{ from, moves: keptMoves(moves, size) }] })),
  });
  const pathOf = (program: Program) => Object.values(program.steadies ?? {})[0];
  const steadyAt = (project: ProjectDocument, n: number): string | undefined =>
    leafFrames(at(project, n)[0]!.of as never)[0]!.steady;

  it('is moved by its own path, over the stretch it is for, whatever the speed', () => {
    const all = put(analysed(rowOf(60)), 'c0', smooth);
    const path = pathOf(programOf(all, SEQUENCE))!;
    expect(path.from).toBe(10);
    // As on position 12: the camera has gone by so much since.
    expect(path.maps[8 * 15 + 4]).toBeCloseTo(3 * Math.sin(15) - 3 * Math.sin(2), 2);
    expect(steadyAt(all, 30)).toBe(path.key);
    const part = put(paced(analysed(rowOf(60)), 59, -2), 'c0', { ...smooth, over: { by: 'source', from: 20, to: 30 } });
    const steady = Array.from({ length: 20 }, (_, n) => n).filter((n) => steadyAt(part, n) !== undefined);
    // Frames 29, 27, 25, 23 and 21.
    expect(steady).toEqual([15, 16, 17, 18, 19]);
  });

  it('does nothing where it was not analysed, or where the source is counted otherwise since', () => {
    expect(programOf(put(sized(rowOf(60)), 'c0', smooth), SEQUENCE).steadies).toBeUndefined();
    const all = put(analysed(rowOf(60)), 'c0', smooth);
    const [source] = all.sources;
    expect(withScaledSource(all, source!, 1).sources[0]!.cameras).toBe(source!.cameras);
    expect(withScaledSource(all, source!, 2).sources[0]!.cameras).toBeUndefined();
  });

  it('of two that steady a clip the first one does', () => {
    const steady: Steady = { id: 's', kind: 'steady', tracks: ['p'], frame: 0, edges: 'mirror' };
    const both = putTrack(put(analysed(rowOf(60)), 'c0', smooth, steady), 's0', goes);
    expect(pathOf(programOf(both, SEQUENCE))!.from).toBe(10);
    const other = put(both, 'c0', { ...smooth, off: true }, steady);
    expect(pathOf(programOf(other, SEQUENCE))!.from).toBe(0);
  });

  describe('by the film, over a stretch of it', () => {
    const film = (project: ProjectDocument, ...effects: Smooth[]): ProjectDocument =>
      effectList.set(project, 'film', () => effects);
    const over = { by: 'output', from: 40, to: 80 } as const;
    const over40to80 = { ...smooth, over };
    const steadied = (project: ProjectDocument): number[] =>
      Array.from({ length: 120 }, (_, n) => n).filter((n) => steadyAt(project, n) !== undefined);
    const range = (from: number, to: number): number[] => Array.from({ length: to - from }, (_, n) => from + n);
    const shot = (id: string): ProjectDocument['clips'][number]['effects'] => [{ ...smooth, id, edges: 'scale' }];

    it('is smoothed in all its clips, each by its own source and from the first frame that is shown there', () => {
      const project = film(analysed(rowOf(60, 60)), over40to80);
      expect(steadied(project)).toEqual(range(40, 80));
      const program = programOf(project, SEQUENCE);
      const [first, second] = program.tracks[0]!.items.map(({ smoothed }) => program.steadies![smoothed!.c!]!);
      // As in frame 40 of the one and frame 10, the first that is known, of the other: nothing is moved there.
      expect(first!.maps[8 * (40 - first!.from) + 4]).toBeCloseTo(0, 2);
      expect(second!.maps[4]).toBeCloseTo(0, 2);
      expect(first!.key).not.toBe(second!.key);
    });

    it('holds for film frames inside a group that plays at another speed', () => {
      const grouped = groupClips(analysed(rowOf(60, 60)), ['c1']);
      const clip = grouped.clips.find(({ of }) => of.kind === 'group')!;
      const slow = withTiming(grouped, clip.id, { ...mapOf(grouped, clip), spans: [constantSpan(0.5, 60)] });
      expect(steadied(film(slow, over40to80))).toEqual(range(40, 80));
    });

    it('leaves clips that are steadied by themselves, that were not analysed, and those past the stretch', () => {
      const own = put(film(analysed(rowOf(60, 60)), { ...smooth, id: 'f' }), 'c1', ...shot('own')!);
      const program = programOf(own, SEQUENCE);
      const [, second] = program.tracks[0]!.items;
      expect(steadyAt(own, 70)).toBe(second!.steady);
      expect(steadyAt(own, 10)).toBe(program.tracks[0]!.items[0]!.smoothed!.f);
      expect(steadied(film(sized(rowOf(60, 60)), over40to80))).toEqual([]);
      const late = film(analysed(rowOf(60, 60)), { ...smooth, over: { by: 'output', from: 60, to: 80 } });
      expect(programOf(late, SEQUENCE).tracks[0]!.items[0]!.smoothed).toBeUndefined();
      expect(smoothedParts(late, programOf(late, SEQUENCE), { ...smooth, over })).toMatchObject([
        { clipId: 'c0', sourceId: 's0', from: 40, to: 60, told: false },
        { clipId: 'c1', sourceId: 's1', from: 0, to: 21, told: false },
      ]);
    });

    it('goes with the film, and is told to a worker when it changes', () => {
      const project = film(analysed(rowOf(60, 60)), over40to80);
      const before = programOf(project, SEQUENCE);
      // What is not changed by an edit of another clip stays the same object.
      const trimmed = programOf(removeClips(project, ['c1'], 'leave'), SEQUENCE);
      expect(trimmed.tracks[0]!.items[0]).toBe(before.tracks[0]!.items[0]);
      const after = programOf(film(project, { ...over40to80, edges: 'scale' }), SEQUENCE);
      const has = updatedProgram(undefined, programUpdate(undefined, before));
      expect(has).toEqual(before);
      expect(updatedProgram(has, programUpdate(before, after))).toEqual(after);
      expect(programOf(film(project), SEQUENCE).steadies).toBeUndefined();
    });
  });

  it('is steadied over another stretch, and a worker hears of it', () => {
    const of = (to: number): Program =>
      programOf(put(analysed(rowOf(60)), 'c0', { ...smooth, over: { by: 'output', from: 20, to } }), SEQUENCE);
    const [before, after] = [of(40), of(41)];
    expect(updatedProgram(before, programUpdate(before, after))).toEqual(after);
  });

  it('of the frame that clips are shown in nothing is asked', () => {
    expect(frameSize(analysed(rowOf(60)))).toEqual(size);
  });
});
