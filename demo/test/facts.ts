import type { MediaFacts } from '@hastig/contract';

/** Facts of a silent clip as the generator makes them. */
export const clipFacts = (fps: number, frames: number): MediaFacts => ({
  container: 'MP4',
  mime: 'video/mp4',
  bytes: 1,
  video: {
    codec: 'avc',
    codecString: 'avc1',
    width: 1280,
    height: 720,
    rotation: 0,
    rate: { num: fps, den: 1 },
    frames,
    constantRate: true,
    longestGroup: 30,
    seconds: frames / fps,
  },
  audio: null,
});

/** Facts of sound alone. */
export const soundFacts = (codec: string, seconds: number): MediaFacts => ({
  ...clipFacts(24, 1),
  video: null,
  audio: { codec, channels: 2, sampleRate: 48_000, seconds },
});
