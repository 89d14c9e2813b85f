import { clipOf, group, newId, rowOf } from '../../test/projects';
import { duplicateClips, moveClips, paceClip, programOf, removeClips, SEQUENCE, splitClip, trimClip } from '..';
import { programUpdate, updatedProgram, type ProgramUpdate } from './update';

const many = rowOf(...Array.from({ length: 60 }, (_, n) => 20 + (n % 7)));
const before = programOf(many, SEQUENCE);

// As it arrives in a worker.
const sent = (update: ProgramUpdate): ProgramUpdate => structuredClone(update);
const itemsIn = ({ tracks }: ProgramUpdate): number =>
  tracks.flatMap(({ runs }) => runs).reduce((sum, run) => sum + ('items' in run ? run.items.length : 0), 0);

describe('what is told of a program that follows another', () => {
  const edits = {
    'a trim, and all that follows is earlier': trimClip(many, 'c3', 'end', -4, 'close'),
    'a split': splitClip(many, 'c10', programOf(many, SEQUENCE).tracks[0]!.items[10]!.from + 5, newId()),
    'a clip taken out': removeClips(many, ['c5'], 'close'),
    'a clip moved to another place': moveClips(many, ['c40'], 'picture-1', 60, 'close'),
    'another speed': paceClip(many, 'c7', 33),
    'a copy': duplicateClips(many, ['c8'], [newId()]),
    'clips in a group': group(many, ['c20', 'c21']),
  };

  it.each(Object.entries(edits))('leads to it: %s; and names what is as it was', (_, project) => {
    const after = programOf(project, SEQUENCE);
    const has = updatedProgram(undefined, sent(programUpdate(undefined, before)));
    const update = programUpdate(before, after);
    expect(updatedProgram(has, sent(update))).toEqual(after);
    expect(itemsIn(update)).toBeLessThanOrEqual(2);
    expect(update.sizes).toBeNull();
    // And back again.
    expect(updatedProgram(updatedProgram(has, sent(update)), sent(programUpdate(after, before)))).toEqual(before);
  });

  it('tells a clip whose group became longer, though clip and groups are the same objects', () => {
    const grouped = group(many, ['c20', 'c21']);
    const told = programOf(grouped, SEQUENCE);
    const clips = grouped.clips.map((clip) =>
      clip.id === 'c20' ? { ...clip, shown: { ...clip.shown, frames: clip.shown.frames - 3 } } : clip,
    );
    const after = programOf({ ...grouped, clips }, SEQUENCE);
    const shows = ({ of }: { of: { kind: string } }): boolean => of.kind === 'group';
    expect(after.tracks[0]!.items.find(shows)!.map.sourceFrames).toBe(
      told.tracks[0]!.items.find(shows)!.map.sourceFrames - 3,
    );
  });

  it('leaves what is alike the same object, so that nothing is worked out twice', () => {
    const has = updatedProgram(undefined, sent(programUpdate(undefined, before)));
    const project = trimClip(many, 'c3', 'end', -4, 'close');
    const next = updatedProgram(has, sent(programUpdate(before, programOf(project, SEQUENCE))));
    expect(next.tracks[0]!.items[0]).toBe(has.tracks[0]!.items[0]);
    expect(next.tracks[0]!.items[50]!.map).toBe(has.tracks[0]!.items[50]!.map);
    expect(clipOf(project, 'c3').shown.frames).toBe(next.tracks[0]!.items[3]!.frames);
  });
});
