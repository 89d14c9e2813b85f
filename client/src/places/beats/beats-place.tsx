import { containerFrames, findContainer, markersOver } from '@hastig/core';
import { useMemo, useRef } from 'react';
import { chosenMusic, footageOf } from '../../beats/music';
import { useAnalysis } from '../../beats/use-analysis';
import { CommandBar } from '../../commands/command-bar';
import { CommandSheet } from '../../commands/command-sheet';
import { PlaceFrame } from '../../project/place-frame';
import { useAppSelector, useSession } from '../../store/hooks';
import { shownProject } from '../../store/selectors';
import { useSize } from '../../time-view/use-size';
import { useTimeView } from '../../time-view/use-time-view';
import { useWide } from '../../ui/use-wide';
import { BeatsBar } from './beats-bar';
import { BeatsSide } from './beats-side';
import { ByHandPanel } from './by-hand/by-hand-panel';
import { beatsCommands } from './commands';
import type { BeatsSheetProps } from './commands/context';
import { MusicLine, NoMusic } from './music-line';
import { TapPad } from './tap-pad';
import { useBeatsCommands } from './use-beats-commands';
import { useClicks } from './use-clicks';
import { MusicWave } from './wave/music-wave';
import { useMarkerEdits } from './wave/use-marker-edits';

/** Frames that are seen at once at the closest: single samples are told apart there. */
const CLOSEST = 0.02;
const NO_HITS = [] as const;

/** The place where music is listened to and its moments are marked. */
export function BeatsPlace({ containerId }: { containerId: string }) {
  const project = useAppSelector(shownProject);
  const saved = useAppSelector((state) => state.project.document);
  const { selectedClips, markerSet, selectedMarkers } = useSession('selectedClips', 'markerSet', 'selectedMarkers');
  const wide = useWide();
  const frame = useRef<HTMLDivElement>(null);
  const { width } = useSize(frame);
  const container = project ? findContainer(project, containerId) : undefined;
  const shown = useMemo(
    () => (project ? chosenMusic(project, containerId, selectedClips) : undefined),
    [project, containerId, selectedClips],
  );
  // What sheets and edits are about: not what is tried out meanwhile.
  const music = useMemo(
    () => (saved ? chosenMusic(saved, containerId, selectedClips) : undefined),
    [saved, containerId, selectedClips],
  );
  const footage = useMemo(() => saved && music && footageOf(saved, music), [saved, music]);
  const analysis = useAnalysis(music?.source);
  const time = useTimeView(project && container ? Math.max(1, containerFrames(project, container)) : 1, width, CLOSEST);
  const heard = shown?.clip.id;
  const markers = useMemo(
    () =>
      (project ? markersOver(project, containerId) : []).filter(
        ({ marker, clipId }) => clipId === heard && (markerSet === null || (marker.set ?? '') === markerSet),
      ),
    [project, containerId, markerSet, heard],
  );
  const hits = analysis.found?.onsets.all ?? NO_HITS;
  const commands = useBeatsCommands(containerId, music, markers, hits, time);
  const edits = useMarkerEdits(music, hits);
  useClicks(markers, container?.rate);
  const selected = useMemo(() => new Set(selectedMarkers), [selectedMarkers]);

  if (!project || !container) return null;
  if (!shown || !music || !footage) return <NoMusic containerId={containerId} />;
  const { active, disabled, act, open, close, mode, setMode, tapAt } = commands;
  const sheet = active ? (
    <CommandSheet<BeatsSheetProps>
      commands={beatsCommands}
      given={{ containerId, music, footage, state: analysis, markers, onClose: close }}
      {...{ active, disabled, onClose: close }}
      onCommand={act}
    />
  ) : null;
  const bar = (
    <CommandBar
      name="Beats actions"
      commands={beatsCommands}
      active={active ?? mode}
      disabled={disabled}
      onCommand={act}
    />
  );
  // Wide, it stands beside the picture where no sheet does.
  const lineHere = wide ? sheet !== null : !sheet && !mode;
  return (
    <PlaceFrame bar={bar} sheet={sheet}>
      <BeatsBar onSets={() => open('markers')} onZoomAll={time.showAll} />
      <BeatsSide {...{ containerId, markers }} music={shown} state={analysis} hidden={!!sheet} />
      {lineHere ? <MusicLine {...{ containerId, markers }} music={shown} state={analysis} /> : null}
      <div ref={frame} style={{ display: 'flex', flexDirection: 'column', flex: 1, minHeight: 0 }}>
        <MusicWave
          {...{ containerId, project, markers, selected, time, edits }}
          music={shown}
          analysis={analysis.found}
          waiting={!analysis.found && analysis.fault === null}
        />
      </div>
      {mode === 'tap' ? <TapPad onTap={tapAt} onDone={() => setMode(null)} /> : null}
      {mode === 'by-hand' ? <ByHandPanel containerId={containerId} onDone={() => setMode(null)} /> : null}
    </PlaceFrame>
  );
}
