import { SEQUENCE } from '@hastig/core';

/** The timeline that something lies on: the sequence's, or a group's. */
export function timelineAddress(projectId: string, containerId: string): string {
  return containerId === SEQUENCE ? `/project/${projectId}/timeline` : `/project/${projectId}/group/${containerId}`;
}
