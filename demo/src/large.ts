import type { ProjectDocument } from '@hastig/contract';

/** How much there is of everything. */
interface LargeSize {
  sources: number;
  clips: number;
  markers: number;
}

/** The largest project that is expected to be worked on like a small one. */
export const LARGE: LargeSize = { sources: 500, clips: 5000, markers: 20_000 };

/** Frames of one clip: some shots of a second or so, one after the other. */
const LENGTHS = [18, 31, 24, 47, 12];

/**
 * A project of many sources, clips and markers, made of the demo's: the same files and timings over and over, on two picture
 * tracks, with markers all along.
 */
export function largeProject(demo: ProjectDocument, { sources, clips, markers }: LargeSize): ProjectDocument {
  const shapes = demo.clips.filter(({ of }) => of.kind === 'source');
  const made = Array.from({ length: sources }, (_, n) => {
    const like = shapes[n % shapes.length]!;
    const source = demo.sources.find(({ id }) => id === like.of.id)!;
    return { source: { ...source, id: `s${n}`, name: `Roll ${n + 1}.mp4` }, like };
  });
  const rows: { clip: string }[][] = [[], []];
  const cut = Array.from({ length: clips }, (_, n) => {
    const { source, like } = made[n % sources]!;
    rows[n % 2]!.push({ clip: `c${n}` });
    return {
      ...like,
      id: `c${n}`,
      name: `Shot ${n + 1}`,
      of: { kind: 'source' as const, id: source.id },
      shown: { from: (n * 7) % 40, frames: LENGTHS[n % LENGTHS.length]! },
    };
  });
  const frames = (clips / 2) * (LENGTHS.reduce((sum, length) => sum + length, 0) / LENGTHS.length);
  return {
    ...demo,
    name: `${clips} shots`,
    sources: made.map(({ source }) => source),
    groups: [],
    clips: cut,
    sequence: {
      ...demo.sequence,
      tracks: rows.map((items, n) => ({ id: `picture-${n + 1}`, kind: 'picture', name: `Picture ${n + 1}`, items })),
      markers: Array.from({ length: markers }, (_, n) => ({
        ...{ id: `m${n}`, at: Math.floor((n * frames) / markers), name: n % 50 ? '' : `Scene ${n / 50 + 1}` },
        tone: (['oak', 'moss', 'slate', 'clay', 'plum'] as const)[n % 5]!,
      })),
    },
  };
}
