import type { Loudness } from '../sound';
import type { Program } from '../program';

/** Peaks that what is made louder keeps to, in dBTP, where the film has no limit of its own: EBU R 128 (2023). */
const PEAK_LIMIT = -1;

/** LU by which a file may be off what was asked. */
export const LOUDNESS_OFF = 0.1;

/** A program made louder or less loud, so that one that was measured comes to a loudness in LUFS; peaks are limited. */
export function levelled(program: Program, { integrated }: Pick<Loudness, 'integrated'>, target: number): Program {
  const { gain = 0, limit = PEAK_LIMIT } = program.master ?? {};
  return { ...program, master: { gain: gain + target - integrated, limit } };
}
