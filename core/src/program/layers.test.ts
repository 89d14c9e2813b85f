import type { PictureSettings, ProjectDocument } from '@hastig/contract';
import {
  addTrack,
  clipProgram,
  EditRefused,
  framesOf,
  leafFrames,
  groupClips,
  moveClips,
  muteClip,
  pictureAt,
  plainPicture,
  programOf,
  samePicture,
  seenAt,
  SEQUENCE,
  setPicture,
  singleLeaf,
  ungroup,
  type SeenFrame,
  type SeenPicture,
} from '..';
import { clipOf, rowOf } from '../../test/projects';

const small: PictureSettings = { ...plainPicture, scale: 0.25, x: 0.375, y: -0.375 };
const faint: PictureSettings = { ...plainPicture, opacity: 0.5 };

/** Two clips of ten frames, `c1` on a track above `c0`. */
function stacked(): ProjectDocument {
  const project = addTrack(rowOf(10, 10), SEQUENCE, 'picture', 'upper');
  return moveClips(project, ['c1'], 'upper', 0, 'leave');
}

/** A picture as text, from the lowest layer: `s0:3`, `[s0:3]` with settings, `{…}` for a group's. */
const text = (picture: SeenPicture): string =>
  picture
    .map(({ of, settings }) => {
      const frameText = ({ sourceId, frame }: SeenFrame): string => `${sourceId}:${frame}`;
      const leaf = 'sourceId' in of || 'parts' in of ? leafFrames(of).map(frameText).join('+') : undefined;
      const name = leaf ?? `{${text(of as SeenPicture)}}`;
      return settings ? `[${name}]` : name;
    })
    .join(' ');

const at = (project: ProjectDocument, frame = 3): string => text(pictureAt(programOf(project, SEQUENCE), frame));

describe('layers of a picture', () => {
  it('end at the uppermost one that hides the rest', () => {
    expect(at(stacked())).toBe('s1:3');
    expect(at(setPicture(stacked(), ['c1'], small))).toBe('s0:3 [s1:3]');
    expect(at(setPicture(stacked(), ['c1'], faint))).toBe('s0:3 [s1:3]');
    expect(at(setPicture(stacked(), ['c1'], { ...plainPicture, mirror: 'across' }))).toBe('[s1:3]');
    expect(at(setPicture(stacked(), ['c1'], { ...plainPicture, opacity: 0 }))).toBe('s0:3');
  });

  it('let the track below be seen beside a picture of another shape', () => {
    const project = stacked();
    const sources = project.sources.map((source) =>
      source.id === 's1'
        ? { ...source, facts: { ...source.facts, video: { ...source.facts.video!, width: 40, height: 40 } } }
        : source,
    );
    expect(at({ ...project, sources })).toBe('s0:3 s1:3');
  });

  it('of a group lie in the group’s frame, which lies in the sequence’s', () => {
    const inner = setPicture(stacked(), ['c1'], faint);
    const grouped = groupClips(inner, ['c0', 'c1'], { groupId: 'g', clipId: 'c-g', name: 'g' });
    // As it lies by itself it is no layer of its own.
    expect(at(grouped)).toBe('s0:3 [s1:3]');
    const turned = setPicture(grouped, ['c-g'], small);
    expect(at(turned)).toBe('[{s0:3 [s1:3]}]');
    expect(seenAt(programOf(turned, SEQUENCE), 3)).toEqual({ sourceId: 's1', frame: 3, clipId: 'c-g' });
    expect(framesOf(pictureAt(programOf(turned, SEQUENCE), 3)).map(({ clipId }) => clipId)).toEqual(['c-g', 'c-g']);
  });

  it('are all of the picture where a clip is looked at alone', () => {
    const project = setPicture(stacked(), ['c1'], small);
    expect(text(pictureAt(clipProgram(project, clipOf(project, 'c1')), 3))).toBe('s1:3');
  });

  it('are the same where frames and settings are', () => {
    const program = programOf(setPicture(stacked(), ['c1'], small), SEQUENCE);
    expect(samePicture(pictureAt(program, 3), pictureAt(program, 3.2))).toBe(true);
    expect(samePicture(pictureAt(program, 3), pictureAt(program, 4))).toBe(false);
    const faded = programOf(setPicture(stacked(), ['c1'], faint), SEQUENCE);
    expect(samePicture(pictureAt(program, 3), pictureAt(faded, 3))).toBe(false);
    expect(samePicture([], [])).toBe(true);
    expect(singleLeaf(pictureAt(program, 3))).toBeUndefined();
    expect(singleLeaf(pictureAt(programOf(stacked(), SEQUENCE), 3))).toMatchObject({ sourceId: 's1', frame: 3 });
  });
});

describe('picture settings of a clip', () => {
  it('that change nothing leave nothing behind', () => {
    const project = stacked();
    expect(setPicture(setPicture(project, ['c1'], small), ['c1'], plainPicture)).toEqual(project);
    expect(setPicture(setPicture(project, ['c1'], small), ['c1'], undefined)).toEqual(project);
  });

  it('must leave something of the picture', () => {
    const crop = { left: 0.5, top: 0, right: 0.5, bottom: 0 };
    expect(() => setPicture(stacked(), ['c1'], { ...plainPicture, crop })).toThrow(EditRefused);
  });

  it('of a group must be set back before it is undone; being muted stays with its clips', () => {
    const grouped = groupClips(stacked(), ['c0', 'c1'], { groupId: 'g', clipId: 'c-g', name: 'g' });
    const ids = (): (() => string) => {
      let count = 0;
      return () => `new${count++}`;
    };
    expect(() => ungroup(setPicture(grouped, ['c-g'], faint), 'c-g', ids())).toThrow(EditRefused);
    const apart = ungroup(muteClip(grouped, 'c-g', true), 'c-g', ids());
    expect(apart.clips.map(({ muted }) => muted)).toEqual([true, true]);
  });
});
