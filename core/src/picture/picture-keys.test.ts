import type { PictureSettings, ProjectDocument } from '@hastig/contract';
import { clipOf, group, rowOf } from '../../test/projects';
import {
  constantSpan,
  eases,
  framesOf,
  freeze,
  isPlain,
  largestScale,
  makeRate,
  mapOf,
  momentAt,
  paceClip,
  pictureAt,
  pictureKeys,
  plainPicture,
  programOf,
  reverseRange,
  SEQUENCE,
  setPicture,
  splitClip,
  tracked,
  trimClip,
  withFields,
  withSequenceRate,
  withTiming,
} from '..';

const at = (output: number) => ({ output, source: output });

/** A push-in from 1 at frame 10 to 2 at frame 70. */
function pushIn(by: 'source' | 'output'): PictureSettings {
  const begun = pictureKeys.withKeyed(plainPicture, ['scale'], by, at(10));
  return pictureKeys.withKeysEased(pictureKeys.atMoment(begun, { scale: 2 }, at(70)), at(10), eases.linear);
}

const film = (by: 'source' | 'output'): ProjectDocument => setPicture(rowOf(100), ['c0'], pushIn(by));

/** How large the clip's picture is at a frame of the film. */
const scaleAt = (project: ProjectDocument, frame: number): number =>
  pictureAt(programOf(project, SEQUENCE), frame)[0]!.settings?.scale ?? 1;

describe('a picture with keys', () => {
  it('is what its keys say, everything else as it is set', () => {
    const settings = { ...pushIn('output'), x: 0.25 };
    expect(pictureKeys.now(settings, at(40))).toEqual({ ...plainPicture, scale: 1.5, x: 0.25 });
    expect(pictureKeys.countedBy(settings)).toBe('output');
    expect(pictureKeys.keyOutputs(settings, mapOf(film('output'), clipOf(film('output'), 'c0')))).toEqual([10, 70]);
    expect([pictureKeys.hasKeyAt(settings, at(70)), pictureKeys.hasKeyAt(settings, at(69))]).toEqual([true, false]);
    expect(pictureKeys.easeAt(settings, at(10))).toEqual(eases.linear);
    expect(isPlain(settings)).toBe(false);
    expect(largestScale(settings)).toBe(2);
  });

  it('gets a key where a setting that has some is changed, and none else', () => {
    const wider = pictureKeys.atMoment(pushIn('output'), { scale: 1.2, x: 0.5 }, at(40));
    expect(wider.x).toBe(0.5);
    expect(wider.keys?.scale?.keys.map(({ at: time, value }) => [time, value])).toEqual([
      [10, 1],
      [40, 1.2],
      [70, 2],
    ]);
    expect(pictureKeys.withKeysAt(pushIn('output'), at(40)).keys?.scale?.keys[1]).toEqual({ at: 40, value: 1.5 });
  });

  it('keeps what it is when its keys go', () => {
    const one = pictureKeys.withoutKeysAt(pushIn('output'), at(10));
    expect(one.keys?.scale?.keys).toHaveLength(1);
    const none = pictureKeys.withoutKeysAt(one, at(70));
    expect(none).toEqual({ ...plainPicture, scale: 2 });
    expect(pictureKeys.withKeyed(pushIn('output'), [], 'output', at(40))).toEqual({ ...plainPicture, scale: 1.5 });
    const moved = pictureKeys.withKeysMoved(pushIn('output'), at(70), at(50));
    expect(pictureKeys.now(moved, at(50)).scale).toBe(2);
  });

  it('is seen so in the film, and no frame is taken for covered that is not', () => {
    const project = film('output');
    expect([0, 40, 70, 99].map((frame) => scaleAt(project, frame))).toEqual([1, 1.5, 2, 2]);
    const fades = setPicture(rowOf(50), ['c0'], {
      ...plainPicture,
      keys: {
        opacity: {
          by: 'output',
          keys: [
            { at: 0, value: 0 },
            { at: 20, value: 1 },
          ],
        },
      },
    });
    expect(framesOf(pictureAt(programOf(fades, SEQUENCE), 0))).toEqual([]);
    expect(framesOf(pictureAt(programOf(fades, SEQUENCE), 5))).toHaveLength(1);
  });
});

describe('keys of a picture under an edit of the timing', () => {
  const slow = (project: ProjectDocument): ProjectDocument => paceClip(project, 'c0', 200);
  const held = (project: ProjectDocument): ProjectDocument =>
    withTiming(project, 'c0', freeze(tracked(mapOf(project, clipOf(project, 'c0'))), 40, 20, 'content'));

  it.each(['source', 'output'] as const)('go with what was there, counted by %s', (by) => {
    const [twice, frozen] = [slow(film(by)), held(film(by))];
    expect([0, 80, 140].map((frame) => scaleAt(twice, frame))).toEqual(
      [1, 1.5, 2].map((value) => expect.closeTo(value, 9)),
    );
    // While the picture stands still, one stands still too and the other runs on.
    expect(scaleAt(frozen, 90)).toBe(2);
    expect(scaleAt(frozen, 59) > scaleAt(frozen, 41)).toBe(by === 'output');
  });

  it('stay with what is seen when the clip is split and trimmed', () => {
    const halves = splitClip(film('output'), 'c0', 40, 'c1');
    expect([39, 40, 70].map((frame) => scaleAt(halves, frame))).toEqual(
      [39, 40, 70].map((f) => scaleAt(film('output'), f)),
    );
    const trimmed = trimClip(film('output'), 'c0', 'start', 20, 'close');
    expect(scaleAt(trimmed, 20)).toBe(scaleAt(film('output'), 40));
  });

  it('keep their moments when the film or the source gets another rate', () => {
    const faster = withSequenceRate(film('output'), makeRate(60));
    expect([20, 80, 140].map((frame) => scaleAt(faster, frame))).toEqual(
      [1, 1.5, 2].map((value) => expect.closeTo(value, 9)),
    );
    const doubled = withFields(film('source'), 's0', { use: 'both', first: 'top' });
    expect([10, 40, 70].map((frame) => scaleAt(doubled, frame))).toEqual(
      [1, 1.5, 2].map((value) => expect.closeTo(value, 9)),
    );
  });

  it('of a group turned round run back with what it holds, or on evenly', () => {
    const grouped = group(rowOf(50, 50), ['c0', 'c1']);
    const clipId = 'c-g';
    for (const by of ['source', 'output'] as const) {
      const keyed = setPicture(grouped, [clipId], pushIn(by));
      const back = withTiming(
        keyed,
        clipId,
        reverseRange(tracked(mapOf(keyed, clipOf(keyed, clipId))), { from: 0, to: 100 }),
      );
      // Frame 29 shows what frame 70 did; keys that run evenly were turned round with it.
      expect(scaleAt(back, 29)).toBeCloseTo(2, 1);
      expect(scaleAt(back, 89)).toBeCloseTo(1, 1);
      expect(scaleAt(back, 59)).toBeCloseTo(1.5, 1);
    }
  });

  it('run evenly or with the content, as they are told', () => {
    const project = withTiming(rowOf(100), 'c0', {
      ...tracked(mapOf(rowOf(100), clipOf(rowOf(100), 'c0'))),
      spans: [constantSpan(2, 20), constantSpan(0.5, 120)],
    });
    const map = mapOf(project, clipOf(project, 'c0'));
    const with10 = pictureKeys.withKeyed(plainPicture, ['x'], 'source', momentAt(map, 0));
    const content = pictureKeys.withKeysEased(
      pictureKeys.atMoment(with10, { x: 1 }, momentAt(map, 140)),
      momentAt(map, 0),
      eases.linear,
    );
    // Four tenths of the content lie in the first seventh of the time.
    expect(pictureKeys.now(content, momentAt(map, 20)).x).toBeCloseTo(0.4, 9);
    const even = pictureKeys.recounted(content, 'output', map);
    expect(pictureKeys.now(even, momentAt(map, 20)).x).toBeCloseTo(1 / 7, 9);
    expect(pictureKeys.now(even, momentAt(map, 140)).x).toBeCloseTo(1, 9);
  });
});
