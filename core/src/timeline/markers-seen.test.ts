import type { Marker, ProjectDocument } from '@hastig/contract';
import { clipOf, group, row, rowOf, soundFactsOf } from '../../test/projects';
import {
  addSource,
  clipBetween,
  contentMarkers,
  cutToMarks,
  EditRefused,
  landPairs,
  mapOf,
  markersBeside,
  markersOver,
  moveClips,
  nudgeMarkers,
  pinsOf,
  pinsWithMarkers,
  positionAt,
  SEQUENCE,
  setMarkers,
  setsOf,
  setSpeed,
  timesOfMarkers,
  withSourceMarkers,
  withTiming,
} from '..';

const beat = (id: string, at: number, set?: string): Marker => ({
  id,
  at,
  name: '',
  tone: 'oak',
  kind: 'beat',
  ...(set && { set }),
});

/** Two shots of 60 frames and beneath them music with a beat every half second; 30 frames a second. */
function film(): ProjectDocument {
  const music = addSource(
    rowOf(60, 60),
    { id: 'song', name: 'song.wav', sha256: '1'.repeat(64), facts: soundFactsOf(48_000, 4) },
    'music',
  );
  const beats = Array.from({ length: 8 }, (_, i) => beat(`b${i}`, 12_000 + i * 24_000));
  return withSourceMarkers(music, 'song', beats);
}

const over = (project: ProjectDocument): number[] => timesOfMarkers(markersOver(project, SEQUENCE));

it('beats of music lie on the timeline where they are heard, and go along with the clip and its speed', () => {
  const project = film();
  expect(over(project)).toEqual([7.5, 22.5, 37.5, 52.5, 67.5, 82.5, 97.5, 112.5]);
  const track = project.sequence.tracks.find(({ kind }) => kind === 'sound')!;
  const later = moveClips(project, ['music'], track.id, 10, 'leave');
  expect(over(later)[0]).toBe(17.5);
  const twice = withTiming(
    project,
    'music',
    setSpeed(mapOf(project, clipOf(project, 'music')), { from: 0, to: 120 }, 2, 'content'),
  );
  expect(over(twice)[1]).toBeCloseTo(11.25, 9);
});

it('beside a clip they are counted in its own output, and only while it is shown', () => {
  expect(timesOfMarkers(markersBeside(film(), 'c1'))).toEqual([7.5, 22.5, 37.5, 52.5]);
  expect(contentMarkers(film(), clipOf(film(), 'c1'))).toEqual([]);
  expect(markersBeside(film(), 'nothing')).toEqual([]);
});

it('those of a group’s inside show through it, also at another speed', () => {
  const grouped = group(film(), ['c0', 'c1', 'music']);
  expect(over(grouped)).toEqual(over(film()));
  expect(markersOver(grouped, SEQUENCE)[0]).toMatchObject({ sourceId: 'song', clipId: 'c-g' });
});

it('belong to sets, of which one is looked at', () => {
  const project = setMarkers(film(), SEQUENCE, [{ ...beat('own', 3, 'Hits'), kind: 'hit' }]);
  const seen = markersOver(project, SEQUENCE);
  expect(setsOf(seen)).toEqual(['', 'Hits']);
  expect(timesOfMarkers(seen, 'Hits')).toEqual([3]);
  expect(timesOfMarkers(seen)).toHaveLength(9);
});

describe('a rough cut to the beat', () => {
  it('makes each clip last so many beats, one after the other', () => {
    const cut = cutToMarks(film(), ['c0', 'c1'], { marks: over(film()), every: 2 });
    expect(row(cut)).toBe('(8) c0/30 c1/30');
  });

  it('says what is missing', () => {
    const marks = over(film());
    expect(() => cutToMarks(film(), ['c0', 'c1'], { marks, every: 4 })).toThrow('9 markers are needed');
    expect(() => cutToMarks(film(), ['c0'], { marks: [0, 90], every: 1 })).toThrow('has 60 frames');
    expect(() => cutToMarks(film(), ['c0', 'music'], { marks, every: 1 })).toThrow('different tracks');
  });

  it('one clip is put between two of them, a chosen frame under the first', () => {
    const cut = clipBetween(film(), 'c1', 20, { from: 67.5, to: 82.5 });
    expect(clipOf(cut, 'c1').shown).toEqual({ from: 20, frames: 15 });
    expect(row(cut)).toBe('c0/60 (8) c1/15');
    expect(() => clipBetween(film(), 'c1', 50, { from: 67.5, to: 82.5 })).toThrow(EditRefused);
    expect(() => clipBetween(film(), 'c1', 0, { from: 10, to: 10 })).toThrow('after the first');
  });
});

describe('pins on markers', () => {
  const pinned = (): ProjectDocument => {
    // What is pinned is marked in the clip itself too.
    const project = withSourceMarkers(film(), 's0', [beat('own', 20), beat('own2', 40)]);
    const map = mapOf(project, clipOf(project, 'c0'));
    return withTiming(
      project,
      'c0',
      landPairs(map, [
        { output: 22.5, source: 20 },
        { output: 37.5, source: 40 },
      ]),
    );
  };
  const pinTimes = (project: ProjectDocument) =>
    pinsOf(mapOf(project, clipOf(project, 'c0'))).map(({ output }) => Math.round(output * 1e9) / 1e9);

  it('go along when beats are nudged, and when the music is moved; what they pin stays on them', () => {
    const before = pinned();
    const nudged = pinsWithMarkers(before, nudgeMarkers(before, 'song', undefined, 0.1));
    expect(pinTimes(nudged.project)).toEqual([25.5, 40.5]);
    const map = mapOf(nudged.project, clipOf(nudged.project, 'c0'));
    expect(positionAt(map, 25.5)).toBeCloseTo(20, 9);
    expect(positionAt(map, 40.5)).toBeCloseTo(40, 9);
    expect(nudged.stayed).toEqual([]);
    const track = before.sequence.tracks.find(({ kind }) => kind === 'sound')!;
    const moved = pinsWithMarkers(before, moveClips(before, ['music'], track.id, 3, 'leave'));
    expect(pinTimes(moved.project)).toEqual([25.5, 40.5]);
  });

  it('stay where they cannot go, and that is told', () => {
    const before = pinned();
    const far = pinsWithMarkers(before, nudgeMarkers(before, 'song', undefined, 1));
    expect(pinTimes(far.project)).toEqual([22.5, 37.5]);
    expect(far.stayed).toEqual(['shot 0']);
  });

  it('stay when their own clip moves', () => {
    const before = pinned();
    const moved = moveClips(before, ['c0'], before.sequence.tracks[0]!.id, 120, 'close');
    expect(pinsWithMarkers(before, moved).project).toBe(moved);
  });
});
