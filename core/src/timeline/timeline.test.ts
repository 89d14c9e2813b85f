import {
  addTrack,
  duplicateClips,
  EditRefused,
  edgesOf,
  eases,
  fillGap,
  gapsNear,
  handlesOf,
  insertClip,
  joinAcross,
  makeRate,
  mapOf,
  moveClips,
  newProject,
  paceClip,
  pasteTimingOn,
  positionAt,
  ramp,
  removeClips,
  removeMarkers,
  removeSource,
  removeTrack,
  replaceFootage,
  SEQUENCE,
  setMarkers,
  shownSeconds,
  shownSpeed,
  slipClip,
  speedClip,
  speedInGap,
  splitClip,
  switchTrack,
  tracked,
  trimClip,
  wholeClip,
  withLengthMode,
  withReadAs,
  withSequenceRate,
  withTiming,
} from '..';
import { constantSpan } from '../retime';
import { atSpeed, clipOf, paced, row, rowOf, seen, sound } from '../../test/projects';

describe('a row of clips', () => {
  it('lies end to end in the order it came', () => {
    const project = rowOf(10, 20, 30);
    expect(row(project)).toBe('c0/10 c1/20 c2/30');
    expect(seen(project, 0, 9, 10, 29, 30, 59, 60)).toEqual(['s0:0', 's0:9', 's1:0', 's1:19', 's2:0', 's2:29', '–']);
    expect(edgesOf(project, project.sequence)).toEqual([0, 10, 30, 60]);
    sound(project);
  });

  it('shows a part of its source, in seconds of the file at whatever rate that is read', () => {
    const shown = (project: ReturnType<typeof rowOf>) =>
      shownSeconds(project, clipOf(project, 'c0'), project.sources[0]!);
    const project = rowOf(300);
    expect(shown(project)).toEqual({ from: 0, to: 10 });
    const trimmed = trimClip(project, 'c0', 'start', 60, 'close');
    expect(shown(trimmed)).toEqual({ from: 2, to: 10 });
    expect(shown(speedClip(trimmed, 'c0', 0.5))).toEqual({ from: 2, to: 10 });
    expect(shown(withReadAs(project, 's0', makeRate(15)))).toEqual({ from: 0, to: 10 });
  });

  it('is split without any change of what is seen, each half with the other as its handle', () => {
    const before = rowOf(10, 20);
    const after = splitClip(before, 'c1', 17, 'x');
    expect(row(after)).toBe('c0/10 c1/7 x/13');
    const frames = Array.from({ length: 30 }, (_, n) => n);
    expect(seen(after, ...frames)).toEqual(seen(before, ...frames));
    expect([handlesOf(after, 'c1'), handlesOf(after, 'x')]).toEqual([
      { head: 0, tail: 13 },
      { head: 7, tail: 0 },
    ]);
    expect(() => splitClip(before, 'c1', 10, 'x')).toThrow(EditRefused);
    sound(after);
  });

  it('is trimmed with the room closed or left, and the handles come back', () => {
    const closed = trimClip(rowOf(10, 20, 30), 'c1', 'start', 5, 'close');
    expect(row(closed)).toBe('c0/10 c1/15 c2/30');
    expect(seen(closed, 10, 25)).toEqual(['s1:5', 's2:0']);
    const left = trimClip(rowOf(10, 20, 30), 'c1', 'start', 5, 'leave');
    expect(row(left)).toBe('c0/10 (5) c1/15 c2/30');
    expect(row(trimClip(left, 'c1', 'start', -3, 'leave'))).toBe('c0/10 (2) c1/18 c2/30');
    expect(() => trimClip(left, 'c1', 'start', -6, 'leave')).toThrow('There are 5 more frames');
    expect(() => trimClip(rowOf(10, 20), 'c0', 'end', 1, 'leave')).toThrow('There are 0 more frames');
    const tail = trimClip(rowOf(10, 20), 'c0', 'end', -4, 'leave');
    expect(row(tail)).toBe('c0/6 (4) c1/20');
    expect(() => trimClip(tail, 'c0', 'end', -6, 'close')).toThrow('at least one frame');
    expect(row(trimClip(rowOf(10), 'c0', 'end', -4, 'leave'))).toBe('c0/6');
  });

  it('trims the output, never the map', () => {
    const before = atSpeed(rowOf(60), 'c0', 0.5);
    const after = trimClip(trimClip(before, 'c0', 'start', 20, 'close'), 'c0', 'end', -30, 'close');
    expect(clipOf(after, 'c0').timing).toBe(clipOf(before, 'c0').timing);
    expect(seen(after, 0, 1, 2)).toEqual(['s0:10', 's0:10', 's0:11']);
  });

  it('lays things into gaps as far as they go, and moves what is then in the way', () => {
    const project = trimClip(rowOf(10, 20, 30), 'c1', 'start', 15, 'leave');
    expect(row(project)).toBe('c0/10 (15) c1/5 c2/30');
    const clip = { ...wholeClip(project, 'n', project.sources[0]!), shown: { from: 0, frames: 6 } };
    const lay = (at: number) => row(insertClip(project, SEQUENCE, 'picture-1', at, clip));
    expect(lay(12)).toBe('c0/10 (2) n/6 (7) c1/5 c2/30');
    expect(lay(22)).toBe('c0/10 (12) n/6 c1/5 c2/30');
    expect(lay(2)).toBe('n/6 c0/10 (15) c1/5 c2/30');
    expect(lay(8)).toBe('c0/10 n/6 (9) c1/5 c2/30');
    expect(lay(70)).toBe('c0/10 (15) c1/5 c2/30 (10) n/6');
  });

  it('moves, removes and duplicates several at once', () => {
    const project = rowOf(10, 20, 30, 40);
    expect(row(moveClips(project, ['c0'], 'picture-1', 60, 'close'))).toBe('c1/20 c2/30 c0/10 c3/40');
    expect(row(moveClips(project, ['c3'], 'picture-1', 0, 'close'))).toBe('c3/40 c0/10 c1/20 c2/30');
    expect(row(removeClips(project, ['c0', 'c2'], 'close'))).toBe('c1/20 c3/40');
    expect(row(removeClips(project, ['c0', 'c2'], 'leave'))).toBe('(10) c1/20 (30) c3/40');
    expect(row(duplicateClips(project, ['c1', 'c2'], ['a', 'b']))).toBe('c0/10 c1/20 c2/30 a/20 b/30 c3/40');
    expect(() => removeClips(project, [], 'close')).toThrow('Select a clip');
  });

  it('has tracks above, whose clips are seen in place of what is below, and sound tracks below', () => {
    let project = addTrack(addTrack(rowOf(10, 20), SEQUENCE, 'picture', 'up'), SEQUENCE, 'sound', 'ear');
    expect(project.sequence.tracks.map(({ id }) => id)).toEqual(['picture-1', 'up', 'ear']);
    project = moveClips(project, ['c1'], 'up', 5, 'leave');
    expect(seen(project, 4, 5, 24, 25)).toEqual(['s0:4', 's1:0', 's1:19', '–']);
    expect(seen(switchTrack(project, SEQUENCE, 'up', true), 5)).toEqual(['s0:5']);
    expect(() => removeTrack(project, SEQUENCE, 'up')).toThrow('has clips');
    expect(removeTrack(project, SEQUENCE, 'ear').sequence.tracks).toHaveLength(2);
    expect(() => moveClips(project, ['c1'], 'ear', 0, 'leave')).toThrow('can’t go on a sound track');
    sound(project);
  });

  it('slips content under the curve, or curve and content together', () => {
    const project = trimClip(trimClip(rowOf(100), 'c0', 'end', -60, 'close'), 'c0', 'start', 10, 'close');
    expect(seen(slipClip(project, 'c0', 7, 'timing'), 0)).toEqual(['s0:17']);
    expect(() => slipClip(project, 'c0', 61, 'timing')).toThrow('10 frames before and 60 frames after');
    expect(() => slipClip(project, 'c0', 7, 'content')).toThrow('goes past them');
    const slow = paced(project, 'c0', constantSpan(0.5, 60));
    expect(seen(slipClip(slow, 'c0', 7, 'content'), 0)).toEqual([`s0:${Number(seen(slow, 0)[0]!.slice(3)) + 7}`]);
  });

  it('replaces footage with the timing kept, and removes a source with its clips', () => {
    const project = atSpeed(rowOf(30, 90), 'c0', 0.5);
    const replaced = replaceFootage(project, 'c0', 's1');
    expect(clipOf(replaced, 'c0').timing).toBe(clipOf(project, 'c0').timing);
    expect(clipOf(replaced, 'c0').name).toBe('shot 1');
    expect(row(removeSource(project, 's0'))).toBe('(60) c1/90');
    sound(removeSource(replaced, 's1'));
  });

  it('keeps speeds and seconds when the rate changes, and what lies side by side still does', () => {
    const project = splitClip(rowOf(31, 20), 'c0', 11, 'x');
    const after = withSequenceRate(project, makeRate(24));
    expect(row(after)).toBe('c0/9 x/16 c1/16');
    expect(withReadAs(rowOf(30, 30), 's0', makeRate(15)).clips[0]!.shown.frames).toBe(60);
  });
});

describe('lengths when a clip is retimed', () => {
  it('ripple: what follows moves', () => {
    expect(row(atSpeed(rowOf(10, 20, 30), 'c1', 0.5))).toBe('c0/10 c1/40 c2/30');
  });

  it('slot: nothing moves, the excess is hidden; where it is too short there is nothing to see', () => {
    const project = withLengthMode(rowOf(10, 20, 30), 'c1', 'slot');
    const slow = atSpeed(project, 'c1', 0.5);
    expect(row(slow)).toBe('c0/10 c1/20 c2/30');
    expect(handlesOf(slow, 'c1')).toEqual({ head: 0, tail: 20 });
    const fast = atSpeed(project, 'c1', 2);
    expect(seen(fast, 19, 20, 30)).toEqual(['s1:18', '–', 's2:0']);
    expect(row(withLengthMode(fast, 'c1', 'ripple'))).toBe('c0/10 c1/10 c2/30');
  });

  it('slot: where nothing is seen, nothing is split, trimmed to or joined', () => {
    const project = withTiming(withLengthMode(rowOf(100, 40), 'c0', 'slot'), 'c0', {
      start: 0,
      spans: [constantSpan(1, 50)],
    });
    expect(() => splitClip(project, 'c0', 60, 'late')).toThrow('shows nothing here');
    expect(() => trimClip(project, 'c0', 'start', 50, 'leave')).toThrow('at least one frame');
    const join = { before: 6, after: 6, speed: 2, keeps: 'length' as const };
    const [easeIn, easeOut] = [eases['ease-in'], eases['ease-out']];
    expect(() => joinAcross(project, 'c0', 'c1', { ...join, easeIn, easeOut })).toThrow(
      'timing ends before the clip does',
    );
    expect(splitClip(project, 'c0', 49, 'seen').clips).toHaveLength(3);
  });

  it('edges stay at what they show: an edit between them moves only the end', () => {
    const trimmed = trimClip(trimClip(rowOf(100), 'c0', 'start', 20, 'close'), 'c0', 'end', -30, 'close');
    const map = tracked(mapOf(trimmed, clipOf(trimmed, 'c0')));
    const slow = ramp(map, { at: 40, frames: 6, to: 0.5, ease: eases.linear, keeps: 'content' });
    const after = withTiming(trimmed, 'c0', slow);
    const { from, frames } = clipOf(after, 'c0').shown;
    expect(from).toBe(20);
    expect(seen(after, 0, frames - 1)).toEqual(['s0:20', 's0:69']);
  });

  it('a constant speed scales the handles too, so the edges show what they showed', () => {
    const trimmed = trimClip(trimClip(rowOf(100), 'c0', 'start', 20, 'close'), 'c0', 'end', -30, 'close');
    const after = withTiming(trimmed, 'c0', {
      ...mapOf(trimmed, clipOf(trimmed, 'c0')),
      spans: [constantSpan(0.5, 200)],
    });
    expect(clipOf(after, 'c0').shown).toEqual({ from: 40, frames: 100 });
    expect(seen(after, 0, 99)).toEqual(['s0:20', 's0:69']);
  });
});

describe('constant pace of a clip', () => {
  it('150 frames into a 209-frame gap are 71.77% (common practice)', () => {
    const rowed = rowOf(209, 150);
    const project = removeClips(moveClips(rowed, ['c1'], 'picture-1', 300, 'close'), ['c0'], 'leave');
    expect(row(project)).toBe('(300) c1/150');
    const cut = insertClip(project, SEQUENCE, 'picture-1', 61, {
      ...wholeClip(project, 'w', project.sources[0]!),
      id: 'w',
      shown: { from: 0, frames: 30 },
    });
    expect(row(cut)).toBe('(61) w/30 (209) c1/150');
    const gap = gapsNear(cut, 'c1').find(({ frames }) => frames === 209)!;
    expect((speedInGap(cut, 'c1', gap) * 100).toFixed(2)).toBe('71.77');
    const filled = fillGap(cut, 'c1', gap);
    expect(row(filled)).toBe('(61) w/30 c1/209');
    expect(shownSpeed(filled, 'c1')).toBeCloseTo(150 / 209, 12);
    sound(filled);
  });

  it('77 frames into 60 are 128.33% (common practice), handles untouched', () => {
    const project = trimClip(trimClip(rowOf(120), 'c0', 'start', 20, 'close'), 'c0', 'end', -23, 'close');
    const after = paceClip(project, 'c0', 60);
    expect((shownSpeed(after, 'c0') * 100).toFixed(2)).toBe('128.33');
    expect(handlesOf(after, 'c0')).toEqual({ head: 20, tail: 23 });
    expect(seen(after, 0)).toEqual(['s0:20']);
    expect(row(speedClip(project, 'c0', 0.5))).toBe('c0/154');
    expect(() => speedClip(project, 'c0', 0)).toThrow('must be more than 0');
  });

  it('keeps pins: those inside go along with their frames, those after move with what follows', () => {
    const pins = [10, 30, 80].map((frame) => ({ output: frame, source: frame }));
    const map = { ...mapOf(rowOf(100), clipOf(rowOf(100), 'c0')), pins };
    const pinned = trimClip(
      trimClip(withTiming(rowOf(100), 'c0', map), 'c0', 'start', 20, 'close'),
      'c0',
      'end',
      -40,
      'close',
    );
    const { timing } = clipOf(paceClip(pinned, 'c0', 80), 'c0');
    expect(timing.pins).toEqual([
      { output: 10, source: 10 },
      { output: 40, source: 30 },
      { output: 120, source: 80 },
    ]);
    const after = mapOf(rowOf(100), { ...clipOf(rowOf(100), 'c0'), timing });
    for (const { output, source } of pins.map((pin, index) => ({ ...pin, output: timing.pins![index]!.output }))) {
      expect(positionAt(after, output)).toBeCloseTo(source, 9);
    }
  });

  it('pastes a timing on several clips, each in its own length', () => {
    const project = paced(rowOf(40, 20, 30), 'c0', constantSpan(2, 10), constantSpan(0.5, 40));
    const after = pasteTimingOn(project, ['c1', 'c2'], clipOf(project, 'c0').timing, 'shape');
    expect(row(after)).toBe('c0/50 c1/20 c2/30');
    expect(shownSpeed(after, 'c1')).toBeCloseTo(1, 9);
  });
});

describe('markers', () => {
  it('are kept in order, changed by their ids, and checked', () => {
    const mark = (id: string, at: number) => ({ id, at, name: id, tone: 'oak' as const });
    let project = setMarkers(newProject('M'), SEQUENCE, [mark('b', 20), mark('a', 10)]);
    project = setMarkers(project, SEQUENCE, [mark('b', 5)]);
    expect(project.sequence.markers.map(({ id, at }) => [id, at])).toEqual([
      ['b', 5],
      ['a', 10],
    ]);
    expect(() => setMarkers(project, SEQUENCE, [mark('c', 1.5)])).toThrow('whole frame');
    expect(removeMarkers(project, SEQUENCE, ['a', 'b']).sequence.markers).toEqual([]);
  });
});
