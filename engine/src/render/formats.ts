import type { OutputForm, SoundCoding } from '@hastig/contract';
import { isLossless, rateToNumber, sampleRateOf, soundCodingOf, USUAL_SOUND_BIT_RATE } from '@hastig/core';
import {
  canEncodeAudio,
  FlacOutputFormat,
  MkvOutputFormat,
  MovOutputFormat,
  Mp3OutputFormat,
  Mp4OutputFormat,
  OggOutputFormat,
  WavOutputFormat,
  WebMOutputFormat,
  type AudioCodec,
  type AudioEncodingConfig,
  type OutputFormat,
} from 'mediabunny';
import type { RenderJob } from './job';
import { spanOf } from './span';

/** Bytes of a WAVE file at most; a larger one is written as RF64 (EBU Tech 3306). */
const LARGEST_WAV = 4e9;

/** Bytes of a sample of PCM. */
const sampleBytes = (coding: SoundCoding): number => ({ 'pcm-s16': 2, 'pcm-s24': 3 })[coding as string] ?? 4;

/**
 * Samples by which encoders come late, which their files do not tell; taken off the time stamps, so that sound and picture meet. AAC-LC
 * encoders are late by one block of 1024; Opus says so in its header (RFC 7845, 4.2), MP3 in a container by the encoder's 1105.
 */
const delays: Readonly<Partial<Record<SoundCoding, number>>> = { aac: 1024, mp3: 1105 };

/** Samples of a packet; as many packets as come of them are reserved in a file's index. */
const packets: Readonly<Partial<Record<SoundCoding, number>>> = { opus: 960, mp3: 1152 };
const PACKET = 1024;
/** Packets that are reserved beside those that are counted: encoders begin and end with some. */
const BESIDE = 64;

/** How a file's sound is encoded. */
interface FileSound {
  config: AudioEncodingConfig;
  sampleRate: number;
  channels: number;
  /** Samples by which its encoder comes late. */
  delay: number;
  /** Packets of so many samples at most. */
  packetsOf(samples: number): number;
}

/** How the sound of a form is encoded; undefined where the format has none. */
export function fileSound(form: OutputForm): FileSound | undefined {
  const coding = soundCodingOf(form);
  if (!coding) return undefined;
  const bitrate = 1000 * (form.soundBitRate ?? USUAL_SOUND_BIT_RATE);
  return {
    config: { codec: coding satisfies AudioCodec, ...(!isLossless(coding) && { bitrate }) },
    sampleRate: sampleRateOf(form),
    channels: form.channels ?? 2,
    delay: delays[coding] ?? 0,
    packetsOf: (samples) => Math.ceil(samples / (packets[coding] ?? PACKET)) + BESIDE,
  };
}

/** Seconds of what a job writes. */
const secondsOf = (job: RenderJob): number => {
  const { from, to } = spanOf(job);
  return (to - from) / rateToNumber(job.program.rate);
};

/**
 * The container of a film or of sound; MP4, MOV and M4A have their index in front, so that they play while they load.
 *
 * @param onMovie hears of that index, and what was reserved for it, when it is written
 */
export function outputFormat(
  job: RenderJob,
  onMovie: (bytes: Uint8Array, at: number) => void = () => undefined,
): OutputFormat {
  switch (job.format) {
    case 'mov':
      return new MovOutputFormat({ fastStart: 'reserve', onMoov: onMovie });
    case 'webm':
      return new WebMOutputFormat();
    case 'mkv':
      return new MkvOutputFormat();
    case 'flac':
      return new FlacOutputFormat();
    case 'mp3':
      return new Mp3OutputFormat();
    case 'ogg':
      return new OggOutputFormat();
    case 'wav': {
      const bytes = secondsOf(job) * sampleRateOf(job) * sampleBytes(soundCodingOf(job)!) * (job.channels ?? 2);
      return new WavOutputFormat({ large: bytes > LARGEST_WAV });
    }
    default:
      return new Mp4OutputFormat({ fastStart: 'reserve', onMoov: onMovie });
  }
}

const ready = new Map<SoundCoding, Promise<void>>();

/** Has the encoder for a coding ready where the browser has none of its own. */
export async function prepareSound(form: OutputForm): Promise<void> {
  const coding = soundCodingOf(form);
  if (!coding) return;
  const known = ready.get(coding) ?? registered(coding);
  ready.set(coding, known);
  await known;
}

// Most of the worker's code would be these encoders, and only a render needs one.
async function registered(coding: SoundCoding): Promise<void> {
  if (coding !== 'aac' && coding !== 'mp3' && coding !== 'flac') return;
  if (await canEncodeAudio(coding)) return;
  if (coding === 'aac') (await import('@mediabunny/aac-encoder')).registerAacEncoder();
  else if (coding === 'mp3') (await import('@mediabunny/mp3-encoder')).registerMp3Encoder();
  else (await import('@mediabunny/flac-encoder')).registerFlacEncoder();
}
