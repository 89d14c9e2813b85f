import type { ProjectDocument } from '@hastig/contract';
import {
  addEffectSource,
  bursts,
  compile,
  constantSpan,
  effectMoments,
  findSource,
  layEffect,
  mapOf,
  nearestTarget,
  placeOf,
  positionAt,
  alignWithTargets,
  rampSpan,
  secondsPosition,
  SEQUENCE,
  setMarkers,
  speedCourse,
  speedPeaks,
  targetsIn,
} from '..';
import { clipOf, newId, paced, rowOf, sound, soundFactsOf } from '../../test/projects';

const LOUDEST = 0.7531;

/** Two shots of 100 frames, the first with a ramp up to ×4 at its frame 60 and down again; and an effect, laid nowhere. */
function withEffect(): ProjectDocument {
  const shots = paced(
    rowOf(400, 100),
    'c0',
    constantSpan(0.5, 40),
    rampSpan(0.5, 4, 20),
    rampSpan(4, 0.5, 20),
    constantSpan(0.5, 20),
  );
  const file = { id: 'fx', name: 'Swing past.wav', sha256: 'a'.repeat(64), facts: soundFactsOf(48_000, 1.3) };
  return addEffectSource(shots, file, { rise: 0.1, loudest: LOUDEST }, newId);
}
const laying = (follow = false) => ({ follow, newId });
const laidOf = (project: ProjectDocument) =>
  project.clips.filter(({ of }) => of.id === 'fx').map((clip) => ({ clip, place: placeOf(project, clip.id)! }));

/** Source position of a clip at a frame of the timeline. */
function positionOn(project: ProjectDocument, id: string, frame: number): number {
  const clip = clipOf(project, id);
  const { from } = placeOf(project, id)!;
  return positionAt(compile(mapOf(project, clip)), frame - from + clip.shown.from);
}

describe('where a clip is fastest', () => {
  it('the top of each ramp, and where the ramp begins', () => {
    const project = withEffect();
    expect(speedPeaks(mapOf(project, clipOf(project, 'c0')), 0, 100)).toEqual([{ frame: 60, speed: 4, rampFrom: 40 }]);
  });

  it('the middle of a burst, each of several; nothing at an even speed', () => {
    const map = { ...mapOf(withEffect(), clipOf(withEffect(), 'c1')), spans: [constantSpan(1, 100)] };
    const burst = bursts({ ...map, sourceFrames: 1000 }, { from: 0, to: 100 }, [20, 60], {
      ...{
        base: 0.5,
        speeds: [8],
        frames: 5,
        ramp: 0,
        place: 'from',
        ease: [1 / 3, 1 / 3, 2 / 3, 2 / 3],
        keeps: 'length',
      },
    });
    expect(speedPeaks(burst, 0, 100).map(({ frame }) => frame)).toEqual([22, 62]);
    expect(speedPeaks(map, 0, 100)).toEqual([]);
    // A wave of a tenth is none.
    const wave = { ...map, spans: [rampSpan(1, 1.1, 50), rampSpan(1.1, 1, 50)] };
    expect(speedPeaks(wave, 0, 100)).toEqual([]);
  });

  it('backwards counts as forwards, and a clip that begins fast is fastest there', () => {
    const map = mapOf(withEffect(), clipOf(withEffect(), 'c1'));
    const backwards = { ...map, start: 90, spans: [rampSpan(-0.5, -3, 30), rampSpan(-3, -0.5, 30)] };
    expect(speedPeaks(backwards, 0, 60)[0]).toMatchObject({ frame: 30, speed: 3 });
    const falling = { ...map, spans: [rampSpan(4, 1, 40), constantSpan(1, 20)] };
    expect(speedPeaks(falling, 0, 60)).toEqual([{ frame: 0, speed: 4, rampFrom: 0 }]);
    // But not one that runs at an even speed before it slows down; that it is fast again to its end is one.
    const dip = {
      ...map,
      spans: [constantSpan(1, 20), rampSpan(1, 0.25, 10), rampSpan(0.25, 1, 10), constantSpan(1, 20)],
    };
    expect(speedPeaks(dip, 0, 60)).toEqual([{ frame: 40, speed: 1, rampFrom: 30 }]);
  });

  it('its course is kept near the fastest frame of a long clip, for a sound is made of it', () => {
    const map = mapOf(withEffect(), clipOf(withEffect(), 'c1'));
    const long = {
      ...map,
      spans: [constantSpan(1, 30_000), rampSpan(1, 5, 60), rampSpan(5, 1, 60), constantSpan(1, 9000)],
    };
    const course = speedCourse({ ...long, sourceFrames: 100_000 }, 0, 39_120)!;
    expect(course.speeds).toHaveLength(60 * 30);
    expect(course.begin + course.fastest).toBe(30_060);
    expect(course.speeds[course.fastest]).toBe(5);
    expect(speedCourse({ ...map, spans: [constantSpan(2, 50)] }, 0, 50)).toBeUndefined();
  });

  it('on the timeline at the frames its clips lie on; cuts and markers too', () => {
    const project = setMarkers(withEffect(), SEQUENCE, [{ id: 'm', at: 77, name: '', tone: 'oak' }]);
    expect(targetsIn(project, SEQUENCE, 'peaks')).toEqual([{ frame: 60, rampFrom: 40 }]);
    expect(targetsIn(project, SEQUENCE, 'cuts')).toEqual([{ frame: 100 }]);
    expect(targetsIn(project, SEQUENCE, 'markers')).toEqual([{ frame: 77 }]);
    expect(nearestTarget(targetsIn(project, SEQUENCE, 'cuts'), 140)).toEqual({ frame: 100 });
    expect(nearestTarget([], 140)).toBeUndefined();
  });
});

describe('an effect', () => {
  const project = withEffect();

  it('is a source with two markers, and no clip of it is laid', () => {
    sound(project);
    const moments = effectMoments(findSource(project, 'fx')!)!;
    expect(moments.rise).toBeCloseTo(0.1, 9);
    expect(moments.loudest).toBeCloseTo(LOUDEST, 9);
    expect(laidOf(project)).toEqual([]);
    expect(project.defaults.arrivals).toBe(rowOf(1).defaults.arrivals);
  });

  it('lies so that its loudest moment is exactly on a frame, between its own frames or not', () => {
    const laid = layEffect(project, SEQUENCE, 'fx', [{ frame: 60 }], laying());
    sound(laid);
    const [{ clip, place }] = laidOf(laid) as [ReturnType<typeof laidOf>[number]];
    expect(place.track.kind).toBe('sound');
    expect(positionOn(laid, clip.id, 60)).toBeCloseTo(LOUDEST * 48_000, 6);
    // It begins within the silence that leads to it, by less than a frame.
    expect(clip.timing.start).toBeGreaterThanOrEqual(0);
    expect(clip.timing.start).toBeLessThan(48_000 / 30);
    expect(place.from).toBe(60 - Math.floor(LOUDEST * 30));
  });

  it('on every target at once, on another track where two would lie over each other', () => {
    const laid = layEffect(project, SEQUENCE, 'fx', [{ frame: 60 }, { frame: 70 }, { frame: 180 }], laying());
    sound(laid);
    const all = laidOf(laid);
    expect(all.map(({ clip }, i) => positionOn(laid, clip.id, [60, 70, 180][i]!))).toEqual(
      all.map(() => expect.closeTo(LOUDEST * 48_000, 6) as number),
    );
    expect(new Set(all.map(({ place }) => place.track.id)).size).toBe(2);
  });

  it('near the start what would begin before it is cut off', () => {
    const laid = layEffect(project, SEQUENCE, 'fx', [{ frame: 5 }], laying());
    sound(laid);
    const [{ clip, place }] = laidOf(laid) as [ReturnType<typeof laidOf>[number]];
    expect(place.from).toBe(0);
    expect(clip.shown.from).toBe(17);
    expect(positionOn(laid, clip.id, 5)).toBeCloseTo(LOUDEST * 48_000, 6);
  });

  it('follows a ramp: its rise lasts as long, its loudest moment is the fastest frame, its pitch is kept', () => {
    const [target] = targetsIn(project, SEQUENCE, 'peaks');
    const laid = layEffect(project, SEQUENCE, 'fx', [target!], laying(true));
    sound(laid);
    const [{ clip, place }] = laidOf(laid) as [ReturnType<typeof laidOf>[number]];
    expect(place.from).toBe(40);
    expect(positionOn(laid, clip.id, 40)).toBeCloseTo(0.1 * 48_000, 6);
    expect(positionOn(laid, clip.id, 60)).toBeCloseTo(LOUDEST * 48_000, 6);
    expect(positionOn(laid, clip.id, 66)).toBeCloseTo((LOUDEST + 6 / 30) * 48_000, 6);
    expect(clip.sound?.pitch).toBe('kept');
  });

  it('that lies there is moved, copies go to further targets, and what is not on a sound track is refused', () => {
    const laid = layEffect(project, SEQUENCE, 'fx', [{ frame: 120 }], laying());
    const [{ clip }] = laidOf(laid) as [ReturnType<typeof laidOf>[number]];
    const moved = alignWithTargets(laid, clip.id, [{ frame: 100 }, { frame: 150 }], laying());
    sound(moved);
    expect(laidOf(moved)).toHaveLength(2);
    expect(positionOn(moved, clip.id, 100)).toBeCloseTo(LOUDEST * 48_000, 6);
    expect(() => alignWithTargets(project, 'c0', [{ frame: 3 }], laying())).toThrow('sound track');
    expect(() => alignWithTargets(laid, clip.id, [], laying())).toThrow('nothing to align it with');
  });

  it('any sound with a marker is one; without it says what is missing', () => {
    const plain = { ...project, sources: project.sources.map((one) => ({ ...one, markers: [] })) };
    expect(() => layEffect(plain, SEQUENCE, 'fx', [{ frame: 60 }], laying())).toThrow('marker named Loudest');
    const marked = {
      ...project,
      sources: project.sources.map((one) =>
        one.id === 'fx'
          ? { ...one, markers: [{ id: 'x', at: secondsPosition(one, 0.5), name: 'crash', tone: 'oak' as const }] }
          : one,
      ),
    };
    expect(effectMoments(findSource(marked, 'fx')!)).toEqual({ rise: 0, loudest: 0.5 });
  });
});
