import {
  ALL_FORMATS,
  BufferTarget,
  EncodedPacket,
  EncodedVideoPacketSource,
  Input,
  Output,
  UrlSource,
  VideoSampleSink,
  WebMOutputFormat,
} from 'mediabunny';
import { plateCells, plateLayout, readPlate } from '@hastig/demo';
import { ssim } from 'ssim.js';
import './bars-page';
import './graphics-page';
import './made-page';

/**
 * A part of a picture, in pixels; `turn`ed clockwise by so many degrees, and `stretch` times as wide as it was drawn.
 */
export interface PicturePart {
  x: number;
  y: number;
  width: number;
  height: number;
  turn?: 90 | 180 | 270;
  stretch?: number;
}

export interface PlatesRead {
  plates: number[];
  times: number[];
  lumas: number[];
}

/** A clip of numbered pictures, 24 a second, coded in VP9 by the browser. */
export interface CodedPlates {
  count: number;
  width: number;
  height: number;
  bits: 8 | 10;
  colours: { primaries: string; transfer: string; matrix: string };
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
    /**
     * How alike a file's pictures are to true ones where something moves, above the plates: peak signal-to-noise ratio of the
     * brightness, in decibels.
     *
     * @param pairs numbers of a picture and the true one; what moves there is told by those before and after it, so many away
     */
    likeness(
      made: string,
      truth: string,
      pairs: readonly (readonly [made: number, truth: number])[],
      away: number,
    ): Promise<number[]>;
    /** How alike pictures of a file of some width are to true ones in their structure (SSIM, all of them but the plates), on the mean. */
    structure(
      made: string,
      truth: string,
      pairs: readonly (readonly [made: number, truth: number])[],
      width: number,
    ): Promise<number>;
    /** A WebM of numbered pictures, grey with brightness 400 of 1023 around their plates. */
    codePlates(wanted: CodedPlates): Promise<number[]>;
    /** What the browser draws of a clip's first picture at a place: red, green and blue, 0…255. */
    drawnColour(address: string, x: number, y: number): Promise<number[]>;
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
    const { x: left, y: top, width: shownWidth, height: shownHeight, turn, stretch = 1 } = { ...whole, ...part };
    const lies = turn === 90 || turn === 270;
    const width = Math.round((lies ? shownHeight : shownWidth) / stretch);
    const height = lies ? shownWidth : shownHeight;
    // As decoded, 4:2:0 with the brightness in the first plane.
    const pixels = new Uint8Array(sample.allocationSize());
    const [{ offset, stride }] = (await sample.copyTo(pixels)) as [PlaneLayout];
    const luma = (x: number, y: number): number => pixels[offset + (top + y) * stride + left + x]!;
    const ways = {
      0: (x: number, y: number) => luma(Math.floor((x + 0.5) * stretch), y),
      90: (x: number, y: number) => luma(shownWidth - 1 - y, x),
      180: (x: number, y: number) => luma(shownWidth - 1 - x, shownHeight - 1 - y),
      270: (x: number, y: number) => luma(y, shownHeight - 1 - x),
    };
    const upright = ways[turn ?? 0];
    plates.push(readPlate(upright, width, height, large) ?? -1);
    let sum = 0;
    for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) sum += upright(x, y);
    lumas.push(sum / (width * height));
    times.push(sample.timestamp);
    sample.close();
  }
  input.dispose();
  return { plates, times, lumas };
};

/** The brightness of a file's pictures, by their numbers. */
async function brightness(address: string, wanted: ReadonlySet<number>): Promise<Map<number, Uint8Array>> {
  const input = new Input({ source: new UrlSource(address), formats: ALL_FORMATS });
  const found = new Map<number, Uint8Array>();
  let frame = 0;
  for await (const sample of new VideoSampleSink((await input.getPrimaryVideoTrack())!).samples()) {
    if (wanted.has(frame)) {
      const pixels = new Uint8Array(sample.allocationSize());
      const [{ offset, stride }] = (await sample.copyTo(pixels)) as [PlaneLayout];
      found.set(frame, pixels.slice(offset, offset + stride * sample.codedHeight));
    }
    sample.close();
    frame++;
  }
  input.dispose();
  return found;
}

/** Steps of 255 by which what moves changes at least, and the part of the height above the plates. */
const MOVES = 16;
const ABOVE = 0.8;

window.likeness = async (made, truth, pairs, away) => {
  const a = await brightness(made, new Set(pairs.map(([frame]) => frame)));
  const b = await brightness(truth, new Set(pairs.flatMap(([, frame]) => [frame - away, frame, frame + away])));
  return pairs.map(([one, other]) => {
    const [seen, wanted, before, after] = [a.get(one)!, b.get(other)!, b.get(other - away)!, b.get(other + away)!];
    let [sum, count] = [0, 0];
    for (let n = 0; n < ABOVE * seen.length; n++) {
      if (Math.abs(before[n]! - after[n]!) < MOVES) continue;
      sum += (seen[n]! - wanted[n]!) ** 2;
      count++;
    }
    return 10 * Math.log10((255 ** 2 * count) / sum);
  });
};

/** Grey pixels of what is above the plates. */
function greyAbove(luma: Uint8Array, width: number): ImageData {
  const height = Math.floor((ABOVE * luma.length) / width);
  const pixels = new ImageData(width, height);
  for (let n = 0; n < width * height; n++) pixels.data.set([luma[n]!, luma[n]!, luma[n]!, 255], 4 * n);
  return pixels;
}

window.structure = async (made, truth, pairs, width) => {
  const a = await brightness(made, new Set(pairs.map(([frame]) => frame)));
  const b = await brightness(truth, new Set(pairs.map(([, frame]) => frame)));
  const all = pairs.map(([one, other]) => ssim(greyAbove(a.get(one)!, width), greyAbove(b.get(other)!, width)).mssim);
  return all.reduce((sum, value) => sum + value, 0) / all.length;
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

/** A numbered picture in planes; brightness in limited range. */
function plateFrame({ width, height, bits, colours }: CodedPlates, frame: number): VideoFrame {
  const [w, h] = [Math.ceil(width / 2), Math.ceil(height / 2)];
  const planes = bits === 8 ? new Uint8Array(width * height + 2 * w * h) : new Uint16Array(width * height + 2 * w * h);
  const unit = bits === 8 ? 1 : 4;
  planes.fill(100 * unit, 0, width * height).fill(128 * unit, width * height);
  const { x, y, cell } = plateLayout(width, height, true);
  plateCells(frame).forEach((white, place) => {
    const from = x + place * cell;
    for (let row = y; row < y + cell; row++)
      planes.fill((white ? 200 : 16) * unit, row * width + from, row * width + from + cell);
  });
  return new VideoFrame(planes, {
    ...{ format: bits === 8 ? 'I420' : ('I420P10' as VideoPixelFormat), codedWidth: width, codedHeight: height },
    ...{ timestamp: Math.round((frame * 1e6) / 24), duration: Math.round(1e6 / 24) },
    colorSpace: { ...(colours as VideoColorSpaceInit), fullRange: false },
  });
}

window.codePlates = async (wanted) => {
  const output = new Output({ format: new WebMOutputFormat(), target: new BufferTarget() });
  const source = new EncodedVideoPacketSource('vp9');
  output.addVideoTrack(source);
  await output.start();
  const packets: [EncodedVideoChunk, EncodedVideoChunkMetadata | undefined][] = [];
  const encoder = new VideoEncoder({
    output: (...packet) => packets.push(packet),
    error: (error) => console.error(error),
  });
  const { width, height, bits, count } = wanted;
  encoder.configure({ codec: bits === 8 ? 'vp09.00.10.08' : 'vp09.02.10.10', width, height, bitrate: 4e6 });
  for (let frame = 0; frame < count; frame++) {
    const picture = plateFrame(wanted, frame);
    encoder.encode(picture, { keyFrame: frame % 24 === 0 });
    picture.close();
  }
  await encoder.flush();
  for (const [chunk, meta] of packets) await source.add(EncodedPacket.fromEncodedChunk(chunk), meta);
  source.close();
  await output.finalize();
  return [...new Uint8Array(output.target.buffer!)];
};

window.drawnColour = async (address, x, y) => {
  const input = new Input({ source: new UrlSource(address), formats: ALL_FORMATS });
  const sample = (await new VideoSampleSink((await input.getPrimaryVideoTrack())!).getSample(0))!;
  const canvas = new OffscreenCanvas(sample.displayWidth, sample.displayHeight);
  const context = canvas.getContext('2d', { willReadFrequently: true })!;
  sample.draw(context, 0, 0);
  sample.close();
  input.dispose();
  return [...context.getImageData(x, y, 1, 1).data.slice(0, 3)];
};
