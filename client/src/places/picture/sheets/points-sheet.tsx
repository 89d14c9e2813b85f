import { LONGEST_NAME, type PictureTrack, type ProjectDocument } from '@hastig/contract';
import {
  findClip,
  findSource,
  keptPoints,
  mendedTrack,
  putTrack,
  trackPoints,
  tracksInUse,
  withoutTracks,
} from '@hastig/core';
import { nanoid } from '@reduxjs/toolkit';
import Trash from 'lucide-react-native/icons/trash';
import { useMemo, useState } from 'react';
import { Text, View } from 'react-native';
import { BoxFields } from '../../../effects/tracking/box-fields';
import { TrackGraph } from '../../../effects/tracking/track-graph';
import { useBoxTracking } from '../../../effects/tracking/use-box-tracking';
import { ProjectSheet } from '../../../form/project-sheet';
import { useAppSelector } from '../../../store/hooks';
import { Button, IconButton } from '../../../ui/button';
import { Field } from '../../../ui/field';
import type { PictureSheetProps } from '../commands/context';

/** The points that were tracked through a clip's source, for what follows them or is attached to them: new ones, their names, their end. */
export function PointsSheet({ clipId, map, onClose }: PictureSheetProps) {
  const project = useAppSelector((state) => state.project.document)!;
  const source = findSource(project, findClip(project, clipId)!.of.id)!;
  const inUse = useMemo(() => tracksInUse(project), [project]);
  const [tracks, setTracks] = useState<readonly PictureTrack[]>(source.tracks ?? []);
  // A new point, or the one that is mended here.
  const [placing, setPlacing] = useState<'new' | string | null>(tracks.length === 0 ? 'new' : null);
  const tracking = useBoxTracking({ source, map, active: placing !== null }, (points, frame, box) => {
    setTracks((now) =>
      placing === 'new'
        ? [...now, { id: nanoid(12), name: `Point ${frame}`, frame, box, at: keptPoints(points) }]
        : now.map((track) =>
            track.id === placing ? { ...track, at: keptPoints(mendedTrack(trackPoints(track), points)) } : track,
          ),
    );
    setPlacing(null);
  });
  const edit = useMemo(() => {
    const before = source.tracks ?? [];
    const same = before.length === tracks.length && tracks.every((track, n) => track === before[n]);
    if (same) return undefined;
    return (state: ProjectDocument): ProjectDocument => {
      const gone = before.filter(({ id }) => !tracks.some((track) => track.id === id)).map(({ id }) => id);
      return withoutTracks(
        tracks.reduce((one, track) => putTrack(one, source.id, track), state),
        source.id,
        gone,
      );
    };
  }, [tracks, source.tracks, source.id]);
  const count = `${tracks.length} ${tracks.length === 1 ? 'point' : 'points'}`;
  return (
    <ProjectSheet
      title="Points"
      label="track points"
      waiting={tracks.length === 0 ? 'Track a point to keep it.' : `${count}, nothing changed.`}
      edit={edit}
      onClose={onClose}
      outcome={() => `${count} of “${source.name}”`}
    >
      <BoxFields tracking={tracking} hint={hintOf(placing)}>
        {placing === null ? <Button label="Track another point" onPress={() => setPlacing('new')} /> : null}
        {placing !== null && tracks.length > 0 ? <Button label="Leave it" onPress={() => setPlacing(null)} /> : null}
      </BoxFields>
      {placing === null
        ? tracks.map((track) => (
            <View key={track.id} className="gap-1 rounded-lg border border-line bg-raised p-2">
              <View className="flex-row items-center gap-1">
                <PointName track={track} onName={(name) => setTracks(renamed(tracks, track.id, name))} />
                <Button label="Mend here" onPress={() => setPlacing(track.id)} />
                {inUse.has(track.id) ? null : (
                  <IconButton
                    label={`Remove ${track.name}`}
                    icon={Trash}
                    onPress={() => setTracks(tracks.filter(({ id }) => id !== track.id))}
                  />
                )}
              </View>
              <KeptGraph track={track} />
              {inUse.has(track.id) ? <Text className="font-sans text-[13px] text-quiet">In use.</Text> : null}
            </View>
          ))
        : null}
    </ProjectSheet>
  );
}

/** A point's name as it is typed; while it is empty the one before counts. */
function PointName({ track, onName }: { track: PictureTrack; onName(name: string): void }) {
  const [text, setText] = useState(track.name);
  const [label] = useState(`Name of ${track.name}`);
  const type = (typed: string): void => {
    setText(typed);
    const name = typed.trim().slice(0, LONGEST_NAME);
    if (name) onName(name);
  };
  return <Field words label={label} bare="name" value={text} onChange={type} />;
}

function KeptGraph({ track }: { track: PictureTrack }) {
  const points = useMemo(() => trackPoints(track), [track]);
  return <TrackGraph points={points} frame={track.frame} held={false} />;
}

const renamed = (tracks: readonly PictureTrack[], id: string, name: string): PictureTrack[] =>
  tracks.map((track) => (track.id === id ? { ...track, name } : track));

function hintOf(placing: string | null): string {
  if (placing === null) return 'A reframe can follow a point, and a picture on a track above can be attached to it.';
  return placing === 'new'
    ? 'Drag the box on the stage over what should be followed. It is tracked through the whole source.'
    : 'Drag the box over it where it was lost. Frames in doubt are tracked from here.';
}
