import { rateToNumber } from '@hastig/core';
import { AudioSampleSource, type Output } from 'mediabunny';
import { fileSound, prepareSound } from './formats';
import type { Made } from './made';
import { markPackets } from './marked';
import { pictureEncoder } from './picture-encoder';
import { RenderPictures } from './pictures';
import { SoundFeed } from './sound-feed';
import { spanOf } from './span';

/** Frames of the program between two looks at how far the sound of a file without picture is. */
const SOUND_FRAMES = 10;

/**
 * Adds a track of sound to a file, and gives what feeds it with so many seconds.
 *
 * @param beside packets that are reserved in the file's index beside the sound's
 */
async function soundOf({ job, side, ahead }: Made, output: Output, seconds: number, beside = 0): Promise<SoundFeed> {
  const sound = fileSound(job)!;
  await prepareSound(job);
  const { config, sampleRate, channels, delay, packetsOf } = sound;
  const samples = Math.round(seconds * sampleRate);
  const track = new AudioSampleSource(config);
  output.addAudioTrack(track, { maximumPacketCount: packetsOf(samples + delay) + beside });
  const first = Math.round((spanOf(job).from / rateToNumber(job.program.rate)) * sampleRate);
  return new SoundFeed(track, side, { samples, delay, ahead, sampleRate, channels, first });
}

/** Encodes picture, and sound where it is wished and there is some. */
export async function encodeFilm(made: Made, output: Output): Promise<void> {
  const { job, plan, studio, side, told } = made;
  const rate = rateToNumber(job.rate);
  const pictures = new RenderPictures(job, plan, studio);
  const picture = pictureEncoder(job);
  output.addVideoTrack(picture, { frameRate: rate, maximumPacketCount: plan.count + markPackets(job) });
  const sound = job.sound && (await side.audible()) ? await soundOf(made, output, plan.count / rate) : undefined;
  await output.start();
  try {
    for (let n = 0; n < plan.count; n++) {
      const sample = await pictures.get(n);
      try {
        sample.setTimestamp(n / rate);
        sample.setDuration(1 / rate);
        await picture.add(sample);
        await sound?.upTo(n / rate);
        await told.done(n + 1, sample);
      } finally {
        sample.close();
      }
    }
  } finally {
    pictures.close();
  }
  await sound?.upTo(plan.count / rate);
}

/** Encodes sound alone. What is read between two words of progress is as long as some frames of the program. */
export async function encodeSound(made: Made, output: Output): Promise<void> {
  const { job, plan, told } = made;
  const { from, to } = spanOf(job);
  const seconds = (to - from) / rateToNumber(job.program.rate);
  const sound = await soundOf(made, output, seconds, markPackets(job));
  await output.start();
  for (let n = SOUND_FRAMES; n < plan.count + SOUND_FRAMES; n += SOUND_FRAMES) {
    const done = Math.min(n, plan.count);
    await sound.upTo((done / plan.count) * seconds);
    await told.done(done);
  }
}
