import {
  clipAt,
  findClip,
  findContainer,
  footageKind,
  formatPercent,
  keysOfTake,
  markersBeside,
  placeOf,
  type Take,
} from '@hastig/core';
import ArrowLeft from 'lucide-react-native/icons/arrow-left';
import Circle from 'lucide-react-native/icons/circle';
import Magnet from 'lucide-react-native/icons/magnet';
import Square from 'lucide-react-native/icons/square';
import X from 'lucide-react-native/icons/x';
import { useEffect, useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { Text, View } from 'react-native';
import { useAppSelector, useSession } from '../../../store/hooks';
import { useSize } from '../../../time-view/use-size';
import { Button, IconButton } from '../../../ui/button';
import { speedColour } from '../../../ui/palette';
import { shareOfSpeed, speedOfShare, steppedSpeed } from './throttle';
import { useDriving } from './use-driving';

/** Speeds by which keys may miss the hand. */
const tolerances = [
  { value: 0.02, label: 'fine' },
  { value: 0.06, label: 'medium' },
  { value: 0.15, label: 'coarse' },
] as const;

interface ByHandProps {
  containerId: string;
  onDone(): void;
}

/** The picture clip that is driven: a chosen one, or the uppermost at the playhead. */
function useDrivenClip(containerId: string): string | undefined {
  return useAppSelector(({ project: { document }, session }) => {
    const tracks = document && findContainer(document, containerId)?.tracks.filter(({ kind }) => kind === 'picture');
    if (!document || !tracks) return undefined;
    const moves = (id: string): boolean => {
      const clip = findClip(document, id);
      return clip !== undefined && footageKind(document, clip) !== 'still';
    };
    const chosen = session.selectedClips.find((id) => {
      const place = placeOf(document, id);
      return place?.containerId === containerId && place.track.kind === 'picture' && moves(id);
    });
    if (chosen) return chosen;
    const seen = tracks.toReversed().flatMap((track) => clipAt(document, track, session.playhead)?.clip ?? []);
    return seen.find(({ id }) => moves(id))?.id;
  });
}

/** A throttle for the speed of the clip that plays: under the thumb, by the arrow keys, or by the wheel; recorded as takes. */
export function ByHandPanel({ containerId, onDone }: ByHandProps) {
  const here = useDrivenClip(containerId);
  // From the first recording on the clip stays the same: takes are of one clip.
  const [held, setHeld] = useState<string>();
  const clipId = held ?? here;
  const project = useAppSelector((state) => state.project.document)!;
  const { markerSet } = useSession('markerSet');
  const clip = clipId ? findClip(project, clipId) : undefined;
  const [speed, setSpeed] = useState(1);
  const [backwards, setBackwards] = useState(false);
  const now = useRef(1);
  now.current = backwards ? -speed : speed;
  const [tolerance, setTolerance] = useState<(typeof tolerances)[number]>(tolerances[1]);
  const [drawn, setDrawn] = useState(false);
  const magnets = useMemo(
    () =>
      drawn && clipId
        ? markersBeside(project, clipId)
            .filter(({ marker }) => markerSet === null || (marker.set ?? '') === markerSet)
            .map(({ at }) => at)
        : [],
    [drawn, project, clipId, markerSet],
  );
  const driving = useDriving(clipId, () => now.current, { tolerance: tolerance.value, magnets });
  const { recording, takes, chosen } = driving;
  const record = (): void => {
    setHeld(clipId);
    driving.start();
  };
  const done = (): void => {
    driving.stop();
    onDone();
  };
  return (
    <View role="group" aria-label="By hand" className="gap-2 border-t border-line bg-raised p-2">
      <Throttle speed={speed} backwards={backwards} onSpeed={setSpeed} />
      <View className="flex-row items-center gap-1">
        <Button
          label={recording ? 'Stop' : 'Record'}
          icon={recording ? Square : Circle}
          kind={recording || chosen < 0 ? 'primary' : 'plain'}
          disabled={!clip}
          onPress={recording ? driving.stop : record}
        />
        <IconButton
          narrow
          label="Backwards"
          icon={ArrowLeft}
          pressed={backwards}
          onPress={() => setBackwards((before) => !before)}
        />
        <IconButton
          narrow
          label="Snap keys to markers"
          icon={Magnet}
          pressed={drawn}
          onPress={() => setDrawn((on) => !on)}
        />
        <Text role="status" numberOfLines={2} className="min-w-0 flex-1 font-sans text-[12px] text-quiet">
          {statusWords(clip?.name, takes[chosen], tolerance.value, recording)}
        </Text>
        <IconButton label="Discard" icon={X} onPress={done} />
      </View>
      {takes.length > 0 && !recording ? (
        <View className="flex-row items-center gap-1">
          <Button
            label={`Take ${chosen + 1} of ${takes.length}`}
            kind="quiet"
            disabled={takes.length < 2}
            onPress={() => driving.choose((chosen + 1) % takes.length)}
          />
          <Button
            label={`Tolerance: ${tolerance.label}`}
            kind="quiet"
            onPress={() => setTolerance(tolerances[(tolerances.indexOf(tolerance) + 1) % tolerances.length]!)}
          />
          <View className="flex-1" />
          <Button
            label="Apply"
            kind="primary"
            onPress={() => {
              if (driving.keep()) onDone();
            }}
          />
        </View>
      ) : null}
    </View>
  );
}

function statusWords(name: string | undefined, take: Take | undefined, tolerance: number, recording: boolean): string {
  if (!name) return 'Move the playhead over a clip with a moving picture.';
  if (recording) return `Driving ${name}`;
  if (!take) return `${name}: record from the playhead on.`;
  return `${take.speeds.length} frames, ${keysOfTake(take, tolerance).length} keys`;
}

interface ThrottleProps {
  speed: number;
  backwards: boolean;
  onSpeed(speed: number): void;
}

function Throttle({ speed, backwards, onSpeed }: ThrottleProps) {
  const target = useRef<HTMLDivElement>(null);
  const { width } = useSize(target);
  const share = shareOfSpeed(speed);
  const toPointer = (event: PointerEvent): void => {
    const { left } = target.current!.getBoundingClientRect();
    onSpeed(Math.round(speedOfShare((event.clientX - left) / width) * 100) / 100);
  };
  const onKeyDown = (event: KeyboardEvent): void => {
    const steps = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1, PageUp: 5, PageDown: -5 }[event.key];
    if (steps === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    onSpeed(steppedSpeed(speed, steps));
  };
  const latest = useRef({ speed, onSpeed });
  latest.current = { speed, onSpeed };
  useEffect(() => {
    const element = target.current!;
    // Not by a React property: those listen passively and could not keep the page from scrolling.
    const onWheel = (event: WheelEvent): void => {
      event.preventDefault();
      latest.current.onSpeed(steppedSpeed(latest.current.speed, event.deltaY < 0 ? 1 : -1));
    };
    element.addEventListener('wheel', onWheel, { passive: false });
    return () => element.removeEventListener('wheel', onWheel);
  }, []);
  const signed = backwards ? -speed : speed;
  return (
    <div
      ref={target}
      role="slider"
      tabIndex={0}
      aria-label="Throttle"
      aria-valuemin={0}
      aria-valuemax={400}
      aria-valuenow={Math.round(speed * 100)}
      aria-valuetext={formatPercent(signed)}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        toPointer(event);
      }}
      onPointerMove={(event) => {
        if (event.buttons > 0) toPointer(event);
      }}
      onKeyDown={onKeyDown}
      style={{
        position: 'relative',
        height: 76,
        borderRadius: 14,
        border: '1px solid rgb(var(--line))',
        background: 'rgb(var(--ink))',
        overflow: 'hidden',
        touchAction: 'none',
        userSelect: 'none',
        cursor: 'ew-resize',
      }}
    >
      <div
        style={{
          position: 'absolute',
          inset: 0,
          width: `${share * 100}%`,
          background: speedColour(signed),
          opacity: 0.3,
        }}
      />
      <div
        style={{ position: 'absolute', left: '50%', top: 0, bottom: 0, width: 1, background: 'rgb(var(--quiet))' }}
      />
      <div
        style={{
          position: 'absolute',
          left: `calc(${share * 100}% - 3px)`,
          top: 0,
          bottom: 0,
          width: 6,
          background: 'rgb(var(--bone))',
        }}
      />
      <div style={{ position: 'absolute', inset: 0, display: 'flex', alignItems: 'center', justifyContent: 'center' }}>
        <Text className="font-mono-medium text-[22px] text-bone">{formatPercent(signed)}</Text>
      </div>
    </div>
  );
}
