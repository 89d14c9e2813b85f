import type { Clip, RetimeMap, Source } from '@hastig/contract';
import { clipMap, findClip, findSource } from '@hastig/core';
import type { RootState } from './store';

/** A clip with its source and its map, as the document has them. */
export interface OpenClip {
  clip: Clip;
  source: Source;
  map: RetimeMap;
}

/** The clip as the document has it; undefined where project or clip are not there. */
export function openClip(state: RootState, clipId: string): OpenClip | undefined {
  const { document } = state.project;
  const clip = document && findClip(document, clipId);
  const source = clip && findSource(document, clip.sourceId);
  return source ? { clip, source, map: clipMap(clip, source, document.sequence.rate) } : undefined;
}

/** The map that is shown: what is being tried out, or else the document's. */
export function shownMap(state: RootState, clipId: string): RetimeMap | undefined {
  const open = openClip(state, clipId);
  const { trial } = state.session;
  if (!open || trial?.clipId !== clipId) return open?.map;
  return clipMap({ ...open.clip, timing: trial.timing }, open.source, state.project.document!.sequence.rate);
}
