import { pictureCodingOf, rateToNumber, soundCodingOf } from '@hastig/core';
import {
  ALL_FORMATS,
  EncodedAudioPacketSource,
  EncodedPacketSink,
  EncodedVideoPacketSource,
  Input,
  UrlSource,
  type EncodedPacket,
  type InputTrack,
  type Output,
} from 'mediabunny';
import { fileSound } from './formats';
import type { Made } from './made';
import { markPackets } from './marked';

/** Thrown where stretches do not fit together: they were encoded otherwise than each other, or not all of them. */
class PartsDiffer extends Error {
  override readonly name = 'PartsDiffer';
}

const opened = (url: string): Input => new Input({ source: new UrlSource(url), formats: ALL_FORMATS });

/** The packets of a track of a part, in order. */
async function* packetsOf(track: InputTrack): AsyncGenerator<EncodedPacket> {
  yield* new EncodedPacketSink(track).packets();
}

/**
 * Joins a film's stretches and its sound, which were encoded before, without encoding anything again.
 *
 * @throws PartsDiffer
 */
export async function joinFilm({ job, plan, told }: Made, output: Output): Promise<void> {
  const { pictures, sound } = job.parts!;
  const rate = rateToNumber(job.rate);
  const track = new EncodedVideoPacketSource(pictureCodingOf(job)!);
  output.addVideoTrack(track, { frameRate: rate, maximumPacketCount: plan.count + markPackets(job) });
  const heard = sound === undefined ? undefined : await JoinedSound.of(sound, job, plan.count / rate, output);
  try {
    await output.start();
    let n = 0;
    let coded: string | undefined;
    for (const url of pictures) {
      const input = opened(url);
      try {
        const part = await input.getPrimaryVideoTrack();
        if (!part) throw new PartsDiffer('A stretch of the film can’t be read. Render it anew.');
        const decoderConfig = (await part.getDecoderConfig())!;
        const words = configWords(decoderConfig);
        if (coded !== undefined && words !== coded)
          throw new PartsDiffer(
            'The machines’ encoders differ: their browsers are of different versions. Remove one of them and render anew.',
          );
        coded = words;
        for await (const packet of packetsOf(part)) {
          // As it was counted: a container's ticks may have rounded it.
          await track.add(packet.clone({ timestamp: n / rate, duration: 1 / rate }), { decoderConfig });
          await heard?.upTo(n / rate);
          await told.done(++n);
        }
      } finally {
        input.dispose();
      }
    }
    if (n !== plan.count) throw new PartsDiffer(`There are ${n} of ${plan.count} pictures. Render it anew.`);
    await heard?.upTo(Infinity);
  } finally {
    heard?.close();
  }
}

function configWords({ codec, codedWidth, codedHeight, description }: VideoDecoderConfig): string {
  const bytes = description ? new Uint8Array(description as ArrayBuffer) : [];
  return [codec, codedWidth, codedHeight, ...bytes].join(' ');
}

/** The sound of a film, encoded before, as it is written beside the pictures. */
class JoinedSound {
  private next: IteratorResult<EncodedPacket> | undefined;

  private constructor(
    private readonly input: Input,
    private readonly track: EncodedAudioPacketSource,
    private readonly packets: AsyncGenerator<EncodedPacket>,
    private readonly decoderConfig: AudioDecoderConfig,
  ) {}

  static async of(url: string, job: Made['job'], seconds: number, output: Output): Promise<JoinedSound> {
    const input = opened(url);
    const part = (await input.getPrimaryAudioTrack())!;
    const track = new EncodedAudioPacketSource(soundCodingOf(job)!);
    const { packetsOf: most, sampleRate, delay } = fileSound(job)!;
    output.addAudioTrack(track, { maximumPacketCount: most(Math.round(seconds * sampleRate) + delay) });
    return new JoinedSound(input, track, packetsOf(part), (await part.getDecoderConfig())!);
  }

  /** Writes all that begins before a moment of the file, in seconds. */
  async upTo(seconds: number): Promise<void> {
    const { packets, track, decoderConfig } = this;
    this.next ??= await packets.next();
    while (!this.next.done && this.next.value.timestamp < seconds) {
      await track.add(this.next.value, { decoderConfig });
      this.next = await packets.next();
    }
  }

  close(): void {
    this.input.dispose();
  }
}
