import type { ProjectDocument } from '@hastig/contract';
import { findClip, placeOf } from '@hastig/core';
import { subjectEntered, type Subject } from './session-slice';
import type { AppThunk } from './store';

/**
 * The playhead on another subject: the same picture, where a clip and what it lies in follow each other; else the beginning.
 *
 * @param playhead output frame on the old subject
 */
export function carriedPlayhead(project: ProjectDocument, from: Subject | null, to: Subject, playhead: number): number {
  if (!from) return 0;
  const clipId = 'clip' in from ? from.clip : 'clip' in to ? to.clip : undefined;
  const [clip, place] = clipId ? [findClip(project, clipId), placeOf(project, clipId)] : [];
  if (!clip || !place) return 0;
  if ('clip' in from && 'container' in to && place.containerId === to.container) {
    return Math.min(Math.max(place.from, place.from + playhead - clip.shown.from), place.to - 1);
  }
  if ('container' in from && 'clip' in to && place.containerId === from.container) {
    const inside = Math.min(Math.max(place.from, playhead), place.to - 1);
    return clip.shown.from + inside - place.from;
  }
  return 'clip' in from && 'clip' in to && from.clip === to.clip ? playhead : 0;
}

/** Puts something else on the stage. */
export function enterSubject(subject: Subject): AppThunk {
  return (dispatch, getState) => {
    const { project, session } = getState();
    const playhead = project.document
      ? carriedPlayhead(project.document, session.subject, subject, session.playhead)
      : 0;
    dispatch(subjectEntered({ subject, playhead }));
  };
}
