import { effectList, isSteadying } from '@hastig/core';
import { useState } from 'react';
import { useAppSelector } from '../../../store/hooks';
import { Choice } from '../../../ui/choice';
import type { PictureSheetProps } from '../commands/context';
import { FilmSmooth } from './clip-effects';
import { HoldPoint } from './hold-point';
import { SmoothCamera } from './smooth-camera';

type Way = 'steady' | 'smooth';

/** Steadies a clip: a point of its picture is held still, or its camera's own movement smoothed; or the film's cameras. */
export const SteadySheet = (props: PictureSheetProps) =>
  props.film ? <FilmSmooth {...props} /> : <ClipSteady {...props} />;

function ClipSteady(props: PictureSheetProps) {
  const { clipId, effect } = props;
  const project = useAppSelector((state) => state.project.document)!;
  const all = effectList.of(project, clipId).filter(isSteadying);
  const [before] = effect ? all.filter(({ id }) => id === effect) : all;
  const [way, setWay] = useState<Way>(before?.kind ?? 'steady');
  const ways = (
    <Choice<Way>
      label="Hold still"
      value={way}
      onChange={setWay}
      options={[
        { value: 'steady', label: 'A point' },
        { value: 'smooth', label: 'The camera' },
      ]}
    />
  );
  return way === 'steady' ? (
    <HoldPoint {...props} before={before} ways={ways} />
  ) : (
    <SmoothCamera {...props} before={before} ways={ways} />
  );
}
