import type { ProjectDocument } from '@hastig/contract';
import { clipOf, factsOf, row, soundFactsOf, sound as whole, stillFactsOf } from '../../test/projects';
import {
  addSource,
  appendClip,
  clipProgram,
  constantSpan,
  EditRefused,
  fileCountOf,
  fileDifferences,
  footageKind,
  handlesOf,
  integrityErrors,
  kindOf,
  lookAt,
  makeRate,
  mapLength,
  mapOf,
  mapProgram,
  moveClips,
  newProject,
  paceClip,
  picturePlan,
  programOf,
  reachOf,
  replaceFile,
  replaceFootage,
  reverseRange,
  sameMoment,
  samplesPerPosition,
  SEQUENCE,
  setSpeed,
  slipClip,
  soundRuns,
  sourceFrames,
  sourceRate,
  speedClip,
  splitClip,
  tracked,
  trimClip,
  wholeClip,
  withReadAs,
  withSourcePart,
  withTiming,
} from '..';

const add = (project: ProjectDocument, name: string, facts: ReturnType<typeof soundFactsOf>): ProjectDocument =>
  addSource(project, { id: name, name: `${name}.x`, sha256: '2'.repeat(64), facts }, `c-${name}`);

const SONG = soundFactsOf(48_000, 10);
const film = (): ProjectDocument =>
  add(
    add(add(newProject('Film', makeRate(24)), 'song', SONG), 'shot', factsOf(makeRate(25), 100)),
    'card',
    stillFactsOf(),
  );

describe('what a source’s positions count', () => {
  it('is frames of a picture, samples of sound alone, pictures of stills', () => {
    expect(fileCountOf({ facts: SONG })).toEqual({ rate: makeRate(48_000), frames: 480_000, by: 'frame' });
    expect(fileCountOf({ facts: stillFactsOf(30) })).toEqual({ rate: makeRate(24), frames: 30, by: 'frame' });
    expect([SONG, stillFactsOf(), stillFactsOf(30), factsOf(makeRate(25), 9)].map(kindOf)).toEqual([
      'sound',
      'still',
      'stills',
      'video',
    ]);
    const two = film().sources.map((source) => samplesPerPosition(source));
    expect(two).toEqual([1, 0, 0]);
    // More than a day at the highest rate.
    expect(sourceFrames({ ...film().sources[0]!, facts: soundFactsOf(96_000, 100_000) })).toBe(9_600_000_000);
  });

  it('follows the rate that stills are read at', () => {
    const project = add(newProject('Clouds'), 'sky', stillFactsOf(120));
    expect(sourceRate(withReadAs(project, 'sky', makeRate(12)).sources[0]!)).toEqual(makeRate(12));
    expect(clipOf(withReadAs(project, 'sky', makeRate(12)), 'c-sky').shown.frames).toBe(240);
  });
});

describe('what comes in', () => {
  it('is laid on a track of its kind; the first picture decides the size, the first moving one the rate', () => {
    const project = film();
    whole(project);
    expect(project.sequence.tracks.map(({ kind }) => kind)).toEqual(['picture', 'sound']);
    expect([row(project, 0), row(project, 1)]).toEqual(['c-shot/100 c-card/125', 'c-song/250']);
    expect(project.sequence).toMatchObject({ rate: makeRate(25), width: 64, height: 36 });
    const first = add(
      add(newProject('Cards', makeRate(30)), 'card', stillFactsOf()),
      'shot',
      factsOf(makeRate(24), 48),
    );
    expect(first.sequence).toMatchObject({ rate: makeRate(24), width: 120, height: 90 });
    expect(row(first)).toBe('c-card/120 c-shot/48');
  });

  it('finds a track where the first one was taken away', () => {
    const project = film();
    const bare = {
      ...project,
      sequence: { ...project.sequence, tracks: [project.sequence.tracks[1]!] },
      clips: [clipOf(project, 'c-song')],
    };
    whole(bare);
    const laid = appendClip(bare, SEQUENCE, wholeClip(bare, 'new', bare.sources[1]!));
    expect(laid.sequence.tracks.map(({ kind }) => kind)).toEqual(['picture', 'sound']);
  });

  it('does not come to lie where it is neither seen nor heard', () => {
    const project = film();
    const [picture, sound] = project.sequence.tracks.map(({ id }) => id) as [string, string];
    expect(() => moveClips(project, ['c-song'], picture, 0, 'leave')).toThrow(EditRefused);
    expect(() => moveClips(project, ['c-card'], sound, 0, 'leave')).toThrow(EditRefused);
    expect(() => replaceFootage(project, 'c-shot', 'song')).toThrow('Sound goes on a sound track.');
    expect(() => replaceFootage(project, 'c-song', 'card')).toThrow('A still has no sound');
    expect(() => replaceFootage(project, 'c-song', 'shot')).toThrow('This source has no sound.');
    const wrong = { ...project.sequence, tracks: [{ ...project.sequence.tracks[0]!, items: [{ clip: 'c-song' }] }] };
    expect(integrityErrors({ ...project, sequence: wrong, clips: [clipOf(project, 'c-song')] })[0]?.reason).toContain(
      'picture track',
    );
  });
});

describe('sound alone', () => {
  it('is heard and not seen, alone or among others', () => {
    const project = film();
    const song = clipOf(project, 'c-song');
    expect(soundRuns(programOf(project, SEQUENCE)).map(({ sourceId }) => sourceId)).toContain('song');
    const alone = clipProgram(project, song);
    expect(alone.tracks[0]!.kind).toBe('sound');
    expect(picturePlan(alone).at(3)).toEqual([]);
    // Also where somebody laid it on a picture track by other means.
    expect(picturePlan({ ...mapProgram(mapOf(project, song), 'song'), sizes: { song: null } }).at(3)).toEqual([]);
  });

  it('is retimed, cut and slipped by the same model, to the sample', () => {
    const project = film();
    const map = mapOf(project, clipOf(project, 'c-song'));
    expect([map.sourceRate, mapLength(map)]).toEqual([makeRate(48_000), expect.closeTo(250, 9)]);
    const slow = setSpeed(tracked(map), { from: 25, to: 50 }, 0.5, 'content');
    const paced = withTiming(project, 'c-song', reverseRange(slow, { from: 100, to: 150 }));
    expect(clipOf(paced, 'c-song').shown.frames).toBe(275);
    const run = soundRuns(programOf(paced, SEQUENCE)).find(({ sourceId }) => sourceId === 'song')!;
    // Two seconds of output: one at real time, one at half.
    expect(run.frameAt(2)).toBeCloseTo(72_000, 6);
    const cut = trimClip(splitClip(paced, 'c-song', 40, 'second'), 'second', 'start', 10, 'close');
    whole(cut);
    expect(slipClip(cut, 'c-song', 0, 'content').clips[0]!.timing.start).toBe(0);
    expect(speedClip(cut, 'second', 2).clips.find(({ id }) => id === 'second')!.shown.frames).toBeGreaterThan(50);
  });

  it('is looked at in frames of the film, its part counted in samples', () => {
    const project = film();
    const song = project.sources[0]!;
    expect(lookAt(project, song)).toEqual({ rate: makeRate(25), positions: 1920 });
    expect(lookAt(project, project.sources[1]!)).toEqual({ rate: makeRate(25), positions: 1 });
    const part = withSourcePart(project, 'song', { from: 48_000, frames: 96_000 });
    expect(wholeClip(part, 'n', part.sources[0]!).shown).toEqual({ from: 25, frames: 50 });
    expect(sameMoment(project, { clip: 'c-song' }, { source: 'song' }, 75)).toBe(75);
    expect(sameMoment(project, { source: 'song' }, { clip: 'c-song' }, 75)).toBe(75);
  });
});

describe('a still', () => {
  it('is held as long as one likes, at either edge', () => {
    const project = film();
    expect(footageKind(project, clipOf(project, 'c-card'))).toBe('still');
    expect([handlesOf(project, 'c-card'), reachOf(project, 'c-card')]).toEqual([
      { head: 0, tail: 0 },
      { head: Infinity, tail: Infinity },
    ]);
    const longer = trimClip(trimClip(project, 'c-card', 'end', 400, 'close'), 'c-card', 'start', -75, 'close');
    expect(row(longer)).toBe('c-shot/100 c-card/600');
    expect(clipOf(longer, 'c-card').timing.spans).toEqual([constantSpan(0, 600)]);
    const back = trimClip(longer, 'c-card', 'start', 75, 'close');
    expect(clipOf(back, 'c-card').shown).toEqual({ from: 75, frames: 525 });
    expect(() => trimClip(project, 'c-card', 'end', 1e9, 'close')).toThrow(EditRefused);
    expect(clipOf(paceClip(project, 'c-card', 40), 'c-card').shown.frames).toBe(40);
  });

  it('has neither speed nor anything to slip', () => {
    expect(() => speedClip(film(), 'c-card', 2)).toThrow('Set its duration');
    expect(() => slipClip(film(), 'c-card', 1, 'content')).toThrow('never changes');
  });

  it('takes the place of a moving picture and gives it back', () => {
    const held = replaceFootage(film(), 'c-shot', 'card');
    expect(row(held)).toBe('c-shot/100 c-card/125');
    expect(clipOf(held, 'c-shot').timing.spans).toEqual([constantSpan(0, 100)]);
    const moving = replaceFootage(film(), 'c-card', 'shot');
    expect(row(moving)).toBe('c-shot/100 c-card/100');
    expect(clipOf(moving, 'c-card').timing.spans).toEqual([constantSpan(1, 100)]);
    whole(moving);
  });
});

it('a file stands in only for one of its kind', () => {
  const project = film();
  const file = (facts: ReturnType<typeof soundFactsOf>) => ({ sha256: '3'.repeat(64), facts });
  expect(() => replaceFile(project, 'song', file(stillFactsOf()))).toThrow(
    '“song.x” is sound alone; the new file is a still.',
  );
  expect(replaceFile(project, 'song', file(soundFactsOf(44_100, 9))).sources[0]!.facts.audio?.sampleRate).toBe(44_100);
  expect(replaceFile(project, 'shot', file(stillFactsOf(50))).sources[1]!.facts.still?.pictures).toBe(50);
  expect(fileDifferences(SONG, soundFactsOf(44_100, 9))).toEqual([
    'rate was 48000 Hz, is 44100 Hz',
    'length was 480000 samples, is 396900 samples',
  ]);
  expect(fileDifferences(factsOf(makeRate(25), 100), stillFactsOf(50))).toContain('size was 64 × 36, is 120 × 90');
});
