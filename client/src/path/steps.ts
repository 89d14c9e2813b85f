import type { ProjectDocument, Timing } from '@hastig/contract';
import equal from 'fast-deep-equal';

/** The steps of the path through the demo, in order. */
export const pathSteps = ['slow', 'land', 'pitch', 'compare', 'render'] as const;
export type PathStep = (typeof pathSteps)[number];

/** What of a project tells whether a step was done on it: how it was when the path was begun. */
export interface PathStart {
  /** Timings by clip. */
  timings: Readonly<Record<string, Timing>>;
  pins: number;
  /** Clips whose pitch is kept. */
  kept: number;
}

/** Mean speeds below this are slow. */
const SLOW = 0.95;

const pinsIn = ({ clips }: ProjectDocument): number =>
  clips.reduce((sum, { timing }) => sum + (timing.pins?.length ?? 0), 0);
const keptIn = ({ clips }: ProjectDocument): number => clips.filter(({ sound }) => sound?.pitch === 'kept').length;

export function pathStart(project: ProjectDocument): PathStart {
  const timings = Object.fromEntries(project.clips.map(({ id, timing }) => [id, timing]));
  return { timings, pins: pinsIn(project), kept: keptIn(project) };
}

/** Whether a part of any clip was made slow since. */
function isSlowed({ clips }: ProjectDocument, { timings }: PathStart): boolean {
  return clips.some(({ id, timing }) => {
    if (equal(timings[id], timing)) return false;
    return timing.spans.some((span) => span.of === 'speed' && span.y.some((speed) => speed > 0 && speed < SLOW));
  });
}

/** The steps that are done by what a project has become; comparing and rendering leave no trace in it. */
export function stepsDoneIn(project: ProjectDocument, start: PathStart): PathStep[] {
  return [
    ...(isSlowed(project, start) ? (['slow'] as const) : []),
    ...(pinsIn(project) > start.pins ? (['land'] as const) : []),
    ...(keptIn(project) > start.kept ? (['pitch'] as const) : []),
  ];
}
