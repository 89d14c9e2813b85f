import type { ProjectDocument, Smooth, Steady } from '@hastig/contract';
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
  withCamera,
} from '@hastig/core';
import { nanoid } from '@reduxjs/toolkit';
import { useMemo, useState, type ReactNode } from 'react';
import { Text, View } from 'react-native';
import { CameraGraph } from '../../../effects/tracking/camera-graph';
import { partToAnalyse } from '../../../effects/tracking/part-to-analyse';
import { useSmoothFields } from '../../../effects/tracking/use-smooth-fields';
import { useCameraAnalysis } from '../../../effects/tracking/use-tracking';
import { WaitingRow } from '../../../effects/tracking/waiting-row';
import { ProjectSheet } from '../../../form/project-sheet';
import { useAppSelector, useSession } from '../../../store/hooks';
import { Button } from '../../../ui/button';
import type { PictureSheetProps } from '../commands/context';
import { steadyOutcome } from './steady-outcome';
import { useStretch } from './use-stretch';

interface SmoothCameraProps extends PictureSheetProps {
  before: Steady | Smooth | undefined;
  /** The choice of what is held. */
  ways: ReactNode;
}

/** Takes the shake out of a clip's own camera: smoothed over a while, or held as on a tripod. */
export function SmoothCamera({ clipId, map, before, ways, onClose }: SmoothCameraProps) {
  const project = useAppSelector((state) => state.project.document)!;
  const { playhead } = useSession('playhead');
  const clip = findClip(project, clipId)!;
  const source = findSource(project, clip.of.id)!;
  const smooth = before?.kind === 'smooth' ? before : undefined;
  const id = useMemo(() => before?.id ?? nanoid(12), [before?.id]);
  const [cameras, setCameras] = useState(source.cameras);
  const { fields, over, refused } = useStretch({ clipId, map, before });
  const used = shownPositions(clip, map, over);
  const [frame, setFrame] = useState(smooth?.frame ?? used.from);
  const analysis = useCameraAnalysis(source, (moves, from) => setCameras((now) => withCamera(now, { from, moves })));
  const camera = cameraFor(cameras, used);
  const told = camera !== undefined && camera.from <= used.from && cameraEnd(camera) >= used.to;
  const part = partToAnalyse(used, sourceFrames(source), rateToNumber(sourceRate(source)));
  const { fields: settings, chosen } = useSmoothFields(
    before,
    <View className="flex-row flex-wrap items-center gap-2">
      <Text className="font-sans text-[13px] text-quiet">{`As in source frame ${frame}.`}</Text>
      <Button
        label="As at the playhead"
        onPress={() => setFrame(Math.max(0, Math.floor(positionAt(map, playhead) + 1e-6)))}
      />
    </View>,
  );
  const [stretch, settled] = [JSON.stringify(over), JSON.stringify(chosen)];
  const made = useMemo((): Smooth | undefined => {
    if (!camera || !chosen) return undefined;
    return { id, kind: 'smooth', ...chosen, frame, ...(before?.off && { off: true }), ...(over && { over }) };
  }, [camera, settled, id, frame, stretch, before?.off]);
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
          {settings}
          {fields}
        </>
      ) : null}
    </ProjectSheet>
  );
}
