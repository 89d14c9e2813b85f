import { rateToNumber } from '@hastig/core';
import type { ProbedMedia } from '@hastig/probe';
import { checkDecodable, openMedia, type MediaLocation } from './open';
import { FrameServer } from './frame-server';
import { SoundReader } from './sound-reader';

/** A source opened for playing or rendering: its frames and its sound. */
export interface OpenSource {
  media: ProbedMedia;
  frames: FrameServer;
  /** Null where there is no sound or this browser cannot decode it. */
  sound: SoundReader | null;
  close(): Promise<void>;
}

/**
 * @param budget bytes of decoded pictures to keep; the frame server's own unless given
 * @throws RefusedMedia where the file cannot be read or its picture not decoded
 */
export async function openSource(location: MediaLocation, budget?: number): Promise<OpenSource> {
  const media = await openMedia(location);
  try {
    await checkDecodable(media);
    const { audio, facts, index } = media;
    const heard = audio && facts.audio && (await audio.canDecode());
    const frames = new FrameServer(media.video, index, budget);
    return {
      media,
      frames,
      sound: heard
        ? new SoundReader(
            audio,
            facts.audio!.channels,
            facts.audio!.sampleRate,
            index.timestamps[0]!,
            rateToNumber(facts.video.rate),
          )
        : null,
      close: async () => {
        await frames.close();
        media.dispose();
      },
    };
  } catch (error) {
    media.dispose();
    throw error;
  }
}
