import type { ProjectDocument } from '@hastig/contract';

/** A project with its sources, and nothing on its timeline. */
export const emptied = (demo: ProjectDocument): ProjectDocument => ({
  ...demo,
  clips: [],
  groups: [],
  sequence: { ...demo.sequence, tracks: demo.sequence.tracks.map((track) => ({ ...track, items: [] })) },
});
