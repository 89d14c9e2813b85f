import { Quality, VideoSampleSource, type VideoCodec } from 'mediabunny';
import type { RenderQuality } from './job';

/** Seconds between two key frames of a file. */
const KEY_INTERVAL = 2;

/** What a file's pictures are encoded by. */
export const pictureEncoder = (codec: VideoCodec, quality: RenderQuality): VideoSampleSource =>
  new VideoSampleSource({
    codec,
    quality: new Quality({ quality, preferBitrate: true }),
    keyFrameInterval: KEY_INTERVAL,
    latencyMode: 'quality',
  });
