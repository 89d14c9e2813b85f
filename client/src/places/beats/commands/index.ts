import { removeSourceMarkers } from '@hastig/core';
import Drum from 'lucide-react-native/icons/drum';
import Gauge from 'lucide-react-native/icons/gauge';
import Grid from 'lucide-react-native/icons/grid-3x3';
import Hand from 'lucide-react-native/icons/hand';
import ListOrdered from 'lucide-react-native/icons/list-ordered';
import Metronome from 'lucide-react-native/icons/metronome';
import Music from 'lucide-react-native/icons/music';
import Sliders from 'lucide-react-native/icons/sliders-horizontal';
import Trash from 'lucide-react-native/icons/trash';
import { leadingCommands, timeCommands } from '../../../commands/general';
import { rearrange } from '../../../store/edit';
import { clicksToggled, markersSelected, noticeSet } from '../../../store/session-slice';
import { AdjustSheet } from '../sheets/adjust-sheet';
import { ClickSheet } from '../sheets/click-sheet';
import { FindBeatsSheet } from '../sheets/find-beats-sheet';
import { FindHitsSheet } from '../sheets/find-hits-sheet';
import { GridSheet } from '../sheets/grid-sheet';
import { MarkerListSheet } from '../sheets/marker-list-sheet';
import type { BeatsCommand, BeatsContext } from './context';

const listens = ({ music }: BeatsContext): boolean => music !== undefined;

function listensOrSays(context: BeatsContext): boolean {
  if (!listens(context)) context.dispatch(noticeSet('Nothing sounds here. Add music to a sound track first.'));
  return listens(context);
}

const toMarker =
  (way: 1 | -1) =>
  ({ markers, now, seek }: BeatsContext): void => {
    const frames = markers.map(({ at }) => Math.floor(at + 1e-6));
    const next = way === 1 ? frames.find((at) => at > now()) : frames.findLast((at) => at < now());
    if (next !== undefined) seek(next);
  };

function remove({ dispatch, music, state }: BeatsContext): void {
  const { selectedMarkers } = state().session;
  if (!music || selectedMarkers.length === 0) return;
  const label = selectedMarkers.length > 1 ? 'remove markers' : 'remove a marker';
  dispatch(rearrange(label, (project) => removeSourceMarkers(project, music.source.id, selectedMarkers)));
  dispatch(markersSelected([]));
}

function zoomSelection({ time, state, markers }: BeatsContext): void {
  const { marks, selectedMarkers } = state().session;
  const chosen = markers.filter(({ marker }) => selectedMarkers.includes(marker.id)).map(({ at }) => at);
  if (marks.from !== null && marks.to !== null) time.show(marks.from, marks.to);
  else if (chosen.length > 0) time.show(chosen[0]!, chosen.at(-1)!);
}

/** Everything that can be started in Beats, in the order of its bar. */
export const beatsCommands = [
  {
    id: 'find',
    label: 'Find beats',
    icon: Drum,
    bar: 'always',
    group: 'Markers',
    possible: listens,
    sheet: FindBeatsSheet,
  },
  {
    id: 'hits',
    label: 'Find hits',
    icon: Music,
    bar: 'always',
    group: 'Markers',
    possible: listens,
    sheet: FindHitsSheet,
  },
  {
    id: 'tap',
    label: 'Tap',
    icon: Hand,
    bar: 'always',
    group: 'Markers',
    possible: listens,
    run: ({ mode, setMode }) => setMode(mode === 'tap' ? null : 'tap'),
  },
  {
    id: 'by-hand',
    label: 'By hand',
    icon: Gauge,
    bar: 'always',
    group: 'Speed',
    run: ({ mode, setMode }) => setMode(mode === 'by-hand' ? null : 'by-hand'),
  },
  {
    id: 'adjust',
    label: 'Adjust',
    icon: Sliders,
    bar: 'always',
    group: 'Markers',
    possible: listens,
    sheet: AdjustSheet,
  },
  { id: 'grid', label: 'Even grid', icon: Grid, bar: 'wide', group: 'Markers', possible: listens, sheet: GridSheet },
  {
    id: 'markers',
    label: 'Markers',
    icon: ListOrdered,
    bar: 'wide',
    group: 'Markers',
    shortcut: ['n', 'Marker list', 'Markers'],
    possible: listens,
    ready: listensOrSays,
    sheet: MarkerListSheet,
  },
  {
    id: 'click',
    label: 'Click',
    icon: Metronome,
    bar: 'wide',
    group: 'Listening',
    possible: listens,
    sheet: ClickSheet,
  },
  {
    id: 'remove',
    label: 'Remove',
    icon: Trash,
    group: 'Markers',
    shortcut: ['Delete', 'Remove selected markers', 'Markers'],
    run: remove,
  },
  { id: 'tap-here', shortcut: ['m', 'Add marker, also during playback', 'Markers'], run: ({ tap }) => tap() },
  { id: 'click-on', shortcut: ['c', 'Click on/off', 'Playback'], run: ({ dispatch }) => dispatch(clicksToggled()) },
  { id: 'next-marker', shortcut: ['.', 'Next marker', 'Markers'], run: toMarker(1) },
  { id: 'previous-marker', shortcut: [',', 'Previous marker', 'Markers'], run: toMarker(-1) },
  { id: 'zoom-selection', shortcut: ['z', 'Zoom to selection', 'View'], run: zoomSelection },
  {
    id: 'close',
    shortcut: ['Escape', 'Close sheet or leave mode', 'General'],
    run: ({ close, setMode, dispatch }) => {
      close();
      setMode(null);
      dispatch(markersSelected([]));
    },
  },
  ...timeCommands,
  ...leadingCommands('Listening'),
] as const satisfies readonly BeatsCommand[];

export type BeatsCommandId = (typeof beatsCommands)[number]['id'];
