import { rateToNumber } from '@hastig/core';
import {
  canEncodeAudio,
  Mp4OutputFormat,
  WavOutputFormat,
  WebMOutputFormat,
  type AudioCodec,
  type OutputFormat,
  type VideoCodec,
} from 'mediabunny';
import type { RenderFormat, RenderJob } from './job';
import { SOUND_RATE } from './sound-feed';

/** Bytes of a WAVE file at most; a larger one is written as RF64 (EBU Tech 3306). */
const LARGEST_WAV = 4e9;

interface SoundCoding {
  codec: AudioCodec;
  /** Bits a second; none where nothing is lost. */
  bitrate?: number;
  /** Samples by which its encoder comes late, which its file does not tell; taken off the time stamps, so that sound and picture meet. */
  delay: number;
}

/** What a file is made of. */
interface Coding {
  /** None where it has sound alone. */
  picture: VideoCodec | null;
  sound: SoundCoding;
}

export const codings: Readonly<Record<RenderFormat, Coding>> = {
  // AAC-LC encoders are late by one block of 1024 samples.
  mp4: { picture: 'avc', sound: { codec: 'aac', bitrate: 192_000, delay: 1024 } },
  // Opus says in its header by how much it is late (RFC 7845, 4.2).
  webm: { picture: 'vp9', sound: { codec: 'opus', bitrate: 160_000, delay: 0 } },
  wav: { picture: null, sound: { codec: 'pcm-s24', delay: 0 } },
};

export function outputFormat({ format, program }: RenderJob): OutputFormat {
  switch (format) {
    case 'mp4':
      return new Mp4OutputFormat({ fastStart: false });
    case 'webm':
      return new WebMOutputFormat();
    case 'wav': {
      const bytes = (program.length / rateToNumber(program.rate)) * SOUND_RATE * 6;
      return new WavOutputFormat({ large: bytes > LARGEST_WAV });
    }
  }
}

let aacReady: Promise<void> | undefined;

/** Has the encoder for a codec ready where the browser has none of its own. */
export async function prepareSound({ codec }: SoundCoding): Promise<void> {
  if (codec !== 'aac') return;
  aacReady ??= canEncodeAudio('aac').then(async (native) => {
    // Most of the worker's code would be this encoder, and only a render needs it.
    if (!native) (await import('@mediabunny/aac-encoder')).registerAacEncoder();
  });
  await aacReady;
}
