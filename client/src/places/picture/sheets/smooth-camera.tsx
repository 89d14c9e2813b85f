import {
  MOST_CAMERA,
  SMOOTHED_OVER,
  type CameraModel,
  type EdgeWay,
  type ProjectDocument,
  type Smooth,
  type Steady,
} from '@hastig/contract';
import {
  cameraEnd,
  cameraFor,
  cameraWay,
  effectList,
  findClip,
  findSource,
  positionAt,
  putCamera,
  rateToNumber,
  shownPositions,
  sourceFrames,
  sourceRate,
  trimDecimals,
  withCamera,
} from '@hastig/core';
import { nanoid } from '@reduxjs/toolkit';
import { useMemo, useState, type ReactNode } from 'react';
import { Text, View } from 'react-native';
import { edgeOptions, modelOptions } from '../../../effects/effect-words';
import { CameraGraph } from '../../../effects/tracking/camera-graph';
import { useCameraAnalysis } from '../../../effects/tracking/use-tracking';
import { WaitingRow } from '../../../effects/tracking/waiting-row';
import { ProjectSheet } from '../../../form/project-sheet';
import { useAppSelector, useSession } from '../../../store/hooks';
import { Button } from '../../../ui/button';
import { Choice } from '../../../ui/choice';
import { Field } from '../../../ui/field';
import type { PictureSheetProps } from '../commands/context';
import { steadyOutcome } from './steady-outcome';
import { useStretch } from './use-stretch';

interface SmoothCameraProps extends PictureSheetProps {
  before: Steady | Smooth | undefined;
  /** The choice of what is held. */
  ways: ReactNode;
}

type Goal = 'window' | 'tripod';

/** Seconds on both sides of what a clip shows that are analysed with it, so that it may be trimmed; shorter sources are as a whole. */
const ASIDE = 5;
const WHOLE = 120;

/** Takes the shake out of a clip's own camera: smoothed over a while, or held as on a tripod. */
export function SmoothCamera({ clipId, map, before, ways, onClose }: SmoothCameraProps) {
  const project = useAppSelector((state) => state.project.document)!;
  const { playhead } = useSession('playhead');
  const clip = findClip(project, clipId)!;
  const source = findSource(project, clip.of.id)!;
  const smooth = before?.kind === 'smooth' ? before : undefined;
  const id = useMemo(() => before?.id ?? nanoid(12), [before?.id]);
  const [cameras, setCameras] = useState(source.cameras);
  const [edges, setEdges] = useState<EdgeWay>(before?.edges ?? 'scale');
  const [goal, setGoal] = useState<Goal>(smooth && smooth.seconds === undefined ? 'tripod' : 'window');
  const [text, setText] = useState(trimDecimals(smooth?.seconds ?? 1, 2));
  const [model, setModel] = useState<CameraModel>(smooth?.model ?? 'similarity');
  const { fields, over, refused } = useStretch({ clipId, map, before });
  const used = shownPositions(clip, map, over);
  const [frame, setFrame] = useState(smooth?.frame ?? used.from);
  const analysis = useCameraAnalysis(source, (moves, from) => setCameras((now) => withCamera(now, { from, moves })));
  const camera = cameraFor(cameras, used);
  const told = camera !== undefined && camera.from <= used.from && cameraEnd(camera) >= used.to;
  const part = partToAnalyse(used, sourceFrames(source), rateToNumber(sourceRate(source)));
  const seconds = Number(text);
  const fits = seconds >= SMOOTHED_OVER.least && seconds <= SMOOTHED_OVER.most;
  const stretch = JSON.stringify(over);
  const made = useMemo((): Smooth | undefined => {
    if (!camera || (goal === 'window' && !fits)) return undefined;
    return {
      ...{ id, kind: 'smooth', model, edges, frame },
      ...(goal === 'window' && { seconds }),
      ...(before?.off && { off: true }),
      ...(over && { over }),
    };
  }, [camera, goal, fits, seconds, id, model, edges, frame, stretch, before?.off]);
  const edit = useMemo(
    () =>
      made &&
      camera &&
      ((state: ProjectDocument): ProjectDocument => {
        if (refused) throw refused;
        const known = cameras === source.cameras ? state : putCamera(state, source.id, camera);
        return effectList.put(known, { clips: [clipId] }, made);
      }),
    [made, camera, cameras, source.cameras, source.id, clipId, refused?.message],
  );
  const way = useMemo(
    () => made && cameraWay(made, { ...source, ...(cameras && { cameras }) }, used),
    [made, source, cameras, used.from, used.to],
  );
  return (
    <ProjectSheet
      title="Steady"
      label="steady a clip"
      waiting={camera ? 'Enter the seconds to see a preview.' : 'Analyse the camera to see a preview.'}
      edit={edit}
      onClose={onClose}
      outcome={(_, after) => steadyOutcome(after, clipId, map, id)}
    >
      {analysis.progress === null ? ways : null}
      {told ? null : (
        <>
          <Text className="font-sans text-[13px] text-quiet">
            {typeof part === 'string'
              ? part
              : camera
                ? 'The clip shows frames that are not analysed yet; there the picture stands as in the nearest one.'
                : 'How the camera moves is told from the picture once and kept with the source.'}
          </Text>
          {analysis.progress === null && typeof part !== 'string' ? (
            <View className="flex-row">
              <Button label="Analyse" kind="primary" onPress={() => analysis.begin(part.from, part.to)} />
            </View>
          ) : null}
        </>
      )}
      <WaitingRow waiting={analysis} label="Analysing the camera" cancel="Cancel analysis" />
      {way ? <CameraGraph way={way} /> : null}
      {camera ? (
        <>
          <Choice<Goal>
            label="Camera"
            value={goal}
            onChange={setGoal}
            options={[
              { value: 'window', label: 'Smooth' },
              { value: 'tripod', label: 'Tripod' },
            ]}
          />
          {goal === 'window' ? (
            <Field
              label="Smoothed over, seconds"
              value={text}
              onChange={setText}
              hint="What swings faster than this is taken out; slower moves stay."
              {...(!fits && { fault: `${SMOOTHED_OVER.least} to ${SMOOTHED_OVER.most} seconds.` })}
              onStep={(by) => setText(trimDecimals(Math.max(SMOOTHED_OVER.least, (seconds || 0) + by * 0.1), 2))}
            />
          ) : (
            <View className="flex-row flex-wrap items-center gap-2">
              <Text className="font-sans text-[13px] text-quiet">{`As in source frame ${frame}.`}</Text>
              <Button
                label="As at the playhead"
                onPress={() => setFrame(Math.max(0, Math.floor(positionAt(map, playhead) + 1e-6)))}
              />
            </View>
          )}
          <Choice<CameraModel> label="Takes out" value={model} onChange={setModel} options={modelOptions} />
          <Choice<EdgeWay> label="Edges" value={edges} onChange={setEdges} options={edgeOptions} />
          {fields}
        </>
      ) : null}
    </ProjectSheet>
  );
}

/** What is to be analysed for a clip; or why it can't be, in words. */
function partToAnalyse(
  { from, to }: { from: number; to: number },
  frames: number,
  rate: number,
): { from: number; to: number } | string {
  if (frames <= WHOLE * rate && frames <= MOST_CAMERA) return { from: 0, to: frames };
  const aside = Math.ceil(ASIDE * rate);
  const part = { from: Math.max(0, from - aside), to: Math.min(frames, to + aside) };
  if (part.to - part.from <= MOST_CAMERA) return part;
  return `The clip shows ${to - from} frames; the camera can be told of ${MOST_CAMERA} at most. Split it, and steady the part you need.`;
}
