import type { ProjectDocument } from '@hastig/contract';
import {
  addSource,
  attachSound,
  clearPitch,
  compile,
  constantSpan,
  detachedSound,
  detachSound,
  EditRefused,
  findClip,
  integrityErrors,
  mapOf,
  movedSound,
  placeOf,
  plainSound,
  positionAt,
  programOf,
  rampSpan,
  replaceSound,
  SEQUENCE,
  setMaster,
  setPitch,
  setSound,
  setTrackSound,
  slipSound,
  soundKeys,
  soundRuns,
  soundValueAt,
  splitClip,
  withTiming,
} from '..';
import { paced, rowOf, soundFactsOf, withSound } from '../../test/projects';

const ids = { clip: 'own', track: 'new-track' };
const kept = { pitch: 'kept', cents: 0, formants: 'shifted', focus: 'music' } as const;
const soundAt = (project: ProjectDocument, id = 'c1') => findClip(project, id)!.sound;

describe('other sound in the place of a clip’s', () => {
  const recorded = addSource(
    { ...withSound(rowOf(300)), defaults: { ...rowOf(1).defaults, arrivals: 'wait' } },
    { id: 'rec', name: 'Field recorder.wav', sha256: 'b'.repeat(64), facts: soundFactsOf(44_100, 20) },
    'none',
  );
  const ramped = paced(recorded, 'c0', constantSpan(1, 60), rampSpan(1, 0.25, 40));
  /** Seconds of the recording that are heard at an output frame of the clip. */
  const heardAt = (project: ProjectDocument, id: string, frame: number): number =>
    positionAt(mapOf(project, findClip(project, id)!), frame) / 44_100;
  const pictureAt = (frame: number): number => positionAt(mapOf(ramped, findClip(ramped, 'c0')!), frame) / 30;

  it('runs with the picture through its ramp, so many seconds off, linked to it', () => {
    const replaced = replaceSound(ramped, 'c0', 'rec', 1.5, ids);
    expect(integrityErrors(replaced)).toEqual([]);
    expect(findClip(replaced, 'c0')!.muted).toBe(true);
    expect(findClip(replaced, 'own')).toMatchObject({ soundFrom: 'c0', name: 'Field recorder' });
    for (const frame of [0, 30, 70, 99]) expect(heardAt(replaced, 'own', frame)).toBeCloseTo(pictureAt(frame) + 1.5, 9);
    expect(placeOf(replaced, 'own')!.from).toBe(placeOf(replaced, 'c0')!.from);
    // Again, with other seconds: the same clip, its timing from the picture's once more.
    const again = replaceSound(replaced, 'own', 'rec', -0.25, ids);
    expect(again.clips).toHaveLength(replaced.clips.length);
    expect(heardAt(again, 'own', 70)).toBeCloseTo(pictureAt(70) + 1.25, 9);
  });

  it('goes with the clip’s own sound again, and what has no sound is refused', () => {
    const back = attachSound(replaceSound(ramped, 'c0', 'rec', 0, ids), 'c0');
    expect(findClip(back, 'own')).toBeUndefined();
    expect(findClip(back, 'c0')!.muted).toBeUndefined();
    expect(() => replaceSound(rowOf(100), 'c0', 's0', 0, ids)).toThrow('no sound');
  });
});

describe('the pitch of clips and of parts of them', () => {
  const project = withSound(rowOf(10, 40));

  it('is set for all of a clip, or for a stretch; what is as the clip is leaves nothing behind', () => {
    const part = setPitch(project, ['c1'], kept, { from: 10, to: 20 });
    expect(soundAt(part)!.parts).toEqual([{ ...kept, from: 10, to: 20 }]);
    expect(soundAt(clearPitch(part, 'c1', { from: 0, to: 40 }))).toBeUndefined();
    const all = setPitch(part, ['c1'], kept, null);
    expect(soundAt(all)).toEqual({ ...plainSound, ...kept });
    expect(soundAt(setPitch(all, ['c1'], plainSound, null))).toBeUndefined();
  });

  it('cuts into what lay there, and joins what is alike', () => {
    const one = setPitch(project, ['c1'], kept, { from: 0, to: 30 });
    const two = setPitch(one, ['c1'], { ...kept, cents: 100 }, { from: 10, to: 20 });
    expect(soundAt(two)!.parts!.map(({ from, to, cents }) => [from, to, cents])).toEqual([
      [0, 10, 0],
      [10, 20, 100],
      [20, 30, 0],
    ]);
    const joined = setPitch(two, ['c1'], kept, { from: 10, to: 20 });
    expect(soundAt(joined)!.parts).toEqual([{ ...kept, from: 0, to: 30 }]);
  });

  it('a shift that has keys keeps them when the rest is decided anew, and they are what is heard', () => {
    const moment = (output: number) => ({ output, source: output });
    const begun = soundKeys.withKeyed({ ...plainSound, gain: -6 }, ['gain', 'cents'], 'output', moment(10));
    const risen = soundKeys.atMoment(begun, { gain: 0, pan: 0.5 }, moment(20));
    const keyed = setPitch(
      setSound(project, ['c1'], () => risen),
      ['c1'],
      kept,
      null,
    );
    const sound = soundAt(keyed)!;
    expect(sound).toMatchObject({ pitch: 'kept', pan: 0.5 });
    expect(Object.keys(sound.keys!)).toEqual(['gain', 'cents']);
    expect([10, 20].map((at) => soundValueAt(sound, 'gain', moment(at)))).toEqual([-6, 0]);
    expect(soundKeys.now(sound, moment(20)).gain).toBe(0);
    expect(
      soundAt(setSound(keyed, ['c1'], (one) => soundKeys.withKeyed(one, [], 'output', moment(15))))!.keys,
    ).toBeUndefined();
  });

  it('goes along with a retime: what was from one moment to another still is', () => {
    const part = setPitch(project, ['c1'], kept, { from: 10, to: 20 });
    const map = mapOf(part, findClip(part, 'c1')!);
    const slow = withTiming(part, 'c1', { ...map, spans: [constantSpan(0.5, 80)] });
    expect(soundAt(slow)!.parts!.map(({ from, to }) => [from, to])).toEqual([[20, 40]]);
  });

  it('is turned round with its stretch', () => {
    const settings = { ...plainSound, parts: [{ ...kept, from: 10, to: 20 }] };
    expect(movedSound(settings, (t) => 40 - t).parts).toEqual([{ ...kept, from: 20, to: 30 }]);
  });

  it('is split with its clip, each half with the fades of its own edge, and heard as before', () => {
    const faded = setSound(project, ['c1'], (one) => ({
      ...one,
      ...kept,
      fadeIn: { frames: 5, shape: 'even' },
      fadeOut: { frames: 6, shape: 'even' },
    }));
    const split = splitClip(faded, 'c1', 30, 'half');
    expect(soundAt(split)).toMatchObject({ pitch: 'kept', fadeIn: { frames: 5 } });
    expect(soundAt(split)!.fadeOut).toBeUndefined();
    expect(soundAt(split, 'half')).toMatchObject({ pitch: 'kept', fadeOut: { frames: 6 } });
    expect(soundAt(split, 'half')!.fadeIn).toBeUndefined();
    const [before, after] = [faded, split].map((one) => soundRuns(programOf(one, SEQUENCE)).at(-1)!);
    expect([after!.from, after!.to]).toEqual([before!.from, before!.to]);
    for (const seconds of [0.4, 0.9, 1.1, 1.6])
      expect(after!.gainsAt!(seconds)[0]).toBeCloseTo(before!.gainsAt!(seconds)[0], 9);
  });
});

describe('the mix', () => {
  it('is set by track and as a whole; what is as it is leaves nothing behind', () => {
    const project = rowOf(10);
    const { id } = project.sequence.tracks[0]!;
    const set = setTrackSound(project, SEQUENCE, id, { gain: -3, pan: 0.5, solo: true });
    expect(set.sequence.tracks[0]!.sound).toEqual({ gain: -3, pan: 0.5, solo: true });
    expect(programOf(set, SEQUENCE).tracks[0]!.sound).toEqual({ gain: -3, pan: 0.5, solo: true });
    expect(setTrackSound(set, SEQUENCE, id, { gain: 0, pan: 0 }).sequence.tracks[0]!.sound).toBeUndefined();
    const limited = setMaster(project, { gain: 2, limit: -1 });
    expect(programOf(limited, SEQUENCE).master).toEqual({ gain: 2, limit: -1 });
    expect(setMaster(limited, { gain: 0 }).sequence.master).toBeUndefined();
  });
});

describe('sound that is detached', () => {
  const project = withSound(rowOf(10, 40));
  const ramped = withTiming(project, 'c1', {
    ...mapOf(project, findClip(project, 'c1')!),
    spans: [constantSpan(1, 10), rampSpan(1, 0.5, 20), constantSpan(0.5, 20)],
  });

  it('stays where it is, with the same timing, on a track of its own; the picture’s is muted', () => {
    const detached = detachSound(ramped, 'c1', 'copied', ids);
    expect(placeOf(detached, 'own')).toMatchObject({ from: 10, track: { kind: 'sound', id: 'new-track' } });
    expect(findClip(detached, 'own')!.timing).toEqual(findClip(ramped, 'c1')!.timing);
    expect(findClip(detached, 'c1')!.muted).toBe(true);
    expect(detachedSound(detached, 'c1')!.id).toBe('own');
    expect(() => detachSound(detached, 'c1', 'copied', ids)).toThrow(EditRefused);
  });

  it('may run in real time from where it begins', () => {
    const detached = detachSound(ramped, 'c1', 'real', ids);
    const map = mapOf(detached, findClip(detached, 'own')!);
    const shown = findClip(ramped, 'c1')!.shown;
    expect(compile(map).length).toBe(shown.frames);
    expect(positionAt(map, 30) - positionAt(map, 0)).toBeCloseTo(30, 9);
  });

  it('lies on a track that has room there', () => {
    const once = detachSound(project, 'c0', 'copied', { clip: 'first', track: 'sounds' });
    const twice = detachSound(once, 'c1', 'copied', { clip: 'second', track: 'not-needed' });
    expect(placeOf(twice, 'second')!.track.id).toBe('sounds');
    expect(twice.sequence.tracks).toHaveLength(2);
  });

  it('is attached again, with the level it had', () => {
    const quiet = setSound(detachSound(ramped, 'c1', 'copied', ids), ['own'], (one) => ({ ...one, gain: -9 }));
    const attached = attachSound(quiet, 'c1');
    expect(findClip(attached, 'own')).toBeUndefined();
    expect(findClip(attached, 'c1')).toMatchObject({ sound: { gain: -9 } });
    expect(findClip(attached, 'c1')!.muted).toBeUndefined();
    expect(() => attachSound(attached, 'c1')).toThrow(EditRefused);
  });

  it('is slipped by less than a frame', () => {
    const detached = detachSound(project, 'c1', 'copied', ids);
    const before = mapOf(detached, findClip(detached, 'own')!).start;
    const slipped = slipSound(detached, 'own', 480 / 48_000);
    expect(mapOf(slipped, findClip(slipped, 'own')!).start).toBeCloseTo(before - 0.3, 9);
  });
});
