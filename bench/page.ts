import { startCamera, startTrack } from '@hastig/engine';
import { render } from '@hastig/engine/render';
import type { TrackQuestion } from '@hastig/engine/analyse';
import type { RenderJob } from '@hastig/engine';
import { formatFacts, pictureCodingOf } from '@hastig/core';
import { estimateRender } from '../engine/src/render/estimate';
import { outputFormat } from '../engine/src/render/formats';
import { GifCoder } from '../engine/src/render/gif-coder';
import { pictureEncoder } from '../engine/src/render/picture-encoder';
import { StillCoder } from '../engine/src/render/still-coder';
import {
  ALL_FORMATS,
  canEncodeVideo,
  CanvasSource,
  Input,
  Mp4OutputFormat,
  Output,
  Quality,
  StreamTarget,
  UrlSource,
  VideoSampleSink,
  VideoSampleSource,
  type VideoSample,
} from 'mediabunny';

declare global {
  interface Window {
    /** Frames per second of decoding and encoding a file's frames, nothing else. */
    plain(address: string): Promise<number>;
    /** Frames per second of decoding a file's frames, nothing else. */
    decoded(address: string): Promise<number>;
    /** Whether this browser has an encoder for a job's pictures. */
    canCode(job: RenderJob): Promise<boolean>;
    /** Frames per second of decoding a file's first frames and coding them as a job says, nothing else. */
    plainAs(address: string, job: RenderJob, wanted: number): Promise<number>;
    /** What a job is told to come to. */
    estimated(job: RenderJob): Promise<{ seconds: number; bytes: number }>;
    /** Renders; gives seconds of work and the bytes of the file. */
    rendered(job: RenderJob): Promise<{ took: number; bytes: number }>;
    /** Exports, and gives the bytes of the file. */
    exportedTo(job: RenderJob): Promise<number>;
    /** Frames per second of the engine's export. */
    exported(job: RenderJob): Promise<number>;
    /** Seconds that telling how the camera moves over so many frames takes, in workers. */
    analysed(url: string, bytes: number, frames: number): Promise<number>;
    /** Frames per second of following a box, both ways, in workers. */
    tracked(url: string, bytes: number, question: TrackQuestion, frames: number): Promise<number>;
    /** Makes a clip of flat, moving pictures, 16:9 and so many pixels high. */
    makeClip(seconds: number, fps: number, height: number): Promise<number>;
  }
}

const sink = (address: string): StreamTarget =>
  new StreamTarget(
    new WritableStream({
      write: async ({ data, position }) => {
        await fetch(`${address}?position=${position}`, { method: 'PUT', body: data });
      },
    }),
    { chunked: true, chunkSize: 2 ** 20 },
  );

window.plain = async (address) => {
  const input = new Input({ source: new UrlSource(address), formats: ALL_FORMATS });
  const track = (await input.getPrimaryVideoTrack())!;
  const output = new Output({ format: new Mp4OutputFormat({ fastStart: false }), target: sink('/out') });
  const source = new VideoSampleSource({
    codec: 'avc',
    quality: new Quality({ quality: 'high', preferBitrate: true }),
    keyFrameInterval: 2,
    latencyMode: 'quality',
  });
  output.addVideoTrack(source);
  await output.start();
  const started = performance.now();
  let frames = 0;
  for await (const sample of new VideoSampleSink(track).samples()) {
    await source.add(sample);
    sample.close();
    frames++;
  }
  await output.finalize();
  input.dispose();
  return (frames * 1000) / (performance.now() - started);
};

window.decoded = async (address) => {
  const input = new Input({ source: new UrlSource(address), formats: ALL_FORMATS });
  const track = (await input.getPrimaryVideoTrack())!;
  const started = performance.now();
  let frames = 0;
  for await (const sample of new VideoSampleSink(track).samples()) {
    sample.close();
    frames++;
  }
  input.dispose();
  return (frames * 1000) / (performance.now() - started);
};

window.analysed = async (url, bytes, frames) => {
  const started = performance.now();
  await startCamera({ url, bytes }, { from: 0, to: frames }, () => undefined).result;
  return (performance.now() - started) / 1000;
};

window.tracked = async (url, bytes, question, frames) => {
  const started = performance.now();
  await startTrack({ url, bytes }, question, () => undefined).result;
  return (frames * 1000) / (performance.now() - started);
};

window.canCode = async (job) => {
  const coding = pictureCodingOf(job);
  return !coding || canEncodeVideo(coding, { width: job.width, height: job.height });
};

/** The same encoders as a render's, fed with what is decoded. */
async function plainCoder(job: RenderJob): Promise<{ add(sample: VideoSample): Promise<void>; end(): Promise<void> }> {
  const { kind } = formatFacts[job.format];
  if (kind === 'film') {
    const output = new Output({ format: outputFormat(job), target: sink('/out') });
    const source = pictureEncoder(job);
    output.addVideoTrack(source, { maximumPacketCount: 1000 });
    await output.start();
    return { add: (sample) => source.add(sample), end: () => output.finalize() };
  }
  const coder = kind === 'stills' ? new StillCoder(job) : new GifCoder(job);
  let position = 0;
  return {
    add: async (sample) => {
      // A render has its file written, too.
      const body = new Blob([await coder.code(sample)]);
      await fetch(`/out?position=${position}`, { method: 'PUT', body });
      position += body.size;
    },
    end: async () => undefined,
  };
}

window.plainAs = async (address, job, wanted) => {
  const input = new Input({ source: new UrlSource(address), formats: ALL_FORMATS });
  const track = (await input.getPrimaryVideoTrack())!;
  const coder = await plainCoder(job);
  const started = performance.now();
  let frames = 0;
  for await (const sample of new VideoSampleSink(track).samples()) {
    if (frames < wanted) await coder.add(sample);
    sample.close();
    if (++frames >= wanted) break;
  }
  await coder.end();
  const took = performance.now() - started;
  input.dispose();
  return (frames * 1000) / took;
};

window.estimated = async (job) => {
  const { seconds = 0, bytes } = await estimateRender(job);
  return { seconds, bytes };
};

window.rendered = async (job) => {
  const { took, bytes } = await render(job, {
    onProgress: () => undefined,
    signal: new AbortController().signal,
  });
  return { took, bytes };
};

window.exportedTo = async (job) =>
  (await render(job, { onProgress: () => undefined, signal: new AbortController().signal })).bytes;

window.exported = async (job) => {
  const { frames, took } = await render(job, { onProgress: () => undefined, signal: new AbortController().signal });
  return frames / took;
};

window.makeClip = async (seconds, fps, height) => {
  const times = height / 360;
  const canvas = new OffscreenCanvas(640 * times, height);
  const context = canvas.getContext('2d', { alpha: false, willReadFrequently: true })!;
  context.scale(times, times);
  const output = new Output({ format: new Mp4OutputFormat({ fastStart: false }), target: sink('/clip') });
  const source = new CanvasSource(canvas, { codec: 'avc', bitrate: 600_000 * times, keyFrameInterval: 2 });
  output.addVideoTrack(source, { frameRate: fps });
  await output.start();
  for (let frame = 0; frame < seconds * fps; frame++) {
    context.fillStyle = '#345';
    context.fillRect(0, 0, 640, 360);
    context.fillStyle = '#fb7';
    context.fillRect((frame * 5) % 600, 100 + 80 * Math.sin(frame / 9), 60, 60);
    await source.add(frame / fps, 1 / fps);
  }
  await output.finalize();
  return seconds * fps;
};
