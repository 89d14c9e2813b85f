import { slowWays, type ExposureStep, type ProjectDocument, type RetimeMap } from '@hastig/contract';
import { group, rowOf } from '../../test/projects';
import {
  constantSpan,
  framesOf,
  instantPlan,
  instant,
  leavesOf,
  makeRate,
  mapProgram,
  paceClip,
  pictureAt,
  picturePlan,
  plainPicture,
  programOf,
  SEQUENCE,
  setPicture,
  splitClip,
  type Exposure,
  type Program,
  type SeenFrame,
  type SeenMix,
  type SeenPicture,
  exposureList,
} from '..';

const exposed = (change: Partial<Exposure>): Exposure => ({ ...instant, ...change });

/** Each frame's part of a picture of one layer, as `source:frame`, and how far on its way to the next where it is. */
function weights(picture: SeenPicture): Record<string, number> {
  const [leaf] = leavesOf(picture);
  if (!leaf) return {};
  const parts = 'parts' in leaf ? leaf.parts : [{ seen: leaf as SeenFrame, weight: 1 }];
  const found: Record<string, number> = {};
  const add = (name: string, weight: number): void => {
    if (weight > 0) found[name] = (found[name] ?? 0) + weight;
  };
  for (const { seen, weight } of parts) {
    const { sourceId, frame, share = 0, way } = seen;
    if (way === 'blended') {
      add(`${sourceId}:${frame}`, (1 - share) * weight);
      add(`${sourceId}:${frame + 1}`, share * weight);
    } else add(`${sourceId}:${frame}${share ? `+${share}` : ''}`, weight);
  }
  return found;
}

/** The same, from very many instants of the program while the shutter is open. */
function bruteForce(program: Program, from: number, open: number, moments = 4000): Record<string, number> {
  const found: Record<string, number> = {};
  for (let n = 0; n < moments; n++) {
    for (const { sourceId, frame } of framesOf(pictureAt(program, from + ((n + 0.5) / moments) * open)))
      found[`${sourceId}:${frame}`] = (found[`${sourceId}:${frame}`] ?? 0) + 1 / moments;
  }
  return found;
}

const difference = (a: Record<string, number>, b: Record<string, number>): number =>
  [...new Set([...Object.keys(a), ...Object.keys(b)])].reduce(
    (sum, key) => sum + Math.abs((a[key] ?? 0) - (b[key] ?? 0)),
    0,
  );

const LINEAR: [number, number, number, number] = [0, 0, 1, 1];

const fast = (project: ProjectDocument): ProjectDocument => paceClip(project, 'c0', 10);

it('pictures are all that passes while the shutter is open, through groups and at other rates', () => {
  const inner = group(rowOf(60, 60), ['c0', 'c1']);
  const program = programOf(paceClip(fast(inner), 'c-g', 20), SEQUENCE);
  for (const [rate, shutter] of [
    [program.rate, 360],
    [program.rate, 180],
    [makeRate(12), 360],
  ] as const) {
    const plan = picturePlan(program, rate, exposed({ shutter }));
    let cut = 0;
    const step = (program.rate.num / program.rate.den / rate.num) * rate.den;
    for (let n = 0; n < plan.count; n++) {
      const open = Math.min((shutter / 360) * step, program.length - n * step);
      if (open < (shutter / 360) * step) continue;
      const passes = bruteForce(program, n * step, open);
      const sources = new Set(Object.keys(passes).map((name) => name.split(':')[0]));
      // Only where the cut inside the group passes.
      if (sources.size > 1) cut++;
      else expect(difference(weights(plan.at(n)), passes)).toBeLessThan(0.02);
    }
    expect(cut).toBeLessThanOrEqual(1);
  }
});

it('a cut ends an exposure', () => {
  const project = rowOf(10, 10);
  // At half the rate the shutter would still be open when the second clip begins.
  const plan = picturePlan(programOf(project, SEQUENCE), makeRate(4), exposed({ shutter: 360 }));
  const cut = plan.at(1);
  expect(Object.keys(weights(cut)).every((name) => name.startsWith('s0:'))).toBe(true);
  expect(Object.values(weights(cut)).reduce((sum, weight) => sum + weight, 0)).toBeCloseTo(1, 9);
});

it('a clip that was split is exposed as it was whole', () => {
  const whole = fast(rowOf(80));
  const [before, after] = [whole, splitClip(whole, 'c0', 4, 'second')].map((project) =>
    picturePlan(programOf(project, SEQUENCE), undefined, exposed({ shutter: 180 })),
  );
  for (let n = 0; n < before!.count; n++)
    expect(difference(weights(before!.at(n)), weights(after!.at(n)))).toBeLessThan(1e-6);
});

const mapOf = (speed: number, frames: number, sourceFrames: number): RetimeMap => ({
  ...{ sourceRate: makeRate(30), outputRate: makeRate(30), sourceFrames, start: 0 },
  spans: [constantSpan(speed, frames)],
});

it.each([
  ['one frame', mapOf(1, 1, 1)],
  ['one frame of one that stands for long', mapOf(0, 40, 1)],
  ['a freeze', mapOf(0, 10, 30)],
  ['next to nothing', mapOf(0.001, 1000, 2)],
  ['a hundred times', mapOf(100, 3, 300)],
  ['backwards', { ...mapOf(-7, 10, 100), start: 99 }],
])('every picture of %s is there, however it is exposed', (_, map) => {
  const program = mapProgram(map, 's');
  for (const slow of slowWays)
    for (const shutter of [0, 1, 180, 360]) {
      const plan = picturePlan(program, undefined, exposed({ slow, shutter }));
      for (let n = 0; n < plan.count; n++) {
        const sum = Object.values(weights(plan.at(n))).reduce((all, weight) => all + weight, 0);
        expect(sum).toBeCloseTo(1, 9);
        expect(framesOf(plan.at(n)).every(({ frame }) => frame >= 0 && frame < map.sourceFrames)).toBe(true);
      }
    }
});

describe('what clips and film say', () => {
  const clip = (project: ProjectDocument, ...steps: Omit<ExposureStep, 'id'>[]): ProjectDocument =>
    exposureList.set(project, { clips: ['c0'] }, () => steps.map((step, index) => ({ ...step, id: `s${index}` })));
  const film = (project: ProjectDocument, ...steps: Omit<ExposureStep, 'id'>[]): ProjectDocument =>
    exposureList.set(project, 'film', () => steps.map((step, index) => ({ ...step, id: `f${index}` })));
  const seen = (project: ProjectDocument, n: number): Record<string, number> =>
    weights(picturePlan(programOf(project, SEQUENCE)).at(n));
  const count = (project: ProjectDocument, n: number): number => Object.keys(seen(project, n)).length;
  // Eight source frames an output frame.
  const eightfold = paceClip(rowOf(80, 30), 'c0', 10);

  it('holds where it says so, and the last step counts', () => {
    const open = clip(eightfold, { shutter: 360 }, { shutter: 180, over: { by: 'output', from: 4, to: 6 } });
    expect([0, 3, 4, 5, 6].map((n) => count(open, n))).toEqual([8, 8, 4, 4, 8]);
    const bySource = clip(eightfold, { shutter: 360, over: { by: 'source', from: 16, to: 32 } });
    expect([1, 2, 3, 4].map((n) => count(bySource, n))).toEqual([1, 8, 8, 1]);
    const off = clip(eightfold, { shutter: 360, off: true });
    expect(count(off, 3)).toBe(1);
    // The other clip says nothing.
    expect(count(open, 12)).toBe(1);
  });

  it('of the film counts over clips, in its own frames, and over those in groups', () => {
    const both = film(clip(eightfold, { shutter: 180 }), { shutter: 360, over: { by: 'output', from: 5, to: 100 } });
    expect([4, 5].map((n) => count(both, n))).toEqual([4, 8]);
    const grouped = film(group(eightfold, ['c0', 'c1']), { shutter: 360 });
    expect(count(grouped, 2)).toBe(8);
  });

  it('of a group counts over what is in it, which keeps what the group does not say', () => {
    const inner = group(clip(eightfold, { slow: 'blended', shutter: 180 }), ['c0', 'c1']);
    const outer = exposureList.set(inner, { clips: ['c-g'] }, () => [{ id: 'g', shutter: 360 }]);
    expect([count(inner, 2), count(outer, 2)]).toEqual([4, 8]);
    const slower = paceClip(outer, 'c-g', 40 * 16);
    // A sixteenth as fast: half a source frame each, blended as the clip inside says.
    expect(count(slower, 1)).toBe(2);
  });

  it('of light that flickers goes with every frame that is looked at', () => {
    const plan = (...steps: Omit<ExposureStep, 'id'>[]): SeenPicture =>
      picturePlan(programOf(clip(eightfold, ...steps), SEQUENCE)).at(3);
    expect(leavesOf(plan({ evenLight: true }))).toMatchObject([{ parts: [{ weight: 1 }], evenLight: 1 }]);
    expect(leavesOf(plan({ evenLight: true, every: { frames: 4 } }))).toMatchObject([{ evenLight: 4 }]);
    expect(leavesOf(plan({ evenLight: true }, { evenLight: false }))).toMatchObject([{ sourceId: 's0' }]);
  });

  it('follows what moves where samples do: pictures by what is found in them, what lies in the frame by its corners', () => {
    const slow = clip(paceClip(rowOf(30), 'c0', 60), { slow: 'compensated', shutter: 360, samples: 'auto' });
    expect(leavesOf(picturePlan(programOf(slow, SEQUENCE)).at(9))).toMatchObject([{ auto: true }]);
  });

  it('can depend on the speed', () => {
    const only = (than: 'faster' | 'slower', speed: number): ProjectDocument =>
      clip(eightfold, { shutter: 360, only: { than, speed } });
    expect(count(only('faster', 7), 3)).toBe(8);
    expect(count(only('faster', 8), 3)).toBe(1);
    expect(count(only('slower', 9), 3)).toBe(8);
    // Nothing at real time, all of it at sixteen times: seven fifteenths of eight frames.
    const grows = clip(eightfold, { shutter: 360, grows: { from: 1, to: 16 } });
    expect(Object.values(seen(grows, 3))[0]).toBeCloseTo(15 / (7 * 8), 3);
    expect(count(grows, 12)).toBe(1);
  });

  it('makes pictures between frames where it is slow, at the very positions', () => {
    const slow = clip(paceClip(rowOf(30), 'c0', 120), { slow: 'compensated' });
    const plan = picturePlan(programOf(slow, SEQUENCE));
    const way = 'compensated';
    // At a frame too: a source may repeat it, and what moves goes on.
    expect(framesOf(plan.at(8))).toEqual([{ sourceId: 's0', frame: 2, share: 0, way, clipId: 'c0' }]);
    expect(framesOf(plan.at(9))).toEqual([{ sourceId: 's0', frame: 2, share: 0.25, way, clipId: 'c0' }]);
    // After the last frame there is none.
    expect(framesOf(plan.at(119))).toEqual([{ sourceId: 's0', frame: 29, clipId: 'c0' }]);
    expect(framesOf(instantPlan(programOf(slow, SEQUENCE)).at(9))[0]!.share).toBeUndefined();
  });

  it('leaves frames out, or takes those that are coded by themselves; while it plays as instants, none are', () => {
    const program = (step: Omit<ExposureStep, 'id'>) => programOf(clip(rowOf(40), step), SEQUENCE);
    const frames = (plan: { at(n: number): SeenPicture }) => [0, 7, 8, 15, 21].map((n) => framesOf(plan.at(n))[0]);
    const every = program({ every: { frames: 8, from: 5 } });
    expect(frames(picturePlan(every)).map((seen) => seen!.frame)).toEqual([0, 5, 5, 13, 21]);
    expect(frames(picturePlan(program({ keys: true }))).every((seen) => seen!.key)).toBe(true);
    for (const one of [every, program({ keys: true })]) {
      const played = frames(instantPlan(one));
      expect(played).toEqual([0, 7, 8, 15, 21].map((frame) => ({ sourceId: 's0', frame, clipId: 'c0' })));
    }
  });

  it('blurs what moves in its frame, and not what stands', () => {
    const keys = { by: 'output' as const, keys: [0, 60].map((at) => ({ at, value: at / 60, ease: LINEAR })) };
    const moves = setPicture(rowOf(60), ['c0'], { ...plainPicture, scale: 0.5, keys: { x: keys } });
    const [layer] = picturePlan(programOf(clip(moves, { shutter: 180, samples: 8 }), SEQUENCE)).at(30);
    const { moments } = layer!.of as SeenMix;
    expect(moments).toHaveLength(8);
    const momentsAt = (degrees: number, x: number): number => {
      const wide = { ...keys, keys: [0, 60].map((at) => ({ at, value: (x * at) / 60, ease: LINEAR })) };
      const far = setPicture(rowOf(60), ['c0'], { ...plainPicture, keys: { x: wide } });
      const program = programOf(clip(far, { shutter: degrees, samples: 'auto' }), SEQUENCE);
      const [top] = picturePlan({ ...program, frame: { width: 1280, height: 720 } }).at(30);
      return (top!.of as SeenMix).moments.length;
    };
    // By 1.5 pixels from moment to moment: 1280 × 3 in 60 frames are 64 a frame, 32 in half of it.
    expect([momentsAt(360, 3), momentsAt(180, 3), momentsAt(180, 0.1), momentsAt(360, 9)]).toEqual([43, 22, 8, 64]);
    const places = moments.map(({ layers }) => layers[0]!.settings!.x);
    // In the middle of each eighth of half a frame.
    places.forEach((x, n) => expect(x).toBeCloseTo((30 + ((n + 0.5) / 8) * 0.5) / 60, 2));
    const stands = setPicture(rowOf(60), ['c0'], { ...plainPicture, scale: 0.5 });
    expect(picturePlan(programOf(clip(stands, { shutter: 180 }), SEQUENCE)).at(30)).toEqual(
      picturePlan(programOf(stands, SEQUENCE)).at(30),
    );
  });
});
