import type { ProjectDocument } from '@hastig/contract';
import { containerFrames, eases, joinAcross, mapOf, speedAt, speedBefore, trimClip, withTiming } from '..';
import { constantSpan } from '../retime';
import { clipOf, rowOf, seen, sound } from '../../test/projects';

describe('a join across a cut', () => {
  const join = { before: 20, after: 20, speed: 4, easeIn: eases['ease-in'], easeOut: eases['ease-out'] };

  it.each(['content', 'length'] as const)('meets at one speed on both sides, the rest kept (%s)', (keeps) => {
    const project = trimClip(trimClip(rowOf(200, 200), 'c0', 'end', -80, 'close'), 'c1', 'start', 80, 'close');
    const after = joinAcross(project, 'c0', 'c1', { ...join, keeps });
    const [first, second] = ['c0', 'c1'].map((id) => ({ ...clipOf(after, id), map: mapOf(after, clipOf(after, id)) }));
    expect(speedBefore(first!.map, first!.shown.from + first!.shown.frames)).toBeCloseTo(4, 9);
    expect(speedAt(second!.map, second!.shown.from)).toBeCloseTo(4, 9);
    const cut = first!.shown.frames;
    expect(seen(after, 0, 99)).toEqual(['s0:0', 's0:99']);
    const end = containerFrames(after, after.sequence);
    expect(seen(after, end - 1, end - 100)).toEqual(['s1:199', 's1:100']);
    if (keeps === 'length') expect(cut).toBe(120);
    else {
      expect(cut).toBeLessThan(120);
      // Within what one frame passes at the cut.
      expect(Math.abs(Number(seen(after, cut - 1)[0]!.slice(3)) - 119)).toBeLessThanOrEqual(4);
    }
    sound(after);
  });

  it('takes the last part of a frame for a whole one, at the end of the first clip and in a second of one frame', () => {
    const cut = (project: ProjectDocument, id: string, end: number): ProjectDocument =>
      withTiming(project, id, { start: 0, spans: [constantSpan(1, end)] });
    const project = cut(cut(rowOf(40, 40), 'c0', 20.4), 'c1', 0.6);
    const joined = joinAcross(project, 'c0', 'c1', {
      ...{ before: 6, after: 1, speed: 2, keeps: 'length' },
      ...{ easeIn: eases['ease-in'], easeOut: eases['ease-out'] },
    });
    expect(joined.clips.map(({ shown }) => shown.frames)).toEqual([21, 1]);
    sound(joined);
  });

  it('is refused for clips that are no neighbours or too short', () => {
    const gapped = trimClip(rowOf(40, 40), 'c0', 'end', -10, 'leave');
    expect(() => joinAcross(gapped, 'c0', 'c1', { ...join, keeps: 'content' })).toThrow('adjacent');
    expect(() => joinAcross(rowOf(10, 40), 'c0', 'c1', { ...join, keeps: 'content' })).toThrow('1 to 10 frames');
  });
});
