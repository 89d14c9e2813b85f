import type { ExposureStep, ProjectDocument } from '@hastig/contract';
import { saysNothing } from '../../exposure';
import { EditRefused } from '../../retime';
import { findClip } from '../lookup';
import { needClip, withClip } from './items';

/** Whose pictures: some clips', by their ids, or those of the whole film. */
export type ExposureOwner = { clips: readonly string[] } | 'film';

/** How a clip's pictures are made, or the film's; in order, nothing where nothing is said. */
export function exposuresOf(project: ProjectDocument, owner: string | 'film'): readonly ExposureStep[] {
  return (owner === FILM ? project.sequence.exposures : findClip(project, owner)?.exposures) ?? [];
}

const FILM = 'film';

/** Gives clips or the film other steps; none leave no setting behind. */
export function setExposures(
  project: ProjectDocument,
  owner: ExposureOwner,
  change: (steps: readonly ExposureStep[]) => readonly ExposureStep[],
): ProjectDocument {
  if (owner === FILM) {
    const { exposures, ...sequence } = project.sequence;
    const steps = checked(change(exposures ?? []));
    return { ...project, sequence: saysNothing(steps) ? sequence : { ...sequence, exposures: steps } };
  }
  return owner.clips.reduce((state, id) => {
    needClip(state, id);
    return withClip(state, id, ({ exposures, ...clip }) => {
      const steps = checked(change(exposures ?? []));
      return saysNothing(steps) ? clip : { ...clip, exposures: steps };
    });
  }, project);
}

function checked(steps: readonly ExposureStep[]): ExposureStep[] {
  for (const { over, slow, shutter, samples, every, most, keys, evenLight } of steps) {
    if (over && !(over.to > over.from)) throw new EditRefused('over', 'The end must come after the start.');
    if ([slow, shutter, samples, every, most, keys, evenLight].every((said) => said === undefined))
      throw new EditRefused('step', 'Choose what becomes of slow parts, a shutter, or which frames are used.');
  }
  return [...steps];
}

/** Puts a step in the place of the one with its id, or after all others. */
export function putExposure(project: ProjectDocument, owner: ExposureOwner, step: ExposureStep): ProjectDocument {
  return setExposures(project, owner, (steps) =>
    steps.some(({ id }) => id === step.id) ? steps.map((one) => (one.id === step.id ? step : one)) : [...steps, step],
  );
}

/** Takes a step away. */
export function removeExposure(project: ProjectDocument, owner: ExposureOwner, stepId: string): ProjectDocument {
  return setExposures(project, owner, (steps) => steps.filter(({ id }) => id !== stepId));
}

/** Moves a step among the others, so many places later; what is last counts over what is before it. */
export function moveExposure(
  project: ProjectDocument,
  owner: ExposureOwner,
  stepId: string,
  by: number,
): ProjectDocument {
  return setExposures(project, owner, (steps) => {
    const index = steps.findIndex(({ id }) => id === stepId);
    if (index < 0) return steps;
    const to = Math.min(steps.length - 1, Math.max(0, index + by));
    return steps.toSpliced(index, 1).toSpliced(to, 0, steps[index]!);
  });
}
