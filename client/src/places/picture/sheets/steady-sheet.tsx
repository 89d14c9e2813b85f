import { MOST_TRACKED, type EdgeWay, type PictureTrack, type ProjectDocument, type Steady } from '@hastig/contract';
import {
  clipSteadied,
  DOUBTFUL,
  effectList,
  findClip,
  findSource,
  formatPercent,
  keptPoints,
  mendedTrack,
  pictureOf,
  positionAt,
  putTrack,
  sourceFrames,
  trackPoints,
  withoutUnusedTracks,
  type TrackBox,
} from '@hastig/core';
import { nanoid } from '@reduxjs/toolkit';
import { useMemo, useRef, useState } from 'react';
import { Text, View } from 'react-native';
import { edgeOptions, effectWords } from '../../../effects/effect-words';
import { TrackGraph } from '../../../effects/track-graph';
import { useTracking } from '../../../effects/use-tracking';
import { ProjectSheet } from '../../../form/project-sheet';
import { usePutGrip, type StageGrip } from '../../../stage/grip-context';
import { useAppSelector, useSession } from '../../../store/hooks';
import { Button } from '../../../ui/button';
import { Choice } from '../../../ui/choice';
import { Progress } from '../../../ui/progress';
import type { PictureSheetProps } from '../commands/context';

/** Side of a new box, as a share of the picture's shorter side; and the shortest side a box may have, in pixels. */
const FIRST = 0.12;
const SMALLEST = 8;

/** Holds one or two points of a clip's source still: a box on the stage says which, and they are followed through all of it. */
export function SteadySheet({ clipId, map, effect, onClose }: PictureSheetProps) {
  const project = useAppSelector((state) => state.project.document)!;
  const { playhead } = useSession('playhead');
  const clip = findClip(project, clipId)!;
  const source = findSource(project, clip.of.id)!;
  const size = pictureOf(source.facts)!;
  const before = effectList.of(project, clipId).find((one): one is Steady => one.kind === 'steady');
  const id = useMemo(() => effect ?? before?.id ?? nanoid(12), [effect, before?.id]);
  const [edges, setEdges] = useState<EdgeWay>(before?.edges ?? 'scale');
  const [tracks, setTracks] = useState<readonly PictureTrack[]>(() =>
    (before?.tracks ?? []).flatMap((one) => source.tracks?.find((track) => track.id === one) ?? []),
  );
  const [box, setBox] = useState<TrackBox>(() => firstBox(size));
  const frames = sourceFrames(source);
  const here = Math.min(frames - 1, Math.max(0, Math.floor(positionAt(map, playhead) + 1e-6)));
  // What a box is placed for: a new point, or one that is in doubt here.
  const [placing, setPlacing] = useState<'point' | 'mend' | null>(tracks.length === 0 ? 'point' : null);
  const tracking = useTracking(source, frames, (points, frame, tracked) => {
    setTracks((now) => {
      const last = now.at(-1);
      if (placing === 'mend' && last) {
        const mended = keptPoints(mendedTrack(trackPoints(last), points));
        return [...now.slice(0, -1), { ...last, id: nanoid(12), at: mended }];
      }
      return [...now, { id: nanoid(12), name: `Point ${frame}`, frame, box: tracked, at: keptPoints(points) }];
    });
    setPlacing(null);
  });
  const done = tracks.length > 0;
  const held = useRef(box);
  const grip = useMemo<StageGrip | null>(() => {
    if (placing === null || tracking.progress !== null) return null;
    const move = (x: number, y: number): void =>
      setBox({ ...held.current, x: held.current.x + x * size.width, y: held.current.y + y * size.height });
    return {
      label: 'Box to track',
      corners: cornersOf(box).map(({ x, y }) => ({ x: x / size.width, y: y / size.height })),
      hold: () => (held.current = box),
      drag: move,
      step: move,
      scale: (factor) => setBox(scaledBox(held.current, factor)),
    };
  }, [placing, tracking.progress, box, size.width, size.height]);
  usePutGrip(grip);
  // While a box is placed the picture is seen as it was filmed.
  const edits = useMemo(() => {
    const [first] = tracks;
    if (!first) return undefined;
    const put =
      (off: boolean) =>
      (state: ProjectDocument): ProjectDocument => {
        const kept = tracks.reduce((one, track) => putTrack(one, source.id, track), state);
        const steady: Steady = {
          ...{ id, kind: 'steady', edges, frame: first.frame, tracks: tracks.map((track) => track.id) },
          ...(off && { off: true }),
        };
        return withoutUnusedTracks(effectList.put(kept, { clips: [clipId] }, steady), source.id);
      };
    return { kept: put(!!before?.off), hidden: put(true) };
  }, [tracks, edges, id, clipId, source.id, before?.off]);
  const graphs = useMemo(() => tracks.map((track) => ({ id: track.id, points: trackPoints(track) })), [tracks]);
  const doubted = graphs.at(-1)?.points.some(({ confidence }) => confidence < DOUBTFUL) ?? false;
  const tooLong =
    frames > MOST_TRACKED
      ? `This source has ${frames} frames; up to ${MOST_TRACKED} can be tracked. Cut the file and import the part you need.`
      : undefined;
  const startOver = (): void => {
    setTracks([]);
    setPlacing('point');
  };
  return (
    <ProjectSheet
      title="Steady"
      label="steady a clip"
      waiting="Track a point to see a preview."
      edit={grip === null ? edits?.kept : edits?.hidden}
      {...(edits && { kept: edits.kept })}
      onClose={onClose}
      outcome={(_, after) => {
        const now = effectList.of(after, clipId).find((one): one is Steady => one.id === id && one.kind === 'steady');
        const made = now && clipSteadied(after, findClip(after, clipId)!, map, now);
        if (!now || !made) return 'Nothing changes here';
        const { edges: way } = made;
        const forced = way !== now.edges ? ' It moves too far to be scaled: its edges are mirrored.' : '';
        return `${effectWords(now)}. ${way === 'mirror' ? `Size stays.${forced}` : `Scaled to ${formatPercent(made.times)}.`}`;
      }}
    >
      <Text className="font-sans text-[13px] text-quiet">{tooLong ?? hintOf(placing, tracks.length)}</Text>
      {tracking.progress === null ? (
        <View className="flex-row flex-wrap gap-2">
          {placing && !tooLong ? (
            <Button label="Track" kind="primary" onPress={() => tracking.begin(here, box)} />
          ) : null}
          {!placing && doubted ? <Button label="Mend here" onPress={() => setPlacing('mend')} /> : null}
          {!placing && tracks.length === 1 ? (
            <Button label="Add a second point" onPress={() => setPlacing('point')} />
          ) : null}
          {done ? <Button label="Start over" onPress={startOver} /> : null}
        </View>
      ) : (
        <View className="gap-2">
          <Progress label="Tracking" value={tracking.progress} />
          <View className="flex-row">
            <Button label="Cancel tracking" onPress={tracking.cancel} />
          </View>
        </View>
      )}
      {tracking.fault === null ? null : (
        <Text role="alert" className="font-sans text-[13px] text-wrong">
          {tracking.fault}
        </Text>
      )}
      {graphs.map((track) => (
        <TrackGraph key={track.id} points={track.points} frame={tracks[0]!.frame} />
      ))}
      {done ? <Choice<EdgeWay> label="Edges" value={edges} onChange={setEdges} options={edgeOptions} /> : null}
    </ProjectSheet>
  );
}

function hintOf(placing: 'point' | 'mend' | null, tracks: number): string {
  if (placing === 'mend') return 'Drag the box over it where it was lost. Frames in doubt are tracked from here.';
  if (placing) return 'Drag the box on the stage over what should stand still. It is tracked through the whole source.';
  return tracks === 1 ? 'One point holds the position; a second one holds rotation and size as well.' : 'Two points hold position, rotation and size.'; // prettier-ignore
}

function firstBox({ width, height }: { width: number; height: number }): TrackBox {
  const side = Math.max(SMALLEST, Math.round(FIRST * Math.min(width, height)));
  return { x: (width - side) / 2, y: (height - side) / 2, width: side, height: side };
}

function scaledBox({ x, y, width, height }: TrackBox, factor: number): TrackBox {
  const [wide, high] = [Math.max(SMALLEST, width * factor), Math.max(SMALLEST, height * factor)];
  return { x: x + (width - wide) / 2, y: y + (height - high) / 2, width: wide, height: high };
}

const cornersOf = ({ x, y, width, height }: TrackBox) => [
  { x, y },
  { x: x + width, y },
  { x: x + width, y: y + height },
  { x, y: y + height },
];
