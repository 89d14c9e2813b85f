import { join } from 'node:path';
import {
  ALL_FORMATS,
  AudioSample,
  AudioSampleSource,
  EncodedPacketSink,
  EncodedVideoPacketSource,
  FilePathSource,
  FilePathTarget,
  Input,
  MkvOutputFormat,
  MovOutputFormat,
  Output,
  type Rotation,
} from 'mediabunny';
import { fixture, scratch } from './files';

/** A clip made of another's pictures, as they are coded: none is coded anew. */
export interface Remade {
  /** The clip; `plates-24.mp4` unless told. */
  of?: string;
  /** Seconds at which each picture begins; only as many pictures as there are times. */
  times: readonly number[];
  /** Seconds at which the last picture ends. */
  end: number;
  /** A track of sound: the seconds at which it begins, and at which knocks are heard in it. */
  sounds?: readonly { start: number; end: number; knocks: readonly number[]; name?: string }[];
  /** Clockwise degrees that the pictures are turned for display. */
  rotation?: Rotation;
  /** What it is written as; MOV unless told. MKV counts milliseconds. */
  as?: 'mov' | 'mkv';
  /** Pixels in which its 320 are shown, where they are not square. */
  displayWidth?: number;
}

const SAMPLE_RATE = 48_000;
/** Seconds of a knock. */
export const KNOCK = 0.005;

function knocksAt(start: number, end: number, knocks: readonly number[]): AudioSample {
  const data = new Float32Array(Math.round((end - start) * SAMPLE_RATE));
  for (const knock of knocks) {
    for (let index = 0; index < KNOCK * SAMPLE_RATE; index++) {
      const place = Math.round((knock - start) * SAMPLE_RATE) + index;
      data[place] = 0.8 * Math.cos((2 * Math.PI * 1000 * index) / SAMPLE_RATE);
    }
  }
  return new AudioSample({ data, format: 'f32', numberOfChannels: 1, sampleRate: SAMPLE_RATE, timestamp: start });
}

/** Writes a clip of the pictures of `plates-24.mp4` (every one numbered, groups of 24) at other times, with sound of its own. */
export async function remake({
  of = fixture('plates-24.mp4'),
  times,
  end,
  sounds = [],
  rotation,
  displayWidth = 320,
  as = 'mov',
}: Remade): Promise<string> {
  const file = join(await scratch(), `clip.${as}`);
  const input = new Input({ source: new FilePathSource(of), formats: ALL_FORMATS });
  const track = (await input.getPrimaryVideoTrack())!;
  const config = { ...(await track.getDecoderConfig())!, displayAspectWidth: displayWidth, displayAspectHeight: 180 };
  const output = new Output({
    format: as === 'mkv' ? new MkvOutputFormat() : new MovOutputFormat(),
    target: new FilePathTarget(file),
  });
  const pictures = new EncodedVideoPacketSource(track.codec!);
  output.addVideoTrack(pictures, rotation === undefined ? {} : { rotation });
  const tracks = sounds.map(({ name }) => {
    const source = new AudioSampleSource({ codec: 'pcm-s16' });
    output.addAudioTrack(source, name === undefined ? {} : { name });
    return source;
  });
  await output.start();
  await Promise.all(
    sounds.map(async ({ start, end: last, knocks }, index) => {
      const sample = knocksAt(start, last, knocks);
      await tracks[index]!.add(sample);
      sample.close();
      tracks[index]!.close();
    }),
  );
  let picture = 0;
  for await (const packet of new EncodedPacketSink(track).packets()) {
    if (picture === times.length) break;
    const timestamp = times[picture]!;
    const next = times[picture + 1] ?? end;
    await pictures.add(packet.clone({ timestamp, duration: next - timestamp }), { decoderConfig: config });
    picture++;
  }
  pictures.close();
  await output.finalize();
  input.dispose();
  return file;
}
