import type { VideoColours } from '@hastig/core';
import type { InputVideoTrack } from 'mediabunny';

/** What stands between a decoder and whoever reads its pictures: by how much smaller they are wanted, and how many lie ready. */
export class Valve {
  ready = 0;
  private listener: () => void = () => undefined;

  /**
   * @param factor by which pictures are made smaller
   * @param from seconds of the first picture that is read; those of an open group that are shown before it are passed over
   * @param wants whether a picture will be looked at, by its time in microseconds; in place of others a blank is given
   * @param colours that pictures have; null for what the decoder says
   */
  constructor(
    readonly factor: number,
    private readonly from = -Infinity,
    readonly wants: (timestamp: number) => boolean = () => true,
    readonly colours: VideoColours | null = null,
  ) {}

  /**
   * A picture was made.
   *
   * @param timestamp in microseconds
   */
  made(timestamp: number): void {
    // Times are cut to whole microseconds on their way. What nobody will read is not waited for.
    if (timestamp + 1 >= this.from * 1e6) this.ready++;
  }

  /** A picture was taken. */
  taken(): void {
    this.ready--;
    this.listener();
  }

  onTaken(listener: () => void): void {
    this.listener = listener;
  }
}

// In a decoder's configuration, which goes through the reading library as it is.
const VALVE = Symbol('valve');
type Tagged = VideoDecoderConfig & { [VALVE]?: Valve };

/** The valve that a decoder with this configuration has. */
export const valveOf = (config: VideoDecoderConfig): Valve | undefined => (config as Tagged)[VALVE];

/** Has all decoders that are opened for a track from now on have a valve. */
export function putValve(track: InputVideoTrack, valve: () => Valve): void {
  const plain = track.getDecoderConfig.bind(track);
  track.getDecoderConfig = async () => {
    const config: Tagged | null = await plain();
    return config && { ...config, [VALVE]: valve() };
  };
}
