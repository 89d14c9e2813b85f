import { rateToNumber, type Stretch } from '@hastig/core';
import { AudioSampleSource, type Output } from 'mediabunny';
import { fileSound, prepareSound } from './formats';
import type { Made } from './made';
import { markPackets } from './marked';
import { RenderPictures } from './pictures';
import { SoundFeed } from './sound-feed';
import { spanOf } from './span';
import { StretchedPictures } from './stretched-pictures';

/** Frames of the program between two looks at how far the sound of a file without picture is. */
const SOUND_FRAMES = 10;

/** Thrown where a film has no sound that can be decoded here. */
class NothingToHear extends Error {
  override readonly name = 'NothingToHear';
}

/** The pictures that a job encodes. */
export function stretchOf({ job: { only }, plan }: Pick<Made, 'job' | 'plan'>): Stretch {
  return only && only !== 'sound' ? only : { from: 0, to: plan.count };
}

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
  const { from, to } = stretchOf(made);
  const pictures = new RenderPictures(job, plan, studio);
  const picture = new StretchedPictures(job, plan.count);
  output.addVideoTrack(picture.track, { frameRate: rate, maximumPacketCount: to - from + markPackets(job) });
  const audible = job.sound && !job.only && (await side.audible());
  const sound = audible ? await soundOf(made, output, plan.count / rate) : undefined;
  await output.start();
  try {
    for (let n = from; n < to; n++) {
      const sample = await pictures.get(n);
      try {
        sample.setTimestamp(n / rate);
        sample.setDuration(1 / rate);
        await picture.add(sample, n);
        await sound?.upTo(n / rate);
        await told.done(n + 1 - from, sample);
      } finally {
        sample.close();
      }
    }
    await picture.end();
  } finally {
    pictures.close();
    await picture.giveUp();
  }
  await sound?.upTo(plan.count / rate);
}

/** The sound of a film by itself, in the film's format. Throws NothingToHear. */
export async function encodeFilmSound(made: Made, output: Output): Promise<void> {
  const { job, plan, side } = made;
  if (!(await side.audible())) throw new NothingToHear();
  await encodeSoundOf(made, output, plan.count / rateToNumber(job.rate));
}

/** Encodes sound alone. What is read between two words of progress is as long as some frames of the program. */
export async function encodeSound(made: Made, output: Output): Promise<void> {
  const { from, to } = spanOf(made.job);
  await encodeSoundOf(made, output, (to - from) / rateToNumber(made.job.program.rate));
}

async function encodeSoundOf(made: Made, output: Output, seconds: number): Promise<void> {
  const { job, plan, told } = made;
  const sound = await soundOf(made, output, seconds, markPackets(job));
  await output.start();
  for (let n = SOUND_FRAMES; n < plan.count + SOUND_FRAMES; n += SOUND_FRAMES) {
    const done = Math.min(n, plan.count);
    await sound.upTo((done / plan.count) * seconds);
    await told.done(done);
  }
}
