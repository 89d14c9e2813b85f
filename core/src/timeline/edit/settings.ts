import type { PictureSettings, ProjectDocument } from '@hastig/contract';
import { isPlain, plainPicture } from '../../picture';
import { EditRefused } from '../../retime';
import { needClip, withClip } from './items';
import { checkedName } from './name';

/** Renames a clip. */
export function renameClip(project: ProjectDocument, clipId: string, name: string): ProjectDocument {
  const kept = checkedName(name);
  return withClip(project, clipId, (clip) => ({ ...clip, name: kept }));
}

/** Sets whether a clip is heard. */
export function muteClip(project: ProjectDocument, clipId: string, muted: boolean): ProjectDocument {
  return withClip(project, clipId, ({ muted: _old, ...clip }) => (muted ? { ...clip, muted } : clip));
}

/** Sets how clips' pictures lie in their frame; a picture that changes nothing leaves no setting behind. */
export function setPicture(
  project: ProjectDocument,
  clipIds: readonly string[],
  picture: PictureSettings | undefined,
): ProjectDocument {
  const { crop } = picture ?? plainPicture;
  if (crop.left + crop.right >= 1 || crop.top + crop.bottom >= 1) {
    throw new EditRefused('crop', 'Nothing would be left of the picture. Crop less.');
  }
  return clipIds.reduce((state, id) => {
    needClip(state, id);
    return withClip(state, id, ({ picture: _old, ...clip }) =>
      picture && !isPlain(picture) ? { ...clip, picture } : clip,
    );
  }, project);
}
