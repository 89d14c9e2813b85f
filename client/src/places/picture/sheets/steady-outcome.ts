import type { ProjectDocument, RetimeMap } from '@hastig/contract';
import { clipSteadied, effectList, findClip, formatPercent, isSteadying } from '@hastig/core';
import { steadyWords } from '../../../effects/effect-words';

/** What steadying a clip comes to, in a line: how, and how much larger it makes the picture. */
export function steadyOutcome(project: ProjectDocument, clipId: string, map: RetimeMap, id: string): string {
  const now = effectList
    .of(project, clipId)
    .filter(isSteadying)
    .find((one) => one.id === id);
  const made = now && clipSteadied(project, findClip(project, clipId)!, map, now);
  if (!now || !made) return 'Nothing changes here';
  if (made.edges !== 'mirror')
    return `${steadyWords(now)}, scaled to ${formatPercent(made.times)}${made.edges === 'follow' ? ' where it must be' : ''}.`;
  const forced = now.edges !== 'mirror' ? ' It moves too far to be scaled.' : '';
  return `${steadyWords(now)}, mirrored edges.${forced}`;
}
