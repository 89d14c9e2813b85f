import { SEQUENCE } from '@hastig/core';

/** The place Beats of what lies on a timeline. */
export function beatsAddress(projectId: string, containerId: string): string {
  return containerId === SEQUENCE ? `/project/${projectId}/beats` : `/project/${projectId}/group/${containerId}/beats`;
}

/** Versions of a clip, or of the film, and two of them side by side. */
export const compareAddress = (projectId: string | null, clipId: string | undefined): string =>
  clipId ? `/project/${projectId}/clip/${clipId}/compare` : `/project/${projectId}/compare`;

/** The timeline that something lies on: the sequence's, or a group's. */
export function timelineAddress(projectId: string, containerId: string): string {
  return containerId === SEQUENCE ? `/project/${projectId}/timeline` : `/project/${projectId}/group/${containerId}`;
}
