import {
  ALL_FORMATS,
  BufferTarget,
  EncodedPacket,
  EncodedVideoPacketSource,
  Input,
  Mp4OutputFormat,
  Output,
  UrlSource,
  VideoSampleSink,
  WebMOutputFormat,
} from 'mediabunny';

/** A clip of colour bars whose values are made by a standard, which the file names or does not. */
export interface CodedBars {
  codec: 'avc' | 'vp8' | 'vp9';
  as: 'mp4' | 'webm';
  width: number;
  height: number;
  perSecond: number;
  /** ITU-R BT.601 or BT.709, by which the values are made. */
  standard: 'bt601' | 'bt709';
  fullRange: boolean;
  tagged: boolean;
  /** Those of 625 lines (ITU-R BT.601) in place of BT.709's; a browser turns them into the screen's. */
  primaries?: 'bt470bg';
  /** By how much the values of each of its frames are brought down, 0 to 1; six frames as they are otherwise. */
  dimmed?: readonly number[];
  /** How many times as wide as high its pixels are; such pictures are drawn before they are coded anew. */
  wide?: number;
}

/** Red, green and blue of each bar, 0…255: 75 % bars (Recommendation ITU-R BT.471), and greys. */
const bars: readonly (readonly [number, number, number])[] = [
  ...[191, 0].flatMap((g) => [191, 0].flatMap((r) => [191, 0].map((b) => [r, g, b] as const))),
];

declare global {
  interface Window {
    codeBars(wanted: CodedBars): Promise<number[]>;
    /** What the browser draws of each bar of one of a file's pictures. */
    readBars(address: string, frame: number): Promise<number[][]>;
  }
}

/** Shares of red and blue in luma: ITU-R BT.601-7, 2.5.1, and BT.709-6, 3.2; written here once more on purpose. */
const shares = { bt601: [0.299, 0.114], bt709: [0.2126, 0.0722] } as const;

function valuesOf([r, g, b]: readonly number[], { standard, fullRange }: CodedBars): [number, number, number] {
  const [kr, kb] = shares[standard];
  const y = (kr * r! + (1 - kr - kb) * g! + kb * b!) / 255;
  const [cb, cr] = [(b! / 255 - y) / (2 * (1 - kb)), (r! / 255 - y) / (2 * (1 - kr))];
  const [base, luma, chroma] = fullRange ? [0, 255, 255] : [16, 219, 224];
  return [base + luma * y, 128 + chroma * cb, 128 + chroma * cr].map(Math.round) as [number, number, number];
}

window.codeBars = async (wanted) => {
  const { codec, as, width, height, perSecond, standard, fullRange, tagged, primaries = 'bt709', wide = 1 } = wanted;
  const { dimmed = [1, 1, 1, 1, 1, 1] } = wanted;
  const [w, h] = [width / 2, height / 2];
  const barAt = (x: number, across: number): number =>
    Math.min(bars.length - 1, Math.floor((x * bars.length) / across));
  const drawn = (by: number): Uint8Array => {
    const planes = new Uint8Array(width * height + 2 * w * h);
    const values = bars.map((bar) =>
      valuesOf(
        bar.map((value) => value * by),
        wanted,
      ),
    );
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) planes[y * width + x] = values[barAt(x, width)]![0];
    for (let y = 0; y < h; y++)
      for (let x = 0; x < w; x++)
        for (const plane of [1, 2] as const)
          planes[width * height + (plane - 1) * w * h + y * w + x] = values[barAt(x, w)]![plane];
    return planes;
  };
  const matrix = standard === 'bt709' ? 'bt709' : 'smpte170m';
  const colorSpace: VideoColorSpaceInit = { primaries, transfer: 'bt709', matrix, fullRange };
  const packets: [EncodedVideoChunk, EncodedVideoChunkMetadata | undefined][] = [];
  const encoder = new VideoEncoder({
    output: (...packet) => packets.push(packet),
    error: (error) => console.error(error),
  });
  const names = { avc: 'avc1.4d0028', vp8: 'vp8', vp9: 'vp09.00.40.08' };
  encoder.configure({ codec: names[codec], width, height, bitrate: 8e6 });
  for (const [frame, by] of dimmed.entries()) {
    const timestamp = Math.round((frame * 1e6) / perSecond);
    const picture = new VideoFrame(drawn(by), {
      format: 'I420',
      codedWidth: width,
      codedHeight: height,
      timestamp,
      colorSpace,
    });
    encoder.encode(picture, { keyFrame: frame === 0 });
    picture.close();
  }
  await encoder.flush();
  const target = new BufferTarget();
  const output = new Output({ format: as === 'mp4' ? new Mp4OutputFormat() : new WebMOutputFormat(), target });
  const source = new EncodedVideoPacketSource(codec);
  output.addVideoTrack(source, { frameRate: perSecond });
  await output.start();
  for (const [chunk, meta] of packets) {
    const { colorSpace: said, ...config } = meta?.decoderConfig ?? ({} as VideoDecoderConfig);
    const decoderConfig: VideoDecoderConfig = {
      ...config,
      ...(wide !== 1 && { displayAspectWidth: width * wide, displayAspectHeight: height }),
      ...(tagged && { colorSpace: { ...said, ...colorSpace } }),
    };
    await source.add(EncodedPacket.fromEncodedChunk(chunk), meta?.decoderConfig ? { decoderConfig } : undefined);
  }
  source.close();
  await output.finalize();
  return [...new Uint8Array(target.buffer!)];
};

window.readBars = async (address, frame) => {
  const input = new Input({ source: new UrlSource(address), formats: ALL_FORMATS });
  const samples = new VideoSampleSink((await input.getPrimaryVideoTrack())!).samples();
  let sample = (await samples.next()).value!;
  for (let at = 0; at < frame; at++) {
    sample.close();
    sample = (await samples.next()).value!;
  }
  await samples.return();
  const canvas = new OffscreenCanvas(sample.displayWidth, sample.displayHeight);
  const context = canvas.getContext('2d', { willReadFrequently: true })!;
  sample.draw(context, 0, 0);
  const { displayWidth, displayHeight } = sample;
  sample.close();
  input.dispose();
  return bars.map((_, bar) => {
    const x = Math.floor(((bar + 0.5) * displayWidth) / bars.length);
    return [...context.getImageData(x, Math.floor(displayHeight / 2), 1, 1).data.slice(0, 3)];
  });
};
