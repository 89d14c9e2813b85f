import { registerAacEncoder } from '@mediabunny/aac-encoder';
import { registerFlacEncoder } from '@mediabunny/flac-encoder';
import { registerMp3Encoder } from '@mediabunny/mp3-encoder';
import { plateCells, plateLayout } from '@hastig/demo';
import {
  AdtsOutputFormat,
  AudioSample,
  AudioSampleSource,
  BufferTarget,
  FlacOutputFormat,
  Mp3OutputFormat,
  Mp4OutputFormat,
  OggOutputFormat,
  Output,
  WavOutputFormat,
  type AudioCodec,
  type OutputFormat,
} from 'mediabunny';

/** Sound alone, silent but for knocks of 6 ms that are loudest at some seconds, the same forwards and backwards. */
export interface CodedSound {
  as: keyof typeof sounds;
  sampleRate: number;
  channels: number;
  seconds: number;
  knocks: readonly number[];
}

/** A still with a large plate on grey; see-through around the plate where it has `alpha`. */
export interface DrawnStill {
  type: 'image/png' | 'image/jpeg' | 'image/webp';
  width: number;
  height: number;
  number: number;
  alpha?: boolean;
}

declare global {
  interface Window {
    codeSound(wanted: CodedSound): Promise<number[]>;
    drawStill(wanted: DrawnStill): Promise<number[]>;
  }
}

const sounds: Record<
  'wav' | 'flac' | 'mp3' | 'm4a' | 'aac' | 'ogg',
  { format: () => OutputFormat; codec: AudioCodec }
> = {
  wav: { format: () => new WavOutputFormat(), codec: 'pcm-s24' },
  flac: { format: () => new FlacOutputFormat(), codec: 'flac' },
  mp3: { format: () => new Mp3OutputFormat(), codec: 'mp3' },
  m4a: { format: () => new Mp4OutputFormat(), codec: 'aac' },
  aac: { format: () => new AdtsOutputFormat(), codec: 'aac' },
  ogg: { format: () => new OggOutputFormat(), codec: 'opus' },
};

window.codeSound = async ({ as, sampleRate, channels, seconds, knocks }) => {
  registerAacEncoder();
  registerFlacEncoder();
  registerMp3Encoder();
  const { format, codec } = sounds[as];
  const output = new Output({ format: format(), target: new BufferTarget() });
  const source = new AudioSampleSource(
    codec.startsWith('pcm') || codec === 'flac' ? { codec } : { codec, bitrate: 192_000 },
  );
  output.addAudioTrack(source);
  await output.start();
  const length = Math.round(seconds * sampleRate);
  const data = new Float32Array(length * channels);
  for (const knock of knocks) {
    const [middle, half] = [Math.round(knock * sampleRate), Math.round(0.003 * sampleRate)];
    for (let index = -half; index <= half; index++) {
      const window = Math.cos((Math.PI * index) / 2 / half) ** 2;
      const value = 0.8 * window * Math.cos((2 * Math.PI * 1000 * index) / sampleRate);
      for (let channel = 0; channel < channels; channel++) data[channel * length + middle + index] = value;
    }
  }
  const sample = new AudioSample({ data, format: 'f32-planar', numberOfChannels: channels, sampleRate, timestamp: 0 });
  await source.add(sample);
  sample.close();
  await output.finalize();
  return [...new Uint8Array((output.target as BufferTarget).buffer!)];
};

window.drawStill = async ({ type, width, height, number, alpha = false }) => {
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d')!;
  if (!alpha) {
    context.fillStyle = 'rgb(120 120 120)';
    context.fillRect(0, 0, width, height);
  }
  const { x, y, cell } = plateLayout(width, height, true);
  plateCells(number).forEach((white, place) => {
    context.fillStyle = white ? '#fff' : '#000';
    context.fillRect(x + place * cell, y, cell, cell);
  });
  const blob = await canvas.convertToBlob({ type, quality: 0.95 });
  return [...new Uint8Array(await blob.arrayBuffer())];
};
