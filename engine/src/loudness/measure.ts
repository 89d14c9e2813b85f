import { LoudnessMeter, rateToNumber, type Loudness, type Program, type ProgramSpan } from '@hastig/core';
import { mixedToOne } from '../media/mixed-to-one';
import { ProgramSound } from '../media/program-sound';
import { SourcePool, type SourceLocations } from '../media/source-pool';

/** What is listened to: a stretch of the program, in its frames; and as how many channels it is written. */
export interface HeardPart {
  span?: ProgramSpan;
  channels?: 1 | 2;
}

/** Samples a second that are listened to: those of the filters of BS.1770. */
const SOUND_RATE = 48_000;

/**
 * How loud a whole program is, as it will be written; null where it has no sound. Throws what reading its sources throws.
 *
 * @param onProgress told the share that has been listened to
 * @param part what of it, and how it is written; all of it, both sides, unless told
 */
export async function measureLoudness(
  program: Program,
  sources: SourceLocations,
  onProgress: (share: number) => void,
  { span = { from: 0, to: program.length }, channels: written = 2 }: HeardPart = {},
): Promise<Loudness | null> {
  const pool = new SourcePool();
  await pool.locate(sources);
  try {
    const sound = new ProgramSound(program, pool);
    if (!(await sound.audible())) return null;
    const meter = new LoudnessMeter(SOUND_RATE, written);
    const { from, to } = span;
    const rate = rateToNumber(program.rate);
    const first = Math.round((from / rate) * SOUND_RATE);
    const samples = Math.round(((to - from) / rate) * SOUND_RATE);
    const silence = new Float32Array(SOUND_RATE);
    for (let done = 0; done < samples; done += SOUND_RATE) {
      const count = Math.min(SOUND_RATE, samples - done);
      const { channels } = await sound.read(first + done, count, SOUND_RATE);
      const both = channels ?? [silence.subarray(0, count), silence.subarray(0, count)];
      meter.add(written === 1 ? [mixedToOne(both)] : both);
      onProgress((done + count) / samples);
    }
    return meter.loudness;
  } finally {
    await pool.close();
  }
}
