import { effectList, thinFlashes, type PictureOwner } from '@hastig/core';
import { PlainForm } from '../../form/project-form';
import { countField } from '../../form/specs';

const flashesOf = (project: Parameters<typeof effectList.of>[0], owner: string | 'film'): number =>
  effectList.of(project, owner).filter(({ kind }) => kind === 'flash').length;

/** Takes flashes away, so that every so many one stays. */
export function ThinSheet({ owner, onClose }: { owner: string | 'film'; onClose(): void }) {
  const whose: PictureOwner = owner === 'film' ? 'film' : { clips: [owner] };
  return (
    <PlainForm
      title="Thin out flashes"
      label="thin out flashes"
      onClose={onClose}
      fields={() => ({ keep: countField('Keep one in', '2', 2) })}
      edit={({ keep }) =>
        (state) =>
          thinFlashes(state, whose, keep)
        }
      outcome={(before, after) => `${flashesOf(before, owner)} → ${flashesOf(after, owner)} flashes`}
    />
  );
}
