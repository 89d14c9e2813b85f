import { largestScale, pictureMap } from '../picture';
import type { Program, ProgramItem } from './program';

/** By how much larger than whole in its frame a source's picture is shown at the most. */
interface Enlargements {
  of(sourceId: string): number;
}

/**
 * How large pictures are shown anywhere in a program, against as large as all of them fits: where a clip enlarges its picture,
 * or the group around it, more of it is needed than the frame has pixels. Never too little; for groups in groups, it may be
 * more than is ever seen.
 */
export function enlargements(program: Program): Enlargements {
  const { frame, sizes } = program;
  const times = new Map<string, number>();
  let groups = 1;
  const scaleOf = ({ of, picture }: ProgramItem): number => {
    if (!picture || !frame) return 1;
    const size = of.kind === 'source' ? (sizes[of.id] ?? frame) : frame;
    const [a, b, c, d] = pictureMap({ ...picture, scale: largestScale(picture) }, size, frame);
    const fitScale = Math.min(frame.width / size.width, frame.height / size.height);
    return Math.max(1, Math.sqrt(Math.abs(a * d - b * c)) / fitScale);
  };
  for (const { tracks } of [program, ...Object.values(program.groups)]) {
    for (const item of tracks.flatMap(({ items }) => items)) {
      if (!item.picture) continue;
      const scale = scaleOf(item);
      if (item.of.kind === 'group') groups *= scale;
      else times.set(item.of.id, Math.max(times.get(item.of.id) ?? 1, scale));
    }
  }
  return { of: (sourceId) => groups * (times.get(sourceId) ?? 1) };
}
