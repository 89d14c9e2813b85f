import type { ProjectDocument, Track } from '@hastig/contract';
import fc from 'fast-check';
import {
  addTrack,
  EditRefused,
  framesOf,
  groupClips,
  integrityErrors,
  picturePlan,
  plainSound,
  ProgramMix,
  programOf,
  SEQUENCE,
  setSound,
  splitClip,
  ungroup,
  Voices,
} from '..';
import { madeSupply } from '../sound/test-supply';
import { group, newId, rowOf, withSound } from '../../test/projects';

/** Samples a second: enough to tell levels of steady values. */
const RATE = 3000;

/** What is seen at each frame, from the lowest layer up. */
function pictures(project: ProjectDocument): string[] {
  const plan = picturePlan(programOf(project, SEQUENCE));
  return Array.from({ length: plan.count }, (_, n) =>
    framesOf(plan.at(n))
      .map(({ sourceId, frame }) => `${sourceId}:${frame}`)
      .join(' '),
  );
}

/** What is heard: sources are steady values, each its own, more on the left than on the right. */
async function heard(project: ProjectDocument): Promise<Float32Array[]> {
  const program = programOf(project, SEQUENCE);
  const valueOf = (id: string): number => 0.01 * 2 ** Number(id.slice(1));
  const supply = (id: string) =>
    madeSupply([() => valueOf(id), () => valueOf(id) / 2], { sampleRate: RATE, pictureRate: 30 });
  const mix = new ProgramMix(program, async (id) => supply(id), new Voices());
  const { channels } = await mix.read(0, (program.length / 30) * RATE, RATE);
  return channels ?? [new Float32Array(0), new Float32Array(0)];
}

/** The largest difference of what is heard; Jest's own comparison takes seconds. */
function apart(a: readonly Float32Array[], b: readonly Float32Array[]): number {
  let most = 0;
  for (const side of [0, 1]) {
    const [one, other] = [a[side]!, b[side]!];
    for (let n = 0; n < Math.max(one.length, other.length); n++)
      most = Math.max(most, Math.abs((one[n] ?? 0) - (other[n] ?? 0)));
  }
  return most;
}

const settings = fc.record({
  off: fc.constantFrom(false, false, false, true),
  gain: fc.constantFrom(0, 0, -6, 3),
  pan: fc.constantFrom(0, 0, 0, 0.5),
  muted: fc.constantFrom(false, false, false, true),
  solo: fc.constantFrom(false, false, false, false, true),
});
const clips = fc.record({
  gap: fc.constantFrom(0, 0, 5, 12),
  fadeIn: fc.constantFrom(0, 0, 4),
  cross: fc.constantFrom(0, 0, 0, 4),
});
const shape = fc.record({
  tracks: fc.array(fc.record({ settings, row: fc.array(clips, { minLength: 0, maxLength: 2 }) }), {
    minLength: 4,
    maxLength: 4,
  }),
  chosen: fc.array(fc.nat(7), { minLength: 1, maxLength: 4 }),
});

/** Three picture tracks and one of sound, each with some of the clips `c0` … `c7` of 20 frames. */
function projectOf({ tracks: wanted }: Shape): ProjectDocument {
  let project = withSound(rowOf(...Array<number>(8).fill(20)));
  for (const [index, kind] of (['picture', 'picture', 'sound'] as const).entries())
    project = addTrack(project, SEQUENCE, kind, `t${index + 1}`);
  let next = 0;
  const all = new Set<string>();
  const tracks = project.sequence.tracks.map((track, index): Track => {
    const { settings: sound, row } = wanted[index]!;
    const { off, ...mix } = sound;
    const items = row.flatMap(({ gap }) => {
      const clip = `c${next++}`;
      all.add(clip);
      return [...(gap > 0 ? [{ gap }] : []), { clip }];
    });
    return { ...track, items, ...(off && { off }), sound: { ...mix } };
  });
  project = {
    ...project,
    sequence: { ...project.sequence, tracks },
    clips: project.clips.filter(({ id }) => all.has(id)),
  };
  next = 0;
  for (const { row } of wanted)
    for (const { fadeIn, cross } of row) {
      const id = `c${next++}`;
      if (fadeIn || cross)
        project = setSound(project, [id], () => ({
          ...plainSound,
          ...(fadeIn && { fadeIn: { frames: fadeIn, shape: 'even' as const } }),
          ...(cross && { cross: { frames: cross, shape: 'even' as const } }),
        }));
    }
  return project;
}

interface Shape {
  tracks: {
    settings: { off: boolean; gain: number; pan: number; muted: boolean; solo: boolean };
    row: { gap: number; fadeIn: number; cross: number }[];
  }[];
  chosen: number[];
}

describe('grouping and ungrouping', () => {
  const tally = { grouped: 0, refused: 0, apart: 0 };

  it('change nothing that is seen or heard, or are refused before they are made', async () => {
    await fc.assert(
      fc.asyncProperty(shape, async (drawn) => {
        const before = projectOf(drawn);
        const ids = [...new Set(drawn.chosen.map((n) => `c${n}`))].filter((id) =>
          before.clips.some((clip) => clip.id === id),
        );
        if (ids.length === 0) return;
        const [seen, sounds] = [pictures(before), await heard(before)];
        let grouped: ProjectDocument;
        try {
          grouped = groupClips(before, ids, { groupId: 'g', clipId: 'c-g', name: 'g' });
          tally.grouped++;
        } catch (error) {
          expect(error).toBeInstanceOf(EditRefused);
          tally.refused++;
          return;
        }
        expect(integrityErrors(grouped)).toEqual([]);
        expect(pictures(grouped)).toEqual(seen);
        expect(apart(await heard(grouped), sounds)).toBeLessThan(1e-5);
        let loose: ProjectDocument;
        try {
          loose = ungroup(grouped, 'c-g', newId);
          tally.apart++;
        } catch (error) {
          expect(error).toBeInstanceOf(EditRefused);
          return;
        }
        expect(integrityErrors(loose)).toEqual([]);
        expect(pictures(loose)).toEqual(seen);
        expect(apart(await heard(loose), sounds)).toBeLessThan(1e-5);
      }),
      { numRuns: 200, seed: 20_261_130 },
    );
    // Neither way is rare.
    expect(tally.grouped).toBeGreaterThan(60);
    expect(tally.apart).toBeGreaterThan(50);
    expect(tally.refused).toBeGreaterThan(5);
  });

  it('keep what the issue found: a gain once, what is off off, and what lay between between', async () => {
    const quiet = withSound(rowOf(20, 20));
    const tracks = quiet.sequence.tracks.map((track) => ({ ...track, sound: { gain: -6, pan: 0 } }));
    const project = { ...quiet, sequence: { ...quiet.sequence, tracks } };
    expect(apart(await heard(group(project, ['c0', 'c1'])), await heard(project))).toBeLessThan(1e-6);
  });
});

describe('a fade that is cut in two', () => {
  it.each(['even', 'smooth', 'equal'] as const)('keeps its course (%s)', async (shapeOf) => {
    const project = setSound(withSound(rowOf(60)), ['c0'], () => ({
      ...plainSound,
      fadeIn: { frames: 50, shape: shapeOf },
      fadeOut: { frames: 30, shape: shapeOf },
    }));
    const before = await heard(project);
    let split = project;
    for (const [id, at] of [
      ['c0', 20],
      ['b', 45],
      ['c', 52],
    ] as const)
      split = splitClip(split, id === 'c0' ? 'c0' : id, at, id === 'c0' ? 'b' : id === 'b' ? 'c' : 'd');
    expect(split.clips).toHaveLength(4);
    const after = await heard(split);
    // The short fades at the cuts are left out: where a clip goes on by itself there are none.
    expect(apart(after, before)).toBeLessThan(1e-4);
  });
});
