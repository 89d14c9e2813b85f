import { ALL_FORMATS, Input, UrlSource, VideoSampleSink } from 'mediabunny';
import { readPlate } from '@hastig/demo';

/** A part of a picture, in pixels; `turned` where it stands on its head. */
export interface PicturePart {
  x: number;
  y: number;
  width: number;
  height: number;
  turned?: boolean;
}

export interface PlatesRead {
  plates: number[];
  times: number[];
  lumas: number[];
}

/** The loudest sample of a stretch of sound. */
export interface SoundPeak {
  /** Seconds at which it is heard. */
  time: number;
  level: number;
  /** Seconds at which half of that level is reached first. */
  onset: number;
  /** Seconds of the whole file. */
  seconds: number;
}

declare global {
  interface Window {
    /**
     * The frame number on every picture of a file or on a part of it, in order, and the time of each in seconds; −1 where
     * none can be read. `lumas` are the means of the brightness, 0…255 as stored.
     */
    readPlates(address: string, large: boolean, part?: PicturePart): Promise<PlatesRead>;
    /** The loudest of a stretch of sound, in seconds. */
    soundPeak(address: string, from: number, to: number, channel: number): Promise<SoundPeak>;
  }
}

window.readPlates = async (address, large, part) => {
  const input = new Input({ source: new UrlSource(address), formats: ALL_FORMATS });
  const track = (await input.getPrimaryVideoTrack())!;
  const plates: number[] = [];
  const times: number[] = [];
  const lumas: number[] = [];
  for await (const sample of new VideoSampleSink(track).samples()) {
    const whole: PicturePart = { x: 0, y: 0, width: sample.codedWidth, height: sample.codedHeight };
    const { x: left, y: top, width, height, turned } = part ?? whole;
    // As decoded, 4:2:0 with the brightness in the first plane.
    const pixels = new Uint8Array(sample.allocationSize());
    const [{ offset, stride }] = (await sample.copyTo(pixels)) as [PlaneLayout];
    const luma = (x: number, y: number): number => pixels[offset + (top + y) * stride + left + x]!;
    const upright = turned ? (x: number, y: number) => luma(width - 1 - x, height - 1 - y) : luma;
    plates.push(readPlate(upright, width, height, large) ?? -1);
    let sum = 0;
    for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) sum += luma(x, y);
    lumas.push(sum / (width * height));
    times.push(sample.timestamp);
    sample.close();
  }
  input.dispose();
  return { plates, times, lumas };
};

window.soundPeak = async (address, from, to, channel) => {
  const bytes = await (await fetch(address)).arrayBuffer();
  // The browser's own decoder, not the library that wrote the file.
  const sound = await new OfflineAudioContext(2, 48_000, 48_000).decodeAudioData(bytes);
  const samples = sound.getChannelData(channel);
  let best = Math.round(from * sound.sampleRate);
  for (let i = best; i < Math.min(samples.length, to * sound.sampleRate); i++) {
    if (Math.abs(samples[i]!) > Math.abs(samples[best]!)) best = i;
  }
  const level = Math.abs(samples[best]!);
  const begin = Math.round(from * sound.sampleRate);
  const onset = samples.subarray(begin).findIndex((sample) => Math.abs(sample) > level / 2) + begin;
  return {
    ...{ time: best / sound.sampleRate, level },
    ...{ onset: onset / sound.sampleRate, seconds: sound.duration },
  };
};
