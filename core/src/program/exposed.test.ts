import type { ProjectDocument, RetimeMap } from '@hastig/contract';
import { group, rowOf } from '../../test/projects';
import {
  constantSpan,
  framesOf,
  instant,
  leavesOf,
  makeRate,
  mapProgram,
  paceClip,
  pictureAt,
  picturePlan,
  programOf,
  SEQUENCE,
  splitClip,
  type Exposure,
  type Program,
  type SeenPicture,
} from '..';

const exposed = (change: Partial<Exposure>): Exposure => ({ ...instant, ...change });

/** Each frame's part of a picture of one layer, as `source:frame`. */
function weights(picture: SeenPicture): Record<string, number> {
  const [leaf] = leavesOf(picture);
  if (!leaf) return {};
  const parts = 'parts' in leaf ? leaf.parts : [{ seen: leaf, weight: 1 }];
  return Object.fromEntries(parts.map(({ seen, weight }) => [`${seen.sourceId}:${seen.frame}`, weight]));
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
  for (const slow of ['held', 'blended'] as const)
    for (const shutter of [0, 1, 180, 360]) {
      const plan = picturePlan(program, undefined, exposed({ slow, shutter }));
      for (let n = 0; n < plan.count; n++) {
        const sum = Object.values(weights(plan.at(n))).reduce((all, weight) => all + weight, 0);
        expect(sum).toBeCloseTo(1, 9);
        expect(framesOf(plan.at(n)).every(({ frame }) => frame >= 0 && frame < map.sourceFrames)).toBe(true);
      }
    }
});
