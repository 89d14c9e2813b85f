import {
  containerFrames,
  findContainer,
  markersOver,
  positionSeconds,
  rateToNumber,
  removeSourceMarkers,
  type SeenMarker,
} from '@hastig/core';
import { useLocalSearchParams, useRouter } from 'expo-router';
import ChartNoAxesGantt from 'lucide-react-native/icons/chart-no-axes-gantt';
import { useEffect, useMemo, useRef } from 'react';
import { Text, View } from 'react-native';
import { spacingWords } from '../../beats/beat-words';
import { chosenMusic, movedTo, musicClips, contentSeconds, frameOfContent, type MusicClip } from '../../beats/music';
import { snappedTap } from '../../beats/snap-taps';
import { useAnalysis } from '../../beats/use-analysis';
import { CommandBar } from '../../commands/command-bar';
import { CommandSheet } from '../../commands/command-sheet';
import { timelineAddress } from '../../project/addresses';
import { PlaceFrame } from '../../project/place-frame';
import { SheetSide } from '../../project/side';
import { useStage } from '../../stage/stage-context';
import { rearrange } from '../../store/edit';
import { useAppDispatch, useAppSelector, useSession } from '../../store/hooks';
import { shownProject } from '../../store/selectors';
import { clipsSelected, markersSelected } from '../../store/session-slice';
import { useSize } from '../../time-view/use-size';
import { useTimeView } from '../../time-view/use-time-view';
import { Button } from '../../ui/button';
import { Choice } from '../../ui/choice';
import { useStable } from '../../ui/use-stable';
import { useArrangement } from '../../ui/use-wide';
import { BeatsBar } from './beats-bar';
import { ByHandPanel } from './by-hand/by-hand-panel';
import { beatsCommands } from './commands';
import type { BeatsSheetProps } from './commands/context';
import { TapPad } from './tap-pad';
import { useBeatsCommands } from './use-beats-commands';
import { MusicWave } from './wave/music-wave';

/** Frames that are seen at once at the closest: single samples are told apart there. */
const CLOSEST = 0.02;

/** The place where music is listened to and its moments are marked. */
export function BeatsPlace({ containerId }: { containerId: string }) {
  const dispatch = useAppDispatch();
  const project = useAppSelector(shownProject);
  const { selectedClips, markerSet, selectedMarkers, clicks, clickLoudness } = useSession(
    'selectedClips',
    'markerSet',
    'selectedMarkers',
    'clicks',
    'clickLoudness',
  );
  const arrangement = useArrangement();
  const frame = useRef<HTMLDivElement>(null);
  const { width } = useSize(frame);
  const { setClicks } = useStage();
  const container = project ? findContainer(project, containerId) : undefined;
  const music = useMemo(
    () => (project ? chosenMusic(project, containerId, selectedClips) : undefined),
    [project, containerId, selectedClips],
  );
  // What sheets are about: not what they try out themselves.
  const saved = useAppSelector((state) => state.project.document);
  const kept = useMemo(
    () => (saved ? chosenMusic(saved, containerId, selectedClips) : undefined),
    [saved, containerId, selectedClips],
  );
  const analysed = useAnalysis(kept?.source);
  const length = project && container ? Math.max(1, containerFrames(project, container)) : 1;
  const time = useTimeView(length, width, CLOSEST);
  const seen = useMemo(() => (project ? markersOver(project, containerId) : []), [project, containerId]);
  const markers = useMemo(
    () =>
      seen.filter(
        ({ marker, clipId }) => clipId === music?.clip.id && (markerSet === null || (marker.set ?? '') === markerSet),
      ),
    [seen, markerSet, music?.clip.id],
  );
  const { active, disabled, act, open, close, mode, setMode, tapAt } = useBeatsCommands(
    containerId,
    kept,
    markers,
    analysed,
    time,
  );

  const perSecond = container ? rateToNumber(container.rate) : 1;
  useEffect(() => {
    const at = markers.map(({ marker, at: frameAt }) => ({
      seconds: frameAt / perSecond,
      high: marker.kind === 'downbeat',
    }));
    setClicks(clicks ? { at, loudness: clickLoudness } : null);
    return () => setClicks(null);
  }, [markers, clicks, clickLoudness, perSecond, setClicks]);

  const selected = useMemo(() => new Set(selectedMarkers), [selectedMarkers]);
  const { seek } = useStage();
  const onChoose = useStable(({ marker, at }: SeenMarker, more: boolean): void => {
    if (!more) seek(Math.floor(at + 1e-6));
    const others = selectedMarkers.filter((id) => id !== marker.id);
    dispatch(
      markersSelected(more ? (others.length < selectedMarkers.length ? others : [...others, marker.id]) : [marker.id]),
    );
  });
  const { snap } = useSession('snap');
  const onMove = useStable(({ marker }: SeenMarker, to: number, snapping: boolean): void => {
    if (!music) return;
    dispatch(
      rearrange('move a marker', (now) => {
        const seconds = contentSeconds(now, music, to);
        const drawn = snapping && snap ? snappedTap(seconds, analysed.analysis?.onsets.all ?? []) : seconds;
        return movedTo(now, music, marker, frameOfContent(now, music, drawn) ?? to);
      }),
    );
  });
  const onRemove = useStable(({ marker }: SeenMarker): void => {
    if (music) dispatch(rearrange('remove a marker', (now) => removeSourceMarkers(now, music.source.id, [marker.id])));
  });

  if (!project || !container) return null;
  if (!music || !kept) return <NoMusic containerId={containerId} />;
  const sheet = active ? (
    <CommandSheet<BeatsSheetProps>
      commands={beatsCommands}
      given={{ containerId, music: kept, state: analysed, markers, onClose: close }}
      {...{ active, disabled, onClose: close }}
      onCommand={act}
    />
  ) : null;
  const bar =
    arrangement === 'wide' || !sheet ? (
      <CommandBar
        name="Beats actions"
        commands={beatsCommands}
        active={active ?? mode}
        disabled={disabled}
        onCommand={act}
      />
    ) : null;
  return (
    <PlaceFrame bar={bar}>
      <BeatsBar onSets={() => open('markers')} onZoomAll={time.showAll} />
      {(sheet || mode) && arrangement !== 'wide' ? null : (
        <MusicLine {...{ containerId, music, markers }} state={analysed} />
      )}
      <div ref={frame} style={{ display: 'flex', flexDirection: 'column', flex: 1, minHeight: 0 }}>
        <MusicWave
          {...{ containerId, project, music, markers, selected, time, onChoose, onMove, onRemove }}
          analysis={analysed.analysis}
        />
      </div>
      {mode === 'tap' ? <TapPad onTap={tapAt} onDone={() => setMode(null)} /> : null}
      {mode === 'by-hand' ? <ByHandPanel containerId={containerId} onDone={() => setMode(null)} /> : null}
      {sheet ? <SheetSide>{sheet}</SheetSide> : null}
    </PlaceFrame>
  );
}

interface MusicLineProps {
  containerId: string;
  music: MusicClip;
  markers: readonly SeenMarker[];
  state: ReturnType<typeof useAnalysis>;
}

/** What is listened to, and what its markers come to; where several clips sound, which of them. */
function MusicLine({ containerId, music, markers, state }: MusicLineProps) {
  const dispatch = useAppDispatch();
  const project = useAppSelector((now) => now.project.document)!;
  const clips = useMemo(
    () => musicClips(project, containerId).filter(({ source }) => !source.facts.video),
    [project, containerId],
  );
  const seconds = markers.map(({ marker }) => positionSeconds(music.source, marker.at));
  const { analysis, listening, searching, fault } = state;
  const words =
    fault ??
    (listening !== null
      ? `Analysing: ${Math.round(listening * 100)}%`
      : searching && !analysis
        ? 'Searching for beats …'
        : spacingWords(seconds));
  return (
    <View className="gap-1 px-3 py-1">
      <Text role="status" numberOfLines={1} className={`font-sans text-[13px] ${fault ? 'text-wrong' : 'text-quiet'}`}>
        {`${music.clip.name} · ${words}`}
      </Text>
      {clips.length > 1 ? (
        <Choice
          label="Music"
          value={music.clip.id}
          options={clips.map(({ clip }) => ({ value: clip.id, label: clip.name }))}
          onChange={(id) => dispatch(clipsSelected([id]))}
        />
      ) : null}
    </View>
  );
}

/** In place of a waveform, where nothing on the timeline sounds. */
function NoMusic({ containerId }: { containerId: string }) {
  const router = useRouter();
  const { id } = useLocalSearchParams<{ id: string }>();
  return (
    <View className="flex-1 items-center gap-3 p-6">
      <Text className="text-center font-sans text-[15px] text-quiet">
        Nothing on this timeline has sound. Add music to it first.
      </Text>
      <Button
        label="Timeline"
        icon={ChartNoAxesGantt}
        onPress={() => router.push(timelineAddress(id, containerId) as '/')}
      />
    </View>
  );
}
