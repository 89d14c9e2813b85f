import { readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { scenes } from '@hastig/demo';
import { BufferSource, FilePathSource } from 'mediabunny';
import {
  frameAtTime,
  groupOf,
  indexFrames,
  lastAtMost,
  longestGroup,
  measureRate,
  probeMedia,
  RefusedMedia,
  type FrameIndex,
} from '.';

const fixture = (name: string): string => join(__dirname, '../../e2e/fixtures', name);
const demo = (name: string): string => join(__dirname, '../../demo/media', `${name}.mp4`);

async function probe(path: string) {
  const media = await probeMedia(new FilePathSource(path), statSync(path).size);
  media.dispose();
  return media;
}

describe('facts of clips made by another encoder (x264, ISO/IEC 14496-12 container)', () => {
  it.each([
    ['plates-24.mp4', 144, 24, 1, 24],
    ['plates-60.mp4', 180, 60, 1, 30],
    ['plates-2997.mp4', 150, 30000, 1001, 60],
    ['plates-b-frames.mp4', 144, 24, 1, 48],
    ['plates-group-250.mp4', 300, 25, 1, 250],
  ])('%s has %i frames at %i/%i, groups of %i', async (name, frames, num, den, group) => {
    const { facts, picture } = await probe(fixture(name));
    const { index } = picture!;
    expect(facts.video).toMatchObject({
      frames,
      rate: { num, den },
      constantRate: true,
      longestGroup: group,
      width: 320,
      height: 180,
      rotation: 0,
    });
    expect(facts.audio).toBeNull();
    // Sorted by the time of showing, also where B-frames come in another order.
    expect(index.timestamps.every((time, i) => i === 0 || time > index.timestamps[i - 1]!)).toBe(true);
  });

  it.each(scenes.map((scene) => [scene.name, scene] as const))(
    'the demo clip %s has the frames and the sound its scene has',
    async (name, scene) => {
      const { facts } = await probe(demo(name));
      expect(facts.video).toMatchObject({
        frames: scene.frames,
        rate: { num: scene.fps, den: 1 },
        // The old camera's 576 lines.
        ...(scene.interlaced ? { width: 1024, height: 576 } : { width: 1280, height: 720 }),
      });
      expect(facts.audio).toMatchObject({ codec: 'aac', channels: 2, sampleRate: 48_000 });
    },
  );
});

describe('what is no clip', () => {
  const bytes = readFileSync(fixture('plates-24.mp4'));
  const refuse = (content: Buffer, reason: RegExp) =>
    expect(probeMedia(new BufferSource(content), content.length)).rejects.toMatchObject({
      name: 'RefusedMedia',
      message: expect.stringMatching(reason),
    });

  it('is refused with its reason', async () => {
    await refuse(Buffer.alloc(0), /empty/);
    await refuse(Buffer.from('plain words '.repeat(40)), /can’t read this type/);
    await refuse(bytes.subarray(0, bytes.length - 500), /incomplete/);
    await refuse(bytes.subarray(0, 200), /cut short|damaged|not a media|neither picture|no frame/);
    expect(new RefusedMedia('x')).toBeInstanceOf(Error);
  });
});

describe('files made to lead a reader round in circles', () => {
  // Each was made by changing a good file at random; reading it took until whoever waited gave up.
  it.each(['probe-busy-1.webm', 'probe-busy-2.mp4', 'probe-busy-3.webm'])('%s is refused as damaged', async (name) => {
    const content = readFileSync(fixture(name));
    const read = async (from: number, to: number) => new Uint8Array(content.subarray(from, to));
    await expect(probeMedia(new BufferSource(content), content.length, read)).rejects.toMatchObject({
      name: 'RefusedMedia',
      message: expect.stringContaining('damaged'),
    });
  });

  it('are told from good ones, which are read on as often as one likes', async () => {
    const source = new BufferSource(readFileSync(fixture('plates-24.mp4')));
    const media = await probeMedia(source, 11_015);
    for (let time = 0; time < 800; time++) expect(await indexFrames(media.picture!.track, 1000)).toBeDefined();
    media.dispose();
  });
});

const indexOf = (timestamps: number[], groupStarts = [0]): FrameIndex => ({
  timestamps: Float64Array.from(timestamps),
  groupStarts: Uint32Array.from(groupStarts),
  lastDuration: 0,
});

describe('the rate of frames', () => {
  it('is found through a container that rounds to milliseconds', () => {
    const rounded = Array.from({ length: 120 }, (_, i) => Math.round((i * 1001) / 30) / 1000);
    expect(measureRate(indexOf(rounded))).toEqual({ rate: { num: 30000, den: 1001 }, constant: true });
  });

  it('is said not to be constant when it is not', () => {
    const times = Array.from({ length: 90 }, (_, i) => i / 30 + (i > 40 ? 0.05 : 0));
    expect(measureRate(indexOf(times)).constant).toBe(false);
  });

  it('exists for a single frame', () => {
    expect(measureRate({ ...indexOf([0]), lastDuration: 0.04 })).toEqual({ rate: { num: 25, den: 1 }, constant: true });
  });
});

describe('the frame index', () => {
  const index = indexOf([0, 0.04, 0.08, 0.12, 0.16], [0, 3]);

  it('finds frames by time and groups by frame', () => {
    expect([0, 0.0399996, 0.041, 9].map((time) => frameAtTime(index, time))).toEqual([0, 1, 1, 4]);
    expect([0, 2, 3, 4].map((frame) => groupOf(index, frame))).toEqual([
      { start: 0, end: 3 },
      { start: 0, end: 3 },
      { start: 3, end: 5 },
      { start: 3, end: 5 },
    ]);
    expect(longestGroup(index)).toBe(3);
    expect(lastAtMost(index.groupStarts, -1)).toBe(-1);
  });
});
