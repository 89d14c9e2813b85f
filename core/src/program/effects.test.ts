import type { Effect, Flash, ProjectDocument, Reframe, Trail } from '@hastig/contract';
import {
  constantSpan,
  effectList,
  exposureList,
  instantPlan,
  isExposed,
  isSeenMix,
  isSeenSum,
  mapOf,
  mainFrame,
  picturePlan,
  plainPicture,
  programOf,
  SEQUENCE,
  setPicture,
  singleLeaf,
  withTiming,
  type SeenMix,
  type SeenPicture,
  type SeenSum,
} from '..';
import { clipOf, group, rowOf } from '../../test/projects';

const trail: Trail = {
  ...{ id: 't', kind: 'trail', apart: 1, by: 'frames', copies: 3, decay: 0.8, combine: 'lightest' },
};
const flash: Flash = {
  ...{ id: 'f', kind: 'flash', way: 'light', strength: 2, colour: '#ffffff', curve: 'linear', peak: 3 },
  over: { by: 'output', from: 7, to: 15 },
};
const reframe: Reframe = {
  ...{ id: 'r', kind: 'reframe', shape: 16 / 9, ease: [1 / 3, 1 / 3, 2 / 3, 2 / 3] },
  from: { x: 0.5, y: 0.5, size: 1 },
  to: { x: 0.25, y: 0.25, size: 0.5 },
  over: { by: 'output', from: 10, to: 20 },
};

const put = (project: ProjectDocument, ...effects: Effect[]): ProjectDocument =>
  effectList.set(project, { clips: ['c0'] }, () => effects);
const film = (project: ProjectDocument, ...effects: Effect[]): ProjectDocument =>
  effectList.set(project, 'film', () => effects);
const at = (project: ProjectDocument, n: number): SeenPicture => picturePlan(programOf(project, SEQUENCE)).at(n);
const sumOf = (picture: SeenPicture): SeenSum => picture[0]!.of as SeenSum;

/** What a sum is of: frames with what each counts. */
const counted = (picture: SeenPicture): [frame: number, weight: number][] =>
  sumOf(picture).sum.map(({ leaf, weight }) => [mainFrame(leaf).frame, Math.round(weight * 1000) / 1000]);

/** A clip at some speeds, ten output frames each. */
const paced = (project: ProjectDocument, start: number, ...speeds: number[]): ProjectDocument =>
  withTiming(project, 'c0', {
    ...mapOf(project, clipOf(project, 'c0')),
    ...{ start, spans: speeds.map((speed) => constantSpan(speed, 10)) },
  });

describe('a trail', () => {
  it('is of the frames that stood there before, at any speed, backwards too', () => {
    expect(counted(at(put(rowOf(60), trail), 20))).toEqual([
      [20, 1],
      [19, 0.8],
      [18, 0.64],
      [17, 0.512],
    ]);
    const fast = put(paced(rowOf(600), 0, 6), trail);
    expect(counted(at(fast, 5)).map(([frame]) => frame)).toEqual([30, 24, 18, 12]);
    const back = put(paced(rowOf(600), 599, -2), trail);
    expect(counted(at(back, 5)).map(([frame]) => frame)).toEqual([589, 591, 593, 595]);
    // Later ones.
    expect(counted(at(put(rowOf(60), { ...trail, apart: -2 }), 20)).map(([frame]) => frame)).toEqual([20, 22, 24, 26]);
    // Seconds of the film; half a frame of the clip's.
    const slow = put(paced(rowOf(600), 0, 0.5), { ...trail, by: 'seconds', apart: 1 / 30 });
    expect(counted(at(slow, 9)).map(([frame]) => frame)).toEqual([4, 4, 3, 3]);
  });

  it('does not reach past the clip’s ends', () => {
    const project = put(rowOf(60, 60), trail);
    expect(counted(at(project, 1))).toEqual([
      [1, 1],
      [0, 0.8],
    ]);
    expect(singleLeaf(at(project, 0))).toMatchObject({ frame: 0 });
    expect(counted(at(put(rowOf(60, 60), { ...trail, apart: -1 }), 58)).map(([frame]) => frame)).toEqual([58, 59]);
  });

  it('appears only in the burst where it is told to', () => {
    const burst = put(paced(rowOf(600), 0, 1, 8, 1), { ...trail, only: { than: 'faster', speed: 2 } });
    const trailing = Array.from({ length: 30 }, (_, n) => n).filter((n) => isSeenSum(at(burst, n)[0]!.of));
    expect(trailing).toEqual(Array.from({ length: 10 }, (_, n) => n + 10));
    const part = put(rowOf(60), { ...trail, over: { by: 'source', from: 20, to: 22 } });
    expect([19, 20, 21, 22].map((n) => isSeenSum(at(part, n)[0]!.of))).toEqual([false, true, true, false]);
    expect(isSeenSum(at(put(rowOf(60), { ...trail, off: true }), 30)[0]!.of)).toBe(false);
  });

  it('of the film is every clip’s own: nothing of before a cut is seen after it', () => {
    const project = film(rowOf(60, 60), trail);
    expect(counted(at(project, 61)).map(([frame]) => frame)).toEqual([1, 0]);
    expect(sumOf(at(project, 61)).sum.every(({ leaf }) => mainFrame(leaf).sourceId === 's1')).toBe(true);
    const stretch = film(rowOf(60, 60), { ...trail, over: { by: 'output', from: 70, to: 80 } });
    expect([69, 70, 79, 80].map((n) => isSeenSum(at(stretch, n)[0]!.of))).toEqual([false, true, true, false]);
  });

  it('adds up by how it is put together', () => {
    const weights = (combine: Trail['combine']): number[] =>
      counted(at(put(rowOf(60), { ...trail, copies: 1, decay: 0.5, combine }), 20)).map(([, weight]) => weight);
    expect(weights('sum')).toEqual([1, 0.5]);
    expect(weights('mean')).toEqual([0.667, 0.333]);
    expect(weights('over')).toEqual([0.5, 0.5]);
    expect(sumOf(at(put(rowOf(60), trail), 20)).combine).toBe('lightest');
  });

  it('of a group, and of what moves in its frame, is put together in the frame', () => {
    const inner = group(rowOf(60, 60), ['c0', 'c1']);
    const grouped = effectList.set(inner, { clips: ['c-g'] }, () => [trail]);
    // At the cut inside it two sources are seen at once.
    const mix = at(grouped, 61)[0]!.of as SeenMix;
    expect(isSeenMix(mix)).toBe(true);
    expect(mix.moments.map(({ weight }) => Math.round(weight * 1000) / 1000)).toEqual([1, 0.8, 0.64, 0.512]);
    // Where all is one source's it stays at that one's size.
    expect(counted(at(grouped, 30)).map(([frame]) => frame)).toEqual([30, 29, 28, 27]);
    const keys = { by: 'output' as const, keys: [0, 60].map((one) => ({ at: one, value: one / 60 })) };
    const moving = put(setPicture(rowOf(60), ['c0'], { ...plainPicture, keys: { x: keys } }), trail);
    expect(isSeenMix(at(moving, 30)[0]!.of)).toBe(true);
    const placed = put(setPicture(rowOf(60), ['c0'], { ...plainPicture, scale: 0.5 }), trail);
    expect(isSeenSum(at(placed, 30)[0]!.of)).toBe(true);
    expect(at(placed, 30)[0]!.settings!.scale).toBe(0.5);
  });

  it('is of exposures where the shutter is open', () => {
    const open = exposureList.put(put(paced(rowOf(600), 0, 4), trail), { clips: ['c0'] }, { id: 'e', shutter: 360 });
    const { sum } = sumOf(at(open, 5));
    expect(sum.map(({ leaf }) => ('parts' in leaf ? leaf.parts.map(({ seen }) => seen.frame) : []))).toEqual([
      [20, 21, 22, 23],
      [16, 17, 18, 19],
      [12, 13, 14, 15],
      [8, 9, 10, 11],
    ]);
  });
});

describe('a flash', () => {
  const lightAt = (project: ProjectDocument, n: number): number | undefined => sumOf(at(project, n)).lit?.times[0];

  it('of a clip or of the film lights its pictures, and no others', () => {
    for (const project of [put(rowOf(60), flash), film(rowOf(60), flash)]) {
      expect(Array.from({ length: 10 }, (_, n) => Math.log2(lightAt(project, n + 6) ?? 1).toFixed(2))).toEqual(
        [0, 0.5, 1, 1.5, 2, 1.6, 1.2, 0.8, 0.4, 0].map((stops) => stops.toFixed(2)),
      );
    }
  });

  it('of the film is of the whole frame: a dip to white also where nothing is', () => {
    const dip: Flash = { ...flash, way: 'dip', strength: 1 };
    const small = film(setPicture(rowOf(60), ['c0'], { ...plainPicture, scale: 0.5 }), dip);
    const [layer] = at(small, 10);
    expect(layer!.of).toMatchObject({ opaque: true, lit: { times: [0, 0, 0], plus: [1, 1, 1] } });
    // Light makes no black brighter: the clip's picture alone is lit.
    expect(isSeenSum(at(film(setPicture(rowOf(60), ['c0'], { ...plainPicture, scale: 0.5 }), flash), 10)[0]!.of)).toBe(true); // prettier-ignore
    const none: ProjectDocument = { ...rowOf(60), clips: [], sources: [] };
    const empty = { ...none, sequence: { ...none.sequence, tracks: none.sequence.tracks.map((track) => ({ ...track, items: [{ gap: 60 }] })) } }; // prettier-ignore
    expect(at(film(empty, dip), 10)).toHaveLength(1);
    expect(at(film(empty, flash), 10)).toHaveLength(0);
  });

  it('after a trail lights it, before a trail is trailed itself', () => {
    expect(sumOf(at(put(rowOf(60), trail, flash), 10))).toMatchObject({
      combine: 'lightest',
      lit: { times: [4, 4, 4] },
    });
    const { sum, lit } = sumOf(at(put(rowOf(60), flash, trail), 10));
    expect(lit).toBeUndefined();
    expect(sum.map(({ leaf }) => Math.log2(('lit' in leaf ? leaf.lit?.times[0] : undefined) ?? 1))).toEqual([
      ...[2, 1.5, 1, 0.5].map((stops) => expect.closeTo(stops, 9)),
    ]);
    // Two at once come to both.
    expect(lightAt(put(rowOf(60), flash, { ...flash, id: 'g' }), 10)).toBeCloseTo(16, 9);
  });
});

describe('a reframe', () => {
  const scaleAt = (project: ProjectDocument, n: number): number => at(project, n)[0]!.settings?.scale ?? 1;

  it('moves from one box to the other over its stretch, and holds before and after', () => {
    for (const project of [put(rowOf(60), reframe), film(rowOf(60), reframe)]) {
      expect([0, 10, 15, 20, 40].map((n) => Number(scaleAt(project, n).toFixed(6)))).toEqual([
        ...[1, 1, Number(Math.SQRT2.toFixed(6)), 2, 2],
      ]);
    }
    const { over: _, ...all } = reframe;
    expect(scaleAt(put(rowOf(60), all), 30)).toBeCloseTo(Math.SQRT2, 9);
    const inSource = put(paced(rowOf(600), 0, 2), { ...reframe, over: { by: 'source', from: 0, to: 20 } });
    expect(scaleAt(inSource, 5)).toBeCloseTo(Math.SQRT2, 9);
  });

  it('is blurred as it moves while the shutter is open, and where it stands it is not', () => {
    const wide: ProjectDocument = { ...rowOf(60), sequence: { ...rowOf(60).sequence, width: 1280, height: 720 } };
    for (const owner of ['film', { clips: ['c0'] }] as const) {
      const framed = effectList.set(wide, owner, () => [reframe]);
      const open = exposureList.put(framed, owner, { id: 'e', shutter: 180, samples: 8 });
      const mix = at(open, 15)[0]!.of as SeenMix;
      expect(mix.moments).toHaveLength(8);
      const scales = mix.moments.map(({ layers }) => layers[0]!.settings!.scale);
      scales.forEach((scale, n) => expect(scale).toBeCloseTo(2 ** ((5 + ((n + 0.5) / 8) * 0.5) / 10), 6));
      expect(isSeenMix(at(open, 30)[0]!.of)).toBe(false);
    }
  });

  it('of another shape leaves the rest of the frame free', () => {
    const upright = put(rowOf(60, 60), { ...reframe, shape: 9 / 16, over: { by: 'output', from: 0, to: 1 } });
    const [layer] = at(upright, 30);
    const { crop } = layer!.settings!;
    expect(crop.left + crop.right).toBeGreaterThan(0.6);
  });
});

it('a draft shows what moves, and leaves out what takes long', () => {
  const project = put(rowOf(60), trail, { ...flash, over: { by: 'output', from: 0, to: 60 } }, reframe);
  const draft = instantPlan(programOf(project, SEQUENCE)).at(30);
  expect(draft[0]!.settings!.scale).toBe(2);
  expect((draft[0]!.of as SeenPicture)[0]!.of).toEqual({ sourceId: 's0', frame: 30, clipId: 'c0' });
  expect(isExposed(programOf(project, SEQUENCE))).toBe(true);
  expect(isExposed(programOf(put(rowOf(60), reframe), SEQUENCE))).toBe(false);
  expect(isExposed(programOf(film(rowOf(60), flash), SEQUENCE))).toBe(true);
  expect(isExposed(programOf(film(rowOf(60), { ...flash, off: true }), SEQUENCE))).toBe(false);
  expect(clipOf(project, 'c0').effects).toHaveLength(3);
});
