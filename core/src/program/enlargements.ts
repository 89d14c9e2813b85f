import type { Effect } from '@hastig/contract';
import { boxInFrame, effectsOn, framedBox } from '../effects';
import { largestScale, pictureMap, type Size } from '../picture';
import type { Program, ProgramItem } from './program';

/** By how much larger than whole in its frame a source's picture is shown at the most. */
interface Enlargements {
  of(sourceId: string): number;
}

/** By how much larger reframes show their pictures at the most. */
function reframedScale(effects: readonly Effect[] | undefined, frame: Size | undefined): number {
  if (!frame) return 1;
  return effectsOn(effects).reduce((scale, effect) => {
    if (effect.kind !== 'reframe') return scale;
    const times = [effect.from, effect.to].map((box) => framedBox(boxInFrame(box, effect.shape, frame)).scale);
    return scale * Math.max(1, ...times);
  }, 1);
}

/**
 * How large pictures are shown anywhere in a program, against as large as all of them fits: where a clip enlarges its picture,
 * or the group around it, more of it is needed than the frame has pixels. Never too little; for groups in groups, it may be
 * more than is ever seen.
 */
export function enlargements(program: Program): Enlargements {
  const { frame, sizes, compared } = program;
  if (compared) {
    const both = [compared.a, compared.b].map(enlargements);
    return { of: (sourceId) => Math.max(...both.map((one) => one.of(sourceId))) };
  }
  const times = new Map<string, number>();
  let groups = reframedScale(program.effects, frame);
  const scaleOf = ({ of, picture }: ProgramItem): number => {
    if (!picture || !frame) return 1;
    const size = of.kind === 'source' ? (sizes[of.id] ?? frame) : frame;
    const [a, b, c, d] = pictureMap({ ...picture, scale: largestScale(picture) }, size, frame);
    const fitScale = Math.min(frame.width / size.width, frame.height / size.height);
    return Math.max(1, Math.sqrt(Math.abs(a * d - b * c)) / fitScale);
  };
  for (const { tracks } of [program, ...Object.values(program.groups)]) {
    for (const item of tracks.flatMap(({ items }) => items)) {
      const steadied = (item.steady !== undefined && program.steadies?.[item.steady]?.times) || 1;
      const scale = scaleOf(item) * reframedScale(item.effects, frame) * steadied;
      if (scale === 1) continue;
      if (item.of.kind === 'group') groups *= scale;
      else times.set(item.of.id, Math.max(times.get(item.of.id) ?? 1, scale));
    }
  }
  return { of: (sourceId) => groups * (times.get(sourceId) ?? 1) };
}
