import type { ProjectDocument, RetimeMap } from '@hastig/contract';
import { clipSteadied, effectList, findClip, formatPercent, isSteadying } from '@hastig/core';
import { effectWords } from '../../../effects/effect-words';

/** What steadying a clip comes to, in a line: how, and how much larger it makes the picture. */
export function steadyOutcome(project: ProjectDocument, clipId: string, map: RetimeMap, id: string): string {
  const now = effectList
    .of(project, clipId)
    .filter(isSteadying)
    .find((one) => one.id === id);
  const made = now && clipSteadied(project, findClip(project, clipId)!, map, now);
  if (!now || !made) return 'Nothing changes here';
  const { edges } = made;
  const forced = edges !== now.edges ? ' It moves too far to be scaled: its edges are mirrored.' : '';
  return `${effectWords(now)}. ${edges === 'mirror' ? `Size stays.${forced}` : `Scaled to ${formatPercent(made.times)}.`}`;
}
