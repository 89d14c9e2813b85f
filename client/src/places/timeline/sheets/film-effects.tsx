import { effectList } from '@hastig/core';
import { Text } from 'react-native';
import { FlashSheet } from '../../../effects/sheets/flash-sheet';
import { ReframeSheet } from '../../../effects/sheets/reframe-sheet';
import { SmoothFilm } from '../../../effects/sheets/smooth-film';
import { ThinSheet } from '../../../effects/sheets/thin-sheet';
import { useFilmExtent } from '../../../effects/use-extent';
import { useAppSelector } from '../../../store/hooks';
import type { TimelineSheetProps } from '../commands/context';

type FilmEffectProps = Pick<TimelineSheetProps, 'effect' | 'onClose'>;

/** Flashes of the film, at its cuts and markers. */
export const FilmFlash = ({ effect, onClose }: FilmEffectProps) => (
  <FlashSheet key={effect} owner="film" onClose={onClose} {...(effect && { effect })} />
);

/** What is seen of the film's frame. */
export function FilmReframe({ effect, onClose }: FilmEffectProps) {
  const project = useAppSelector((state) => state.project.document)!;
  const extent = useFilmExtent(effectList.of(project, 'film').find(({ id }) => id === effect));
  return (
    <ReframeSheet key={effect} owner="film" onStage extent={extent} onClose={onClose} {...(effect && { effect })}>
      {extent.needsMarks ? (
        <Text className="font-sans text-[13px] text-quiet">For a part only, mark in and out first.</Text>
      ) : null}
    </ReframeSheet>
  );
}

/** The cameras of the film's clips, smoothed. */
export function FilmSteady({ effect, onClose }: FilmEffectProps) {
  const project = useAppSelector((state) => state.project.document)!;
  const extent = useFilmExtent(effectList.of(project, 'film').find(({ id }) => id === effect));
  return <SmoothFilm key={effect} {...{ extent, onClose }} {...(effect && { effect })} />;
}

export const FilmThin = ({ onClose }: FilmEffectProps) => <ThinSheet owner="film" onClose={onClose} />;
