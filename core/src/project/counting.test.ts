import type { ProjectDocument, Source } from '@hastig/contract';
import { clipOf, factsOf, rowOf, type VideoFacts } from '../../test/projects';
import {
  cadences,
  constantSpan,
  countingOf,
  EditRefused,
  fileCountOf,
  fileRate,
  makeRate,
  mapLength,
  mapOf,
  positionAt,
  rampSpan,
  replaceFile,
  soundOf,
  sourceFrames,
  withCounting,
  withFactsAnew,
  withFields,
  withReadAs,
  withSoundTrack,
  withSourceMarkers,
  withTiming,
} from '..';

const [r30, r60] = [makeRate(30), makeRate(60)];

// 270 frames in 10 seconds, 30 a second of which some fell out.
const facts: VideoFacts = {
  ...factsOf(r30, 270),
  video: {
    ...factsOf(r30, 270).video,
    constantRate: false,
    seconds: 10,
    varying: {
      average: makeRate(27),
      fits: [
        { rate: r30, frames: 300, repeated: 30, skipped: 0 },
        { rate: r60, frames: 600, repeated: 330, skipped: 0 },
      ],
    },
  },
};

function project(): ProjectDocument {
  const row = rowOf(300);
  const with30: ProjectDocument = { ...row, sources: [{ ...row.sources[0]!, facts }] };
  const marked = withSourceMarkers(with30, 's0', [{ id: 'm', at: 30, name: '', tone: 'oak' }]);
  return withTiming(marked, 'c0', { start: 20, spans: [constantSpan(1, 40), rampSpan(1, 0.25, 60)] });
}

const source = (of: ProjectDocument): Source => of.sources[0]!;

describe('frames at irregular times', () => {
  it('are counted at the rate that fits best, along their time, unless told', () => {
    expect(countingOf({ facts })).toEqual({ by: 'time', rate: r30 });
    expect(fileCountOf({ facts })).toEqual({ rate: r30, frames: 300, by: 'time' });
    expect(fileCountOf({ facts, counting: { by: 'frame' } })).toEqual({
      rate: makeRate(27),
      frames: 270,
      by: 'frame',
    });
    // A rate that nobody offered.
    expect(fileCountOf({ facts, counting: { by: 'time', rate: makeRate(40) } }).frames).toBe(400);
  });

  it('are counted as before where facts of an older version say nothing of them', () => {
    const { varying: _none, ...video } = facts.video;
    const old = { ...facts, video: { ...video, rate: makeRate(27) } };
    expect(fileCountOf({ facts: old })).toEqual({ rate: makeRate(27), frames: 270, by: 'frame' });
  });

  it('are counted as they were when the file is looked at anew, until another way is chosen', () => {
    const before = project();
    const fresh: VideoFacts = {
      ...facts,
      video: {
        ...facts.video,
        varying: { average: makeRate(27), fits: [{ rate: r30, frames: 298, repeated: 28, skipped: 0, within: 0.003 }] },
      },
    };
    const after = withFactsAnew(before, 's0', fresh);
    expect(fileCountOf(source(after))).toEqual(fileCountOf(source(before)));
    expect(after.clips).toBe(before.clips);
    const chosen = withCounting(after, 's0', { by: 'nearest', rate: r30 });
    expect(fileCountOf(source(chosen))).toEqual({ rate: r30, frames: 298, by: 'nearest' });
    expect(source(chosen)).not.toHaveProperty('counting');
  });

  it('show the same moments at the same times at another rate', () => {
    const before = project();
    const after = withCounting(before, 's0', { by: 'time', rate: r60 });
    expect([sourceFrames(source(after)), source(after).markers![0]!.at]).toEqual([600, 60]);
    const [was, is] = [before, after].map((one) => mapOf(one, clipOf(one, 'c0')));
    expect(mapLength(is!)).toBe(mapLength(was!));
    for (let t = 0; t < 100; t += 3.7) expect(positionAt(is!, t)).toBeCloseTo(2 * positionAt(was!, t), 9);
    expect(withCounting(after, 's0', { by: 'time', rate: r30 })).toEqual(before);
  });

  it('stay read at another rate in proportion', () => {
    const slow = withReadAs(project(), 's0', makeRate(15));
    const after = withCounting(slow, 's0', { by: 'time', rate: r60 });
    expect(fileRate(source(after))).toEqual(r30);
    const [was, is] = [slow, after].map((one) => mapOf(one, clipOf(one, 'c0')));
    expect(mapLength(is!)).toBe(mapLength(was!));
  });

  it('go frame by frame where each has two fields that are frames, and no clip changes its length', () => {
    const after = withFields(project(), 's0', { use: 'both', first: 'top' });
    expect(countingOf(source(after))).toEqual({ by: 'frame' });
    expect(sourceFrames(source(after))).toBe(540);
    expect(mapLength(mapOf(after, clipOf(after, 'c0')))).toBe(100);
  });

  it('are told once however many positions show them', () => {
    const map = { ...mapOf(project(), clipOf(project(), 'c0')), start: 0, spans: [constantSpan(1, 4)] };
    expect(cadences(map, [0, 0, 2, 3])).toEqual([{ frames: 4, once: 2, repeated: 1, skipped: 1, between: 0 }]);
    expect(cadences(map)).toMatchObject([{ once: 4, repeated: 0 }]);
  });
});

describe('several tracks of sound', () => {
  const sound = (name: string, channels: number) => ({ codec: 'aac', channels, sampleRate: 48_000, seconds: 10, name });
  const sounds = [sound('Boom', 1), sound('Clip-on', 2)];
  const two = (): ProjectDocument => {
    const row = rowOf(300);
    return { ...row, sources: [{ ...row.sources[0]!, facts: { ...facts, audio: sounds[0]!, sounds } }] };
  };

  it('are chosen from; the first leaves no trace', () => {
    const second = withSoundTrack(two(), 's0', 1);
    expect(soundOf(source(second))?.name).toBe('Clip-on');
    expect(withSoundTrack(second, 's0', 0)).toEqual(two());
    expect(() => withSoundTrack(two(), 's0', 2)).toThrow(EditRefused);
  });

  it('are kept to when another file has as many, and forgotten when it has not', () => {
    const second = withSoundTrack(two(), 's0', 1);
    const file = { sha256: '1'.repeat(64), facts: source(second).facts };
    expect(soundOf(source(replaceFile(second, 's0', file)))?.name).toBe('Clip-on');
    const one = replaceFile(second, 's0', { ...file, facts: { ...facts, audio: sounds[0]! } });
    expect(source(one)).not.toHaveProperty('soundTrack');
    expect(soundOf(source(one))?.name).toBe('Boom');
  });
});
