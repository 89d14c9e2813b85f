import { rename, rm } from 'node:fs/promises';
import {
  ALL_FORMATS,
  EncodedPacketSink,
  EncodedVideoPacketSource,
  FilePathSource,
  FilePathTarget,
  Input,
  MovOutputFormat,
  Output,
} from 'mediabunny';
import type { Shown } from './gif';

/**
 * Gives the pictures of a MOV of H.264 other times; nothing is coded anew. Where it fails the file is as it was.
 *
 * @param times of each picture, in order
 * @returns how many pictures there were: as many as times where all is well
 */
export async function retime(path: string, times: readonly Shown[]): Promise<number> {
  const made = `${path}.timed`;
  const input = new Input({ source: new FilePathSource(path), formats: ALL_FORMATS });
  const output = new Output({ format: new MovOutputFormat(), target: new FilePathTarget(made) });
  try {
    const track = (await input.getPrimaryVideoTrack())!;
    const decoderConfig = (await track.getDecoderConfig())!;
    const pictures = new EncodedVideoPacketSource('avc');
    output.addVideoTrack(pictures);
    await output.start();
    let count = 0;
    for await (const packet of new EncodedPacketSink(track).packets()) {
      const shown = times[count++];
      if (shown)
        await pictures.add(packet.clone({ timestamp: shown.from, duration: shown.seconds }), { decoderConfig });
    }
    await output.finalize();
    await rename(made, path);
    return count;
  } catch (error) {
    await output.cancel().catch(() => undefined);
    await rm(made, { force: true });
    throw error;
  } finally {
    input.dispose();
  }
}
