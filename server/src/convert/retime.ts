import { rename, rm } from 'node:fs/promises';
import {
  ALL_FORMATS,
  EncodedAudioPacketSource,
  EncodedPacketSink,
  EncodedVideoPacketSource,
  FilePathSource,
  FilePathTarget,
  Input,
  MovOutputFormat,
  Output,
  type EncodedPacket,
} from 'mediabunny';

/** When a picture is shown, in seconds. */
export interface Shown {
  from: number;
  seconds: number;
}

/**
 * Gives the pictures of a MOV of H.264 other times; nothing is coded anew. Where it fails the file is as it was.
 *
 * @param times of each picture, in order
 * @param soundFrom seconds at which its sound begins, counted as times are; where it has any
 */
export async function retime(path: string, times: readonly Shown[], soundFrom?: number): Promise<void> {
  const made = `${path}.timed`;
  const input = new Input({ source: new FilePathSource(path), formats: ALL_FORMATS });
  const output = new Output({ format: new MovOutputFormat(), target: new FilePathTarget(made) });
  try {
    const track = (await input.getPrimaryVideoTrack())!;
    const [pictures, sound] = [new EncodedVideoPacketSource('avc'), await soundOf(input, output, soundFrom)];
    const decoderConfig = (await track.getDecoderConfig())!;
    output.addVideoTrack(pictures);
    await output.start();
    // Whatever is first is at 0.
    const start = Math.min(times[0]?.from ?? 0, sound?.from ?? Infinity);
    const packets = new EncodedPacketSink(track).packets();
    let count = 0;
    for (let packet = await next(packets); packet; packet = await next(packets)) {
      const shown = times[count++];
      if (!shown) continue;
      const timestamp = shown.from - start;
      // A film's pictures and sound lie side by side: neither waits in memory for the other.
      await sound?.upTo(timestamp, start);
      await pictures.add(packet.clone({ timestamp, duration: shown.seconds }), { decoderConfig });
    }
    await sound?.upTo(Infinity, start);
    await output.finalize();
    await rename(made, path);
  } catch (error) {
    await output.cancel().catch(() => undefined);
    await rm(made, { force: true });
    throw error;
  } finally {
    input.dispose();
  }
}

const next = async (packets: AsyncGenerator<EncodedPacket>): Promise<EncodedPacket | undefined> =>
  ((await packets.next()) as IteratorResult<EncodedPacket, undefined>).value;

/** Carries the sound of a file into another, beginning at a time. */
async function soundOf(input: Input, output: Output, from: number | undefined) {
  const track = from === undefined ? null : await input.getPrimaryAudioTrack();
  if (!track || from === undefined) return undefined;
  const source = new EncodedAudioPacketSource(track.codec!);
  output.addAudioTrack(source);
  const packets = new EncodedPacketSink(track).packets();
  const [decoderConfig, began] = [(await track.getDecoderConfig())!, await track.getFirstTimestamp()];
  let packet: EncodedPacket | undefined;
  return {
    from,
    /** All that begins before a time of the output, whose 0 is `start`. */
    upTo: async (time: number, start: number): Promise<void> => {
      packet ??= await next(packets);
      while (packet && packet.timestamp - began + from - start < time) {
        await source.add(packet.clone({ timestamp: packet.timestamp - began + from - start }), { decoderConfig });
        packet = await next(packets);
      }
    },
  };
}
