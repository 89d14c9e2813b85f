import type { Clip, RetimeMap, Source } from '@hastig/contract';
import { silentWords } from '@hastig/engine';
import { compile, findClip, placeOf, SEQUENCE, soundOf } from '@hastig/core';
import { useLocalSearchParams, useRouter } from 'expo-router';
import ChartNoAxesGantt from 'lucide-react-native/icons/chart-no-axes-gantt';
import { useRef } from 'react';
import { Text, View } from 'react-native';
import { useStore } from 'react-redux';
import { CommandBar } from '../../commands/command-bar';
import { CommandSheet } from '../../commands/command-sheet';
import { SoundKeyStrip } from '../../keys/key-strip';
import { timelineAddress } from '../../project/addresses';
import { PlaceFrame } from '../../project/place-frame';
import { useAppDispatch, useAppSelector } from '../../store/hooks';
import type { RootState } from '../../store/store';
import { openClip, shownMap, shownProject } from '../../store/selectors';
import { marked } from '../../store/session-slice';
import { useSize } from '../../time-view/use-size';
import { useTimeView } from '../../time-view/use-time-view';
import { Button } from '../../ui/button';
import { soundCommands } from './commands';
import type { SoundSheetProps } from './commands/context';
import { SoundBar } from './sound-bar';
import { SoundSide } from './sound-side';
import { useSoundCommands } from './use-sound-commands';
import { PartStrip } from './wave/part-strip';
import { SoundWave } from './wave/sound-wave';

/** The place where a clip's sound is given its pitch and its level. */
export function SoundPlace({ clipId }: { clipId: string }) {
  const open = useAppSelector((state) => openClip(state, clipId));
  const shown = useAppSelector((state) => shownMap(state, clipId));
  if (!open || !shown) return null;
  const { source, clip, map } = open;
  const sound = source && soundOf(source);
  if (source && !sound) return <NoSound clipId={clipId} />;
  const deaf = sound && silentWords(sound);
  if (deaf) return <NoSound clipId={clipId} why={deaf} />;
  return <OpenSound {...{ clipId, clip, source, map, shown }} />;
}

/** In place of a waveform: what has no sound, or none that is heard. */
function NoSound({ clipId, why }: { clipId: string; why?: string }) {
  const router = useRouter();
  const { id } = useLocalSearchParams<{ id: string }>();
  const container = useAppSelector(
    ({ project: { document } }) => (document && placeOf(document, clipId)?.containerId) ?? SEQUENCE,
  );
  return (
    <View className="flex-1 items-center gap-3 p-6">
      <Text className="text-center font-sans text-[15px] text-quiet">
        {why ?? 'This clip has no sound. Choose a clip that has, or add music to the timeline.'}
      </Text>
      <Button label="Timeline" icon={ChartNoAxesGantt} onPress={() => router.push(timelineAddress(id, container))} />
    </View>
  );
}

interface OpenSoundProps {
  clipId: string;
  clip: Clip;
  /** Undefined for a group, which has the sounds of many. */
  source: Source | undefined;
  /** The clip's map in the document, and the one to show while something is tried out. */
  map: RetimeMap;
  shown: RetimeMap;
}

function OpenSound({ clipId, clip, source, map, shown }: OpenSoundProps) {
  const dispatch = useAppDispatch();
  const project = useAppSelector(shownProject)!;
  const tried = findClip(project, clipId) ?? clip;
  const frame = useRef<HTMLDivElement>(null);
  const { width } = useSize(frame);
  const { length } = compile(shown);
  const time = useTimeView(length, width);
  const { active, disabled, act, open, close } = useSoundCommands(clip, time);
  const place = placeOf(project, clipId);
  const containerId = place?.containerId ?? SEQUENCE;
  const store = useStore<RootState>();
  const near = (): number => (place?.from ?? 0) + store.getState().session.playhead - clip.shown.from;
  const sheet = active ? (
    <CommandSheet<SoundSheetProps>
      commands={soundCommands}
      given={{ clipId, containerId, map, near, onClose: close }}
      {...{ active, disabled, onClose: close }}
      onCommand={act}
    />
  ) : null;
  const bar = (
    <CommandBar name="Sound actions" commands={soundCommands} active={active} disabled={disabled} onCommand={act} />
  );
  const choose = (from: number, to: number): void => {
    dispatch(marked({ side: 'from', at: Math.round(from) }));
    dispatch(marked({ side: 'to', at: Math.round(to) }));
    open('pitch');
  };
  return (
    <PlaceFrame bar={bar} sheet={sheet}>
      <SoundSide clip={tried} map={shown} hidden={!!sheet} />
      <SoundBar onZoomAll={time.showAll} />
      <div ref={frame} style={{ display: 'flex', flexDirection: 'column', flex: 1, minHeight: 0 }}>
        {source ? (
          <SoundWave {...{ source, time }} clip={tried} map={shown} />
        ) : (
          <View className="flex-1 items-center justify-center p-4">
            <Text className="text-center font-sans text-[14px] text-quiet">
              A group sounds like what is in it. Its pitch and level come on top of theirs.
            </Text>
          </View>
        )}
        <SoundKeyStrip clip={tried} map={shown} time={time} />
        <PartStrip settings={tried.sound} length={length} view={time.view} onChoose={choose} />
      </div>
    </PlaceFrame>
  );
}
