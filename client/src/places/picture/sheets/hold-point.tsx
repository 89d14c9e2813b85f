import type { EdgeWay, PictureTrack, ProjectDocument, Smooth, Steady } from '@hastig/contract';
import {
  DOUBTFUL,
  effectList,
  findClip,
  findSource,
  keptPoints,
  mendedTrack,
  putTrack,
  trackPoints,
  withoutTracks,
} from '@hastig/core';
import { nanoid } from '@reduxjs/toolkit';
import { useMemo, useState, type ReactNode } from 'react';
import { edgeOptions } from '../../../effects/effect-words';
import { BoxFields } from '../../../effects/tracking/box-fields';
import { TrackGraph } from '../../../effects/tracking/track-graph';
import { useBoxTracking } from '../../../effects/tracking/use-box-tracking';
import { ProjectSheet } from '../../../form/project-sheet';
import { useAppSelector } from '../../../store/hooks';
import { Button } from '../../../ui/button';
import { Choice } from '../../../ui/choice';
import type { PictureSheetProps } from '../commands/context';
import { steadyOutcome } from './steady-outcome';
import { useStretch } from './use-stretch';

interface HoldPointProps extends PictureSheetProps {
  before: Steady | Smooth | undefined;
  /** The choice of what is held. */
  ways: ReactNode;
}

/** Holds one or two points of a clip's source still: a box on the stage says which, and they are followed through all of it. */
export function HoldPoint({ clipId, map, before, ways, onClose }: HoldPointProps) {
  const project = useAppSelector((state) => state.project.document)!;
  const clip = findClip(project, clipId)!;
  const source = findSource(project, clip.of.id)!;
  const steady = before?.kind === 'steady' ? before : undefined;
  const id = useMemo(() => before?.id ?? nanoid(12), [before?.id]);
  const [edges, setEdges] = useState<EdgeWay>(before?.edges ?? 'scale');
  const [tracks, setTracks] = useState<readonly PictureTrack[]>(() =>
    (steady?.tracks ?? []).flatMap((one) => source.tracks?.find((track) => track.id === one) ?? []),
  );
  const { fields, over, refused } = useStretch({ clipId, map, before });
  // What a box is placed for: a new point, or one that is in doubt here.
  const [placing, setPlacing] = useState<'point' | 'mend' | null>(tracks.length === 0 ? 'point' : null);
  const tracking = useBoxTracking({ source, map, active: placing !== null }, (points, frame, box) => {
    setTracks((now) => {
      const last = now.at(-1);
      if (placing === 'mend' && last) {
        const mended = keptPoints(mendedTrack(trackPoints(last), points));
        return [...now.slice(0, -1), { ...last, id: nanoid(12), at: mended }];
      }
      return [...now, { id: nanoid(12), name: `Point ${frame}`, frame, box, at: keptPoints(points) }];
    });
    setPlacing(null);
  });
  const stretch = JSON.stringify(over);
  // While a box is placed the picture is seen as it was filmed.
  const edits = useMemo(() => {
    const [first] = tracks;
    if (!first) return undefined;
    const put =
      (off: boolean) =>
      (state: ProjectDocument): ProjectDocument => {
        if (refused) throw refused;
        const kept = tracks.reduce((one, track) => putTrack(one, source.id, track), state);
        const made: Steady = {
          ...{ id, kind: 'steady', edges, frame: first.frame, tracks: tracks.map((track) => track.id) },
          ...(off && { off: true }),
          ...(over && { over }),
        };
        return withoutTracks(effectList.put(kept, { clips: [clipId] }, made), source.id, steady?.tracks ?? []);
      };
    return { kept: put(!!before?.off), hidden: put(true) };
  }, [tracks, edges, id, clipId, source.id, stretch, refused?.message, before?.off]);
  const graphs = useMemo(() => tracks.map((track) => ({ id: track.id, points: trackPoints(track) })), [tracks]);
  const doubted = graphs.at(-1)?.points.some(({ confidence }) => confidence < DOUBTFUL) ?? false;
  const startOver = (): void => {
    setTracks([]);
    setPlacing('point');
  };
  return (
    <ProjectSheet
      title="Steady"
      label="steady a clip"
      waiting="Track a point to see a preview."
      edit={tracking.placing ? edits?.hidden : edits?.kept}
      {...(edits && { kept: edits.kept })}
      onClose={onClose}
      outcome={(_, after) => steadyOutcome(after, clipId, map, id)}
    >
      {placing !== 'mend' && tracking.progress === null ? ways : null}
      <BoxFields tracking={tracking} hint={hintOf(placing, tracks.length)}>
        {!placing && doubted ? <Button label="Mend here" onPress={() => setPlacing('mend')} /> : null}
        {!placing && tracks.length === 1 ? (
          <Button label="Add a second point" onPress={() => setPlacing('point')} />
        ) : null}
        {tracks.length > 0 ? <Button label="Start over" onPress={startOver} /> : null}
      </BoxFields>
      {graphs.map((track) => (
        <TrackGraph key={track.id} points={track.points} frame={tracks[0]!.frame} />
      ))}
      {tracks.length > 0 ? (
        <>
          <Choice<EdgeWay> label="Edges" value={edges} onChange={setEdges} options={edgeOptions} />
          {fields}
        </>
      ) : null}
    </ProjectSheet>
  );
}

function hintOf(placing: 'point' | 'mend' | null, tracks: number): string {
  if (placing === 'mend') return 'Drag the box over it where it was lost. Frames in doubt are tracked from here.';
  if (placing) return 'Drag the box on the stage over what should stand still. It is tracked through the whole source.';
  return tracks === 1 ? 'One point holds the position; a second one holds rotation and size as well.' : 'Two points hold position, rotation and size.'; // prettier-ignore
}
