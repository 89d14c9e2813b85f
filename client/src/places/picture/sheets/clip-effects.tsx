import { effectList, findClip, findSource, placeOf } from '@hastig/core';
import { Text } from 'react-native';
import { FlashSheet } from '../../../effects/sheets/flash-sheet';
import { ReframeSheet } from '../../../effects/sheets/reframe-sheet';
import { SmoothFilm } from '../../../effects/sheets/smooth-film';
import { ThinSheet } from '../../../effects/sheets/thin-sheet';
import { useAppSelector } from '../../../store/hooks';
import type { PictureSheetProps } from '../commands/context';
import { useExtent } from '../../../effects/use-extent';

/** Frames of the film that lie before a clip's output. */
function useShift(clipId: string): number {
  const project = useAppSelector((state) => state.project.document)!;
  const place = placeOf(project, clipId);
  return place ? place.from - findClip(project, clipId)!.shown.from : 0;
}

/** Flashes of the clip; one of the film's where it is opened. */
export function ClipFlash({ clipId, effect, film, onClose }: PictureSheetProps) {
  const shift = useShift(clipId);
  const owner = film ? 'film' : clipId;
  return <FlashSheet {...{ owner, onClose }} shift={film ? shift : 0} {...(effect && { effect })} />;
}

/** What is seen of the frame while the clip plays. */
export function ClipReframe({ clipId, map, effect, film = false, onClose }: PictureSheetProps) {
  const project = useAppSelector((state) => state.project.document)!;
  const owner = film ? 'film' : clipId;
  const before = effectList.of(project, owner).find(({ id }) => id === effect);
  const extent = useExtent({ clipId, map, film, before });
  const of = findClip(project, clipId)!.of;
  const tracks = film || of.kind !== 'source' ? [] : (findSource(project, of.id)?.tracks ?? []);
  return (
    <ReframeSheet {...{ owner, extent, tracks, onClose }} {...(effect && { effect })} onStage={!film}>
      {extent.needsMarks ? (
        <Text className="font-sans text-[13px] text-quiet">For a part only, mark in and out first.</Text>
      ) : null}
    </ReframeSheet>
  );
}

/** The cameras of the film's clips, smoothed, seen from one of them. */
export function FilmSmooth({ clipId, map, effect, onClose }: PictureSheetProps) {
  const project = useAppSelector((state) => state.project.document)!;
  const before = effectList.of(project, 'film').find(({ id }) => id === effect);
  const extent = useExtent({ clipId, map, film: true, before });
  return <SmoothFilm {...{ extent, onClose }} {...(effect && { effect })} />;
}

export const ClipThin = ({ clipId, onClose }: PictureSheetProps) => <ThinSheet owner={clipId} onClose={onClose} />;
