import type { Clip, RetimeMap } from '@hastig/contract';
import { compile, kindOf, placeOf, SEQUENCE } from '@hastig/core';
import { useLocalSearchParams, useRouter } from 'expo-router';
import ChartNoAxesGantt from 'lucide-react-native/icons/chart-no-axes-gantt';
import { useMemo, useRef } from 'react';
import { Text, View } from 'react-native';
import { linesBeside } from '../../beats/marker-moments';
import { PictureKeyStrip } from '../../keys/key-strip';
import { Button } from '../../ui/button';
import { PlaceFrame } from '../../project/place-frame';
import { Beside } from '../../project/side';
import { useAppSelector, useSession } from '../../store/hooks';
import { openClip, shownMap, shownProject } from '../../store/selectors';
import { useArrangement } from '../../ui/use-wide';
import { CommandBar } from '../../commands/command-bar';
import { CommandSheet } from '../../commands/command-sheet';
import { paceCommands } from './commands';
import type { PaceSheetProps } from './commands/context';
import { SpeedCurve } from './curve/speed-curve';
import { Ledger } from './ledger/ledger';
import { PositionCurve } from './position/position-curve';
import { ChosenKeys } from './sheets/keys-sheet';
import { Threads } from './threads/threads';
import { useFootageThumbs } from './threads/use-footage-thumbs';
import { usePaceCommands } from './use-pace-commands';
import { ViewBar } from './view-bar';
import { useSize } from '../../time-view/use-size';
import { useTimeView } from '../../time-view/use-time-view';

/** The place where speeds are shaped. */
export function PacePlace({ clipId }: { clipId: string }) {
  const open = useAppSelector((state) => openClip(state, clipId));
  const shown = useAppSelector((state) => shownMap(state, clipId));
  const project = useAppSelector((state) => state.project.document);
  if (!open || !shown) return null;
  if (open.source && kindOf(open.source.facts) === 'still') {
    const place = project && placeOf(project, clipId);
    return <StillPace containerId={place?.containerId ?? SEQUENCE} />;
  }
  return <OpenPace clipId={clipId} clip={open.clip} map={open.map} shown={shown} />;
}

/** In place of a curve: a still has none. */
function StillPace({ containerId }: { containerId: string }) {
  const router = useRouter();
  const { id } = useLocalSearchParams<{ id: string }>();
  const timeline = containerId === SEQUENCE ? `/project/${id}/timeline` : `/project/${id}/group/${containerId}`;
  return (
    <View className="flex-1 items-center gap-3 p-6">
      <Text className="text-center font-sans text-[15px] text-quiet">
        A still has no speed. Set its duration on the timeline, or group it with other clips to retime them together.
      </Text>
      <Button label="Timeline" icon={ChartNoAxesGantt} onPress={() => router.push(timeline)} />
    </View>
  );
}

interface OpenPaceProps {
  clipId: string;
  clip: Clip;
  /** The clip's map in the document, and the one to show while something is tried out. */
  map: RetimeMap;
  shown: RetimeMap;
}

function OpenPace({ clipId, clip, map, shown }: OpenPaceProps) {
  const arrangement = useArrangement();
  const wide = arrangement === 'wide';
  const frame = useRef<HTMLDivElement>(null);
  const { width } = useSize(frame);
  // Here and not in the threads: they come and go with sheets and views, the pictures stay.
  const pictures = useFootageThumbs(clip);
  const time = useTimeView(compile(shown).length, width);
  const project = useAppSelector(shownProject)!;
  const { markerSet } = useSession('markerSet');
  const lines = useMemo(() => linesBeside(project, clipId, markerSet), [project, clipId, markerSet]);
  const { paceView, selectedKeys } = useSession('paceView', 'selectedKeys');
  const { active, mode, disabled, act, close, pasted } = usePaceCommands(clipId, map, time);
  // The ledger stands beside the picture there, unless a sheet takes the room.
  const view = wide && paceView === 'ledger' ? 'speed' : paceView;
  const sheet = active ? (
    <CommandSheet<PaceSheetProps>
      commands={paceCommands}
      given={{ clipId, map, pasted, onClose: close }}
      {...{ active, disabled, onClose: close }}
      onCommand={act}
    />
  ) : null;

  const bar = (
    <CommandBar
      name="Pace actions"
      commands={paceCommands}
      active={active ?? modeCommand(mode)}
      disabled={disabled}
      onCommand={act}
    />
  );
  return (
    <PlaceFrame bar={bar} sheet={sheet}>
      <ViewBar map={map} onCommand={act} />
      <div ref={frame} style={{ display: 'flex', flexDirection: 'column', flex: 1, minHeight: 0 }}>
        <Beside shown={wide ? !sheet : view === 'ledger'}>
          <Ledger clipId={clipId} map={map} onCommand={act} />
        </Beside>
        {view === 'ledger' ? null : (
          <>
            {wide || !sheet ? <Threads {...{ clipId, pictures, map, shown, time, arrangement, lines }} /> : null}
            {view === 'position' ? (
              <PositionCurve {...{ clipId, map, shown, time }} />
            ) : (
              <SpeedCurve {...{ clipId, map, shown, time, mode, lines }} onDone={close} />
            )}
            <PictureKeyStrip {...{ clip, time }} map={shown} />
          </>
        )}
      </div>
      {selectedKeys.length > 0 ? <ChosenKeys clipId={clipId} keys={selectedKeys} onEase={() => act('ease')} /> : null}
    </PlaceFrame>
  );
}

function modeCommand(mode: 'scrub' | 'draw' | 'select'): 'draw' | 'select' | null {
  return mode === 'scrub' ? null : mode;
}
