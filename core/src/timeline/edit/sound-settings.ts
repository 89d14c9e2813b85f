import type { Master, PitchSettings, ProjectDocument, SoundSettings, TrackSound } from '@hastig/contract';
import { isPlainSound, plainSound, withoutPart, withPart } from '../../sound';
import { needClip, withClip } from './items';
import { withContainer } from '../lookup';

/** Sets how clips sound; what changes nothing leaves no setting behind. */
export function setSound(
  project: ProjectDocument,
  clipIds: readonly string[],
  change: (settings: SoundSettings) => SoundSettings,
): ProjectDocument {
  return clipIds.reduce((state, id) => {
    needClip(state, id);
    return withClip(state, id, ({ sound: before, ...clip }) => {
      const sound = change(before ?? plainSound);
      return isPlainSound(sound) ? clip : { ...clip, sound };
    });
  }, project);
}

/**
 * Sets what is decided about the pitch of clips, or of a stretch of their output. A shift that has keys keeps them.
 *
 * @param range output frames (real) of the clips' timing; the whole clips, parts and all, where it is null
 */
export function setPitch(
  project: ProjectDocument,
  clipIds: readonly string[],
  pitch: PitchSettings,
  range: { from: number; to: number } | null,
): ProjectDocument {
  return setSound(project, clipIds, (settings) => {
    if (range) return withPart(settings, { ...pitch, ...range });
    const { parts: _parts, ...rest } = settings;
    return { ...rest, ...pitch };
  });
}

/** Gives a stretch of a clip the clip's own pitch again. */
export function clearPitch(
  project: ProjectDocument,
  clipId: string,
  { from, to }: { from: number; to: number },
): ProjectDocument {
  return setSound(project, [clipId], (settings) => withoutPart(settings, from, to));
}

/** Sets how a track sounds in the mix. */
export function setTrackSound(
  project: ProjectDocument,
  containerId: string,
  trackId: string,
  sound: TrackSound,
): ProjectDocument {
  const { gain, pan, muted, solo, duck } = sound;
  const plain = gain === 0 && pan === 0 && !muted && !solo && !duck;
  const kept: TrackSound = { gain, pan, ...(muted && { muted }), ...(solo && { solo }), ...(duck && { duck }) };
  return withContainer(project, containerId, (container) => ({
    ...container,
    tracks: container.tracks.map(({ sound: before, ...track }) => {
      if (track.id !== trackId) return before ? { ...track, sound: before } : track;
      return plain ? track : { ...track, sound: kept };
    }),
  }));
}

/** Sets what becomes of the mix. */
export function setMaster(project: ProjectDocument, { gain, limit }: Master): ProjectDocument {
  const { master: _before, ...sequence } = project.sequence;
  const plain = gain === 0 && limit === undefined;
  return {
    ...project,
    sequence: plain ? sequence : { ...sequence, master: { gain, ...(limit !== undefined && { limit }) } },
  };
}
