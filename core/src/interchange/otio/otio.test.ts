import type { Effect, ProjectDocument } from '@hastig/contract';
import {
  addTrack,
  detachSound,
  groupClips,
  plainSound,
  setSound,
  insertClip,
  integrityErrors,
  linearPieces,
  makeRate,
  mapOf,
  moveClips,
  OtioUnreadable,
  positionAt,
  programFrames,
  plainPicture,
  programOf,
  ramp,
  eases,
  readOtio,
  reverseRange,
  SEQUENCE,
  setMarkers,
  shownSpeed,
  trimClip,
  wholeClip,
  withSequenceRate,
  withTiming,
  writeOtio,
  addFlashes,
  effectList,
  exposureList,
} from '../..';
import { constantSpan } from '../../retime';
import { atSpeed, clipOf, paced, row, rowOf, seen, withSound } from '../../../test/projects';

let made = 0;
const newId = (): string => `n${made++}`;
const address = (sha256: string): string => `media/${sha256}`;
const all = (project: ProjectDocument): string[] =>
  seen(project, ...Array.from({ length: programFrames(programOf(project, SEQUENCE)) }, (_, n) => n));
// Sources apart by their digests, as real ones are.
const apart = (project: ProjectDocument): ProjectDocument => ({
  ...project,
  sources: project.sources.map((source, index) => ({ ...source, sha256: String(index).repeat(64) })),
});

/** Gaps, ramps, a freeze, a reversed group, an upper track, sound, markers. */
function film(): ProjectDocument {
  let project = apart(rowOf(90, 120, 60));
  const map = mapOf(project, clipOf(project, 'c0'));
  project = withTiming(
    project,
    'c0',
    ramp(map, { at: 30, frames: 20, to: 0.3, ease: eases['ease-in-out'], keeps: 'content' }),
  );
  project = paced(project, 'c1', constantSpan(1, 40), constantSpan(0, 12), constantSpan(-2, 15), constantSpan(3, 20));
  project = trimClip(project, 'c1', 'start', 10, 'leave');
  project = groupClips(project, ['c2'], { groupId: 'g', clipId: 'c-g', name: 'Group' });
  project = withTiming(project, 'c-g', reverseRange(mapOf(project, clipOf(project, 'c-g')), { from: 0, to: 60 }));
  project = addTrack(addTrack(project, SEQUENCE, 'picture', 'up'), SEQUENCE, 'sound', 'ear');
  project = insertClip(project, SEQUENCE, 'ear', 12, {
    ...wholeClip(project, 'heard', project.sources[0]!),
    muted: true,
    picture: { ...plainPicture, scale: 0.4, x: 0.3 },
  });
  project = moveClips(project, ['c-g'], 'up', 40, 'leave');
  return setMarkers(project, SEQUENCE, [{ id: 'm', at: 33, name: 'Hit', tone: 'plum' }]);
}

/** What of a clip does not go by names that reading makes anew. */
const settingsOf = (project: ProjectDocument): unknown[] =>
  project.sequence.tracks.flatMap(({ items }) =>
    items.flatMap((item) => {
      if ('gap' in item) return [];
      const { id: _id, of: _of, soundFrom, ...settings } = clipOf(project, item.clip);
      return [{ ...settings, soundFrom: soundFrom && clipOf(project, soundFrom).name }];
    }),
  );

it('keeps all that travels with a clip, a track and the mix, and a detached sound its picture', () => {
  let project = withSound(film());
  project = setSound(project, ['c0'], () => ({
    ...{ ...plainSound, pitch: 'kept', gain: -7, pan: 0.25, focus: 'speech' },
    fadeIn: { frames: 10, shape: 'smooth', lead: 4 },
    parts: [{ from: 4, to: 20, pitch: 'follows', cents: 300, formants: 'shifted', focus: 'music' }],
    keys: {
      gain: {
        by: 'output',
        keys: [
          { at: 0, value: -6 },
          { at: 30, value: 2 },
        ],
      },
    },
  }));
  project = exposureList.set(project, { clips: ['c1'] }, () => [
    { id: 'a', slow: 'compensated', over: { by: 'source', from: 4, to: 30 } },
    { id: 'b', shutter: 180, samples: 8, only: { than: 'faster', speed: 2 }, off: true },
  ]);
  project = exposureList.set(project, 'film', () => [
    { id: 'f', shutter: 90, over: { by: 'output', from: 3, to: 50 } },
  ]);
  const trail: Effect = {
    ...{ id: 't', kind: 'trail', apart: 1, by: 'frames', copies: 5, decay: 0.8, combine: 'lightest' },
  };
  project = effectList.put(project, { clips: ['c1'] }, trail);
  project = addFlashes(
    project,
    'film',
    [10],
    { way: 'dip', strength: 1, colour: '#ffffff', curve: 'smooth' },
    { length: 8, before: 3 },
    () => 'flash',
  );
  project = detachSound(project, 'c1', 'copied', { clip: 'loose', track: 'loose-track' });
  const [first, second] = project.sequence.tracks;
  const duck = { under: second!.id, threshold: -30, amount: 12, attack: 0.1, release: 0.5 };
  const tracks = project.sequence.tracks.map((track) =>
    track === first ? { ...track, sound: { gain: -3, pan: 0.1, solo: true, duck } } : track,
  );
  project = { ...project, sequence: { ...project.sequence, tracks, master: { gain: -1, limit: -2 } } };
  const { json } = writeOtio(project, address);
  const { project: read, notes } = readOtio(JSON.parse(JSON.stringify(json)), project, newId);
  expect(notes).toEqual([]);
  expect(settingsOf(read)).toEqual(settingsOf(project));
  expect(read.sequence.exposures).toEqual(project.sequence.exposures);
  expect(read.sequence.effects).toEqual(project.sequence.effects);
  expect(read.sequence.master).toEqual({ gain: -1, limit: -2 });
  expect(read.sequence.tracks[0]!.sound).toEqual({
    ...{ gain: -3, pan: 0.1, solo: true },
    duck: { ...duck, under: read.sequence.tracks[1]!.id },
  });
  expect(integrityErrors(read)).toEqual([]);
  // What is muted is seen all the same, in whatever program.
  const children = (json.tracks as { children: { children: { enabled: boolean; name: string }[] }[] }).children;
  expect(children[0]!.children.every(({ enabled }) => enabled)).toBe(true);
});

it('says which clips lost settings that it cannot read', () => {
  const { json } = writeOtio(film(), address);
  const text = JSON.stringify(json).replaceAll('"length":"ripple"', '"length":"ripple","shimmer":3');
  const { project, notes } = readOtio(JSON.parse(text), film(), newId);
  expect(notes[0]).toContain('left out: they come from another version');
  expect(all(project)).toEqual(all(film()));
});

describe('OpenTimelineIO', () => {
  it('comes back as it was: every frame, curve, mode, group, track and marker', () => {
    const project = film();
    const { json, greatestError, curves } = writeOtio(project, address);
    expect(curves).toBeGreaterThan(0);
    expect(greatestError).toBeGreaterThan(0);
    expect(greatestError).toBeLessThanOrEqual(0.5);
    const { project: back, notes } = readOtio(JSON.parse(JSON.stringify(json)), project, newId);
    expect(notes).toEqual([]);
    expect(integrityErrors(back)).toEqual([]);
    expect(all(back)).toEqual(all(project));
    const spans = (one: ProjectDocument) => one.clips.map(({ timing }) => timing.spans.length).sort();
    expect(spans(back)).toEqual(spans(project));
    expect(back.sequence.markers).toMatchObject([{ at: 33, name: 'Hit', tone: 'plum' }]);
    expect(back.sequence.tracks.map(({ kind }) => kind)).toEqual(['picture', 'picture', 'sound']);
    expect(back.clips.filter(({ muted }) => muted)).toHaveLength(1);
    expect(back.clips.flatMap(({ picture }) => picture ?? [])).toEqual([{ ...plainPicture, scale: 0.4, x: 0.3 }]);
  });

  it('has in its standard part the very lengths, and every frame within the error it tells', () => {
    const project = film();
    const { json, greatestError } = writeOtio(project, address);
    // As a program sees it that knows nothing of our key.
    const foreign = JSON.parse(JSON.stringify(json), (key, value: unknown) => (key === 'metadata' ? {} : value));
    const named = { ...project, sources: project.sources };
    const { project: back } = readOtio(foreign, named, newId);
    const [before, after] = [all(project), all(back)];
    expect(after.length).toBe(before.length);
    before.forEach((was, n) => {
      const [source, frame] = was.split(':');
      const [now, at] = after[n]!.split(':');
      expect(now).toBe(source);
      if (frame !== undefined) expect(Math.abs(Number(at) - Number(frame))).toBeLessThanOrEqual(1 + greatestError);
    });
  });

  it('uses the schemas that the standard names (from memory of its published schema documents)', () => {
    const { json } = writeOtio(film(), address);
    const found = new Set<string>();
    JSON.stringify(json, (key, value: unknown) => {
      if (key === 'OTIO_SCHEMA') found.add(value as string);
      return value;
    });
    expect([...found].sort()).toEqual(
      [
        ...['Clip.2', 'ExternalReference.1', 'FreezeFrame.1', 'Gap.1', 'LinearTimeWarp.1', 'Marker.2'],
        ...['RationalTime.1', 'Stack.1', 'TimeRange.1', 'Timeline.1', 'Track.1'],
      ].sort(),
    );
  });

  it('keeps an exact rate, and takes another program’s from its durations', () => {
    const project = withSequenceRate(film(), makeRate(30000, 1001));
    const { json } = writeOtio(project, address);
    expect(readOtio(json, project, newId).project.sequence.rate).toEqual({ num: 30000, den: 1001 });
    const plain = { ...json, metadata: {} };
    expect(readOtio(plain, project, newId).project.sequence.rate).toEqual({ num: 30000, den: 1001 });
  });

  it('is read from other programs: Clip.1, media with a timecode, a warp, a transition left out', () => {
    const project = rowOf(100);
    const rational = (value: number, rate = 30) => ({ OTIO_SCHEMA: 'RationalTime.1', value, rate });
    const timeRange = (start: number, duration: number) => ({
      OTIO_SCHEMA: 'TimeRange.1',
      start_time: rational(start),
      duration: rational(duration),
    });
    const media_reference = {
      OTIO_SCHEMA: 'ExternalReference.1',
      target_url: 'file:///cards/a/shot%200.mp4',
      available_range: timeRange(108_000, 100),
    };
    const warp = { OTIO_SCHEMA: 'LinearTimeWarp.1', effect_name: 'LinearTimeWarp', time_scalar: 2 };
    const children = [
      { OTIO_SCHEMA: 'Clip.1', name: 'a', media_reference, source_range: timeRange(108_020, 20), effects: [warp] },
      { OTIO_SCHEMA: 'Transition.1', name: 'x' },
      { OTIO_SCHEMA: 'Gap.1', source_range: timeRange(0, 10) },
      {
        OTIO_SCHEMA: 'Clip.1',
        name: 'b',
        media_reference: { ...media_reference, target_url: 'gone.mov' },
        source_range: timeRange(0, 5),
      },
    ];
    const track = { OTIO_SCHEMA: 'Track.1', kind: 'Video', name: 'V1', children };
    const timeline = { OTIO_SCHEMA: 'Timeline.1', tracks: { OTIO_SCHEMA: 'Stack.1', children: [track] } };
    const { project: read, notes } = readOtio(timeline, project, newId);
    expect(notes).toEqual(['A transition was left out.', 'gone.mov isn’t in the footage.']);
    expect(seen(read, 0, 19)).toEqual(['s0:20', 's0:58']);
    expect(shownSpeed(read, read.clips[0]!.id)).toBeCloseTo(2, 9);
    expect(read.clips[0]!.shown).toEqual({ from: 10, frames: 20 });
    expect(integrityErrors(read)).toEqual([]);
  });

  it.each([
    [{}, 'isn’t an OpenTimelineIO'],
    [null, 'isn’t an OpenTimelineIO'],
    [{ OTIO_SCHEMA: 'Timeline.1' }, 'no tracks'],
    [{ OTIO_SCHEMA: 'Timeline.1', tracks: { OTIO_SCHEMA: 'Stack.1', children: [] } }, 'no clip'],
  ])('refuses what is none: %#', (json, reason) => {
    const read = () => readOtio(json, rowOf(10), newId);
    expect(read).toThrow(OtioUnreadable);
    expect(read).toThrow(reason);
  });
});

describe('linear pieces', () => {
  it('are one for a constant speed, and follow a curve within half a frame', () => {
    const project = atSpeed(rowOf(90), 'c0', 0.5);
    expect(linearPieces(mapOf(project, clipOf(project, 'c0')), { from: 10, frames: 50 })).toEqual({
      pieces: [{ from: 10, frames: 50, source: 5, speed: 0.5 }],
      greatestError: 0,
    });
    const curve = film();
    const map = mapOf(curve, clipOf(curve, 'c0'));
    const { pieces } = linearPieces(map, clipOf(curve, 'c0').shown);
    expect(pieces.length).toBeGreaterThan(2);
    for (const { from, frames, source, speed } of pieces) {
      for (let n = 0; n < frames; n++)
        expect(Math.abs(source + n * speed - positionAt(map, from + n))).toBeLessThanOrEqual(0.5);
    }
    expect(row(curve)).toContain('c0/');
  });
});
