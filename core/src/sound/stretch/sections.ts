import { speedOf, type SoundRun, type SoundSource } from '../run';

/** Seconds of output that are stretched from one beginning: wherever one asks, not more is made before it. */
export const CELL = 4;
/** Seconds of output between two looks at the speed. */
const LOOK = 0.005;
/** Seconds that sound must go as it is to be left as it is. */
const SHORTEST = 0.25;
/** A speed that differs from the pitch by less than this share is the same. */
const SAME = 1e-6;

/** A stretch of a run, in seconds from its beginning: read as it is, where its speed is what its pitch asks for; or stretched. */
export interface Section {
  from: number;
  to: number;
  asItIs: boolean;
}

/** How many cells a run has. */
export const cellsOf = (run: SoundRun): number => Math.max(1, Math.ceil((run.to - run.from) / CELL - 1e-9));

/** The sections of one cell of a run that has a voice, in order. They follow from the run alone, whatever is asked of it. */
export function sectionsOf(run: SoundRun, source: SoundSource, cell: number): Section[] {
  const [begin, end] = [cell * CELL, Math.min((cell + 1) * CELL, run.to - run.from)];
  const looks = Math.max(1, Math.ceil((end - begin) / LOOK - 1e-9));
  const found: Section[] = [];
  for (let look = 0; look < looks; look++) {
    const from = begin + look * LOOK;
    const to = Math.min(end, from + LOOK);
    // At both ends and between, so that no ramp passes for the speed it only goes through.
    const asItIs = [from + 1e-6, (from + to) / 2, to - 1e-6].every((at) => isAsItIs(run, source, run.from + at));
    const last = found.at(-1);
    if (last?.asItIs === asItIs) last.to = to;
    else found.push({ from, to, asItIs });
  }
  // What is too short to be worth a joint is stretched along with what lies beside it.
  const kept: Section[] = [];
  for (const section of found) {
    const asItIs = section.asItIs && section.to - section.from >= SHORTEST;
    const last = kept.at(-1);
    if (last?.asItIs === asItIs) last.to = section.to;
    else kept.push({ ...section, asItIs });
  }
  return kept;
}

function isAsItIs(run: SoundRun, source: SoundSource, seconds: number): boolean {
  const pitch = run.voice!.pitchAt(seconds, source.pictureRate);
  if (run.voice!.formantsKept && Math.abs(pitch - 1) > SAME) return false;
  return Math.abs(Math.abs(speedOf(run, source, seconds)) / pitch - 1) < SAME;
}
