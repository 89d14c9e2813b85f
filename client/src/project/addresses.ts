import { SEQUENCE } from '@hastig/core';

/** The place Beats of what lies on a timeline. */
export function beatsAddress(projectId: string, containerId: string): string {
  return containerId === SEQUENCE ? `/project/${projectId}/beats` : `/project/${projectId}/group/${containerId}/beats`;
}

/** The timeline that something lies on: the sequence's, or a group's. */
export function timelineAddress(projectId: string, containerId: string): string {
  return containerId === SEQUENCE ? `/project/${projectId}/timeline` : `/project/${projectId}/group/${containerId}`;
}
