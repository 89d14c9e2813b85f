import { LoudnessMeter, rateToNumber, type Loudness, type Program } from '@hastig/core';
import { ProgramSound } from '../media/program-sound';
import { SourcePool, type SourceLocations } from '../media/source-pool';
import { SOUND_RATE } from '../render/sound-feed';

/**
 * How loud a whole program is, as it will be written; null where it has no sound. Throws what reading its sources throws.
 *
 * @param onProgress told the share that has been listened to
 */
export async function measureLoudness(
  program: Program,
  sources: SourceLocations,
  onProgress: (share: number) => void,
): Promise<Loudness | null> {
  const pool = new SourcePool();
  await pool.locate(sources);
  try {
    const sound = new ProgramSound(program, pool);
    if (!(await sound.audible())) return null;
    const meter = new LoudnessMeter(SOUND_RATE, 2);
    const samples = Math.round((program.length / rateToNumber(program.rate)) * SOUND_RATE);
    const silence = new Float32Array(SOUND_RATE);
    for (let done = 0; done < samples; done += SOUND_RATE) {
      const count = Math.min(SOUND_RATE, samples - done);
      const { channels } = await sound.read(done, count, SOUND_RATE);
      meter.add(channels ?? [silence.subarray(0, count), silence.subarray(0, count)]);
      onProgress((done + count) / samples);
    }
    return meter.loudness;
  } finally {
    await pool.close();
  }
}
