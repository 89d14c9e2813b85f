import type { OutputForm } from '@hastig/contract';
import { KEY_INTERVAL, pictureCodingOf } from '@hastig/core';
import { Quality, VideoSampleSource, type VideoEncodingConfig } from 'mediabunny';
import type { RenderJob } from './job';

type EncoderWishes = Pick<OutputForm, 'bitRate' | 'constant' | 'encoder' | 'keyEvery'> & Pick<RenderJob, 'quality'>;

const preferences = { hardware: 'prefer-hardware', software: 'prefer-software' } as const;

function encoding(job: OutputForm & EncoderWishes): VideoEncodingConfig {
  const { quality, bitRate, constant, encoder, keyEvery = KEY_INTERVAL } = job;
  return {
    codec: pictureCodingOf(job)!,
    quality:
      bitRate === undefined
        ? new Quality({ quality, preferBitrate: true })
        : new Quality({ bitrate: 1000 * bitRate, bitrateMode: constant ? 'constant' : 'variable' }),
    keyFrameInterval: keyEvery,
    latencyMode: 'quality',
    ...(encoder && { hardwareAcceleration: preferences[encoder] }),
  };
}

/** What a file's pictures are encoded by. @param onPacket hears of each that was coded */
export const pictureEncoder = (
  job: OutputForm & EncoderWishes,
  onPacket?: NonNullable<VideoEncodingConfig['onEncodedPacket']>,
): VideoSampleSource => new VideoSampleSource({ ...encoding(job), ...(onPacket && { onEncodedPacket: onPacket }) });
