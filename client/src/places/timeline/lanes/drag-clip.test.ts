import type { ProjectDocument } from '@hastig/contract';
import { addSource, findClip, layoutOf, newProject, makeRate, removeClips, trimClip } from '@hastig/core';
import { facts } from '../../../../test/project';
import { draggedClip, type DragState } from './drag-clip';

/** Three whole clips of 150 frames in a row. */
function film(): ProjectDocument {
  return ['a', 'b', 'c'].reduce(
    (project, id) => addSource(project, { id: `s-${id}`, name: `${id}.mp4`, sha256: 'a'.repeat(64), facts }, id),
    newProject('Film', makeRate(30)),
  );
}

const row = (project: ProjectDocument): string =>
  layoutOf(project, project.sequence.tracks[0]!)
    .map(({ clip, from, to }) => `${clip?.id ?? '–'}:${from}-${to}`)
    .join(' ');

/** A drag by frames at a frame a pixel, so that what snaps does so within nine frames. */
const by = (frames: number, more: Partial<DragState> = {}): DragState => ({
  by: frames,
  trackId: film().sequence.tracks[0]!.id,
  view: { from: 0, to: 450, width: 450 },
  playhead: 1000,
  snap: false,
  edges: 'trim',
  rippleMode: 'close',
  ...more,
});
const clip = (clipId: string, ids = [clipId]) => ({ what: 'clip', clipId, ids }) as const;
const edge = (clipId: string, side: 'start' | 'end') => ({ what: 'edge', clipId, side }) as const;

describe('a clip that is dragged', () => {
  it('goes where it is put, and the others make room', () => {
    const { project, label } = draggedClip(film(), clip('c'), by(-280));
    expect(row(project)).toBe('c:0-150 a:150-300 b:300-450');
    expect(label).toBe('move a clip');
  });

  it('leaves its room where it is asked to', () => {
    const { project } = draggedClip(film(), clip('b'), by(320, { rippleMode: 'leave' }));
    expect(row(project)).toBe('a:0-150 –:150-300 c:300-450 –:450-470 b:470-620');
  });

  it('takes all that is chosen along', () => {
    const { project, label } = draggedClip(film(), clip('b', ['b', 'c']), by(-140));
    expect(row(project)).toBe('b:0-150 c:150-300 a:300-450');
    expect(label).toBe('move clips');
  });

  it('draws to edges and to the playhead, and not to its own', () => {
    const lifted = removeClips(film(), ['b'], 'leave');
    const free = draggedClip(lifted, clip('a'), by(146, { rippleMode: 'leave' }));
    expect(free.words).toBe('starts at frame 146');
    const drawn = draggedClip(lifted, clip('a'), by(146, { rippleMode: 'leave', snap: true }));
    // Its end comes to rest at the beginning of c.
    expect(drawn.words).toBe('starts at frame 150');
    const playhead = draggedClip(lifted, clip('a'), by(60, { rippleMode: 'leave', snap: true, playhead: 64 }));
    expect(playhead.words).toBe('starts at frame 64');
    expect(draggedClip(lifted, clip('a'), by(3, { rippleMode: 'leave', snap: true })).words).toBe('starts at frame 0');
  });
});

describe('an edge that is dragged', () => {
  it('hides frames, and shows them again, no more than there are', () => {
    const shorter = draggedClip(film(), edge('b', 'end'), by(-40));
    expect(row(shorter.project)).toBe('a:0-150 b:150-260 c:260-410');
    expect(shorter.words).toBe('110 frames, 40 left');
    const again = draggedClip(shorter.project, edge('b', 'end'), by(500));
    expect(row(again.project)).toBe('a:0-150 b:150-300 c:300-450');
    expect(findClip(again.project, 'b')!.timing).toEqual(findClip(film(), 'b')!.timing);
  });

  it('leaves at least a frame, and nothing at all where there is no handle', () => {
    expect(draggedClip(film(), edge('a', 'end'), by(-400)).words).toBe('1 frames, 149 left');
    const start = film();
    expect(draggedClip(start, edge('a', 'start'), by(-20)).project).toBe(start);
  });

  it('changes the speed where that is asked for', () => {
    const { project, words, label } = draggedClip(film(), edge('b', 'end'), by(150, { edges: 'stretch' }));
    expect(row(project)).toBe('a:0-150 b:150-450 c:450-600');
    expect(words).toBe('50%, 300 frames');
    expect(label).toBe('change a clip’s speed');
  });

  it('draws to the playhead', () => {
    const trimmed = trimClip(film(), 'b', 'end', -60, 'close');
    const { words } = draggedClip(trimmed, edge('b', 'end'), by(17, { snap: true, playhead: 262 }));
    expect(words).toBe('112 frames, 38 left');
  });
});
