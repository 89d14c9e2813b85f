import type { Clip, ProjectDocument } from '@hastig/contract';
import type { WantedThumb } from '@hastig/engine';
import { findSource, kindOf, pictureSize, programOf, seenAt } from '@hastig/core';
import { useMemo } from 'react';
import { useWaveforms } from '../../../sound/use-waveforms';
import { useThumbs } from '../../../stage/thumbs-context';
import { useAppSelector } from '../../../store/hooks';
import type { ThumbSource, ThumbWish } from '../../../time-view/draw-threads';

/** Small pictures of what a clip is made of, by its frames: a source's, or what a group shows. */
export interface FootageThumbs extends ThumbSource {
  /** The pictures that are wanted now, the most wanted first. */
  want(wishes: readonly ThumbWish[]): void;
  /** Whether all of some are here. */
  has(wishes: readonly ThumbWish[]): boolean;
}

/** Which source frame stands at a frame of what a clip is made of. */
function frameIn(
  project: ProjectDocument,
  of: Clip['of'],
  frame: number,
): { sourceId: string; frame: number } | undefined {
  return of.kind === 'source' ? { sourceId: of.id, frame } : seenAt(programOf(project, of.id), frame);
}

export function useFootageThumbs(clip: Clip): FootageThumbs {
  const { thumbs, made } = useThumbs();
  const project = useAppSelector((state) => state.project.document)!;
  const { of } = clip;
  const source = of.kind === 'source' ? findSource(project, of.id) : undefined;
  const heard = source && kindOf(source.facts) === 'sound' ? source : undefined;
  const waves = useWaveforms(useMemo(() => (heard ? [heard] : []), [heard]));
  return useMemo<FootageThumbs>(() => {
    const { width, height } = pictureSize(project, { of });
    const inSources = (wishes: readonly ThumbWish[]): WantedThumb[] =>
      wishes.flatMap(({ frame, tolerance }) => {
        const at = frameIn(project, of, frame);
        return at ? [{ ...at, tolerance }] : [];
      });
    return {
      ...(heard && { peak: (from, to) => waves.between(heard, from, to) }),
      aspect: width / height,
      get: (frame, reach) => {
        const at = frameIn(project, of, frame);
        return at && thumbs?.get(at.sourceId, at.frame, reach);
      },
      want: (wishes) => thumbs?.want(heard ? [] : inSources(wishes)),
      has: (wishes) => heard !== undefined || !!thumbs?.has(inSources(wishes)),
    };
    // Made anew when there are more pictures, so that what draws them draws again.
  }, [project, of, thumbs, made, waves, heard]);
}
