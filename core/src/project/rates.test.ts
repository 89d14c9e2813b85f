import type { ProjectDocument, Rate } from '@hastig/contract';
import fc from 'fast-check';
import {
  addTrack,
  containerFrames,
  insertClip,
  integrityErrors,
  layoutOf,
  makeRate,
  rateRatio,
  SEQUENCE,
  trimClip,
  wholeClip,
  withReadAs,
  withSequenceRate,
} from '..';
import { clipOf, group, row, rowOf, seen, soundFactsOf } from '../../test/projects';

const rates: readonly Rate[] = [24, 25, 30, 50, 60]
  .map((num) => makeRate(num))
  .concat(makeRate(24000, 1001), makeRate(30000, 1001));

/** Where every clip begins and ends, in frames. */
const edges = (project: ProjectDocument): number[] =>
  project.sequence.tracks.flatMap((track) =>
    layoutOf(project, track).flatMap(({ clip, from, to }) => (clip ? [from, to] : [])),
  );

describe('a sequence at another rate', () => {
  it('keeps 100 clips of 3 frames beside ten seconds of music: 30 to 24', () => {
    let project = rowOf(...Array<number>(100).fill(3));
    const music = { id: 'm', name: 'music.wav', sha256: '1'.repeat(64), facts: soundFactsOf(48_000, 10) };
    project = addTrack({ ...project, sources: [...project.sources, music] }, SEQUENCE, 'sound', 'music');
    project = insertClip(project, SEQUENCE, 'music', 0, wholeClip(project, 'song', music));
    const after = withSequenceRate(project, makeRate(24));
    expect(after.sequence.tracks.map((track) => layoutOf(after, track).at(-1)!.to)).toEqual([240, 240]);
    expect(row(after)).toMatch(/^c0\/2 c1\/3 c2\/2 c3\/3 /);
    expect(integrityErrors(after)).toEqual([]);
  });

  it('has every edge within half a frame of where it was, whatever lies before it', () => {
    const items = fc.array(fc.record({ frames: fc.integer({ min: 3, max: 40 }), gap: fc.nat(9), head: fc.nat(20) }), {
      minLength: 1,
      maxLength: 30,
    });
    fc.assert(
      fc.property(items, fc.constantFrom(...rates), fc.constantFrom(...rates), (drawn, from, to) => {
        let project = withSequenceRate(rowOf(...drawn.map(({ frames, head }) => frames + head)), from);
        drawn.forEach(({ head, gap }, index) => {
          const { shown } = clipOf(project, `c${index}`);
          const by = Math.min(head, shown.frames - 3);
          if (by > 0) project = trimClip(project, `c${index}`, 'start', by, gap > 4 ? 'leave' : 'close');
        });
        const [before, after] = [project, withSequenceRate(project, to)];
        const factor = rateRatio(to, from);
        // Two frames at the least at the new rate: nothing is so short that it pushes.
        const [was, is] = [edges(before), edges(after)];
        expect(is.length).toBe(was.length);
        if (was.every((edge, n) => n % 2 === 0 || (edge - was[n - 1]!) * factor >= 1.5))
          is.forEach((edge, n) => expect(Math.abs(edge - was[n]! * factor)).toBeLessThanOrEqual(0.5 + 1e-6));
        expect(integrityErrors(after)).toEqual([]);
      }),
      { seed: 14 },
    );
  });

  it('leaves what lies in groups at the groups’ own rate, and a group’s clip where it was', () => {
    const grouped = group(rowOf(3, 3, 3, 3), ['c1', 'c2']);
    const after = withSequenceRate(grouped, makeRate(24));
    expect(row(after)).toBe('c0/2 c-g/5 c3/3');
    expect(after.groups).toEqual(grouped.groups);
    expect(clipOf(after, 'c1')).toEqual(clipOf(grouped, 'c1'));
  });
});

describe('frames read at another rate inside a group', () => {
  it('make the group longer, and with it the clips that show it, and so on upwards', () => {
    const inner = group(rowOf(60), ['c0'], 'a');
    const outer = group(inner, ['c-a'], 'b');
    const slow = withReadAs(outer, 's0', makeRate(6));
    expect(slow.groups.map((one) => containerFrames(slow, one))).toEqual([300, 300]);
    expect(row(slow)).toBe('c-b/300');
    expect(seen(slow, 0, 4, 5, 299)).toEqual(['s0:0', 's0:0', 's0:1', 's0:59']);
    expect(row(withReadAs(slow, 's0', undefined))).toBe('c-b/60');
  });
});
