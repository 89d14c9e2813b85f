import { edgesOf, effectList, findContainer, markersOver, placeOf, SEQUENCE, setMarkers } from '@hastig/core';
import Anchor from 'lucide-react-native/icons/anchor';
import Bookmark from 'lucide-react-native/icons/bookmark';
import Crop from 'lucide-react-native/icons/crop';
import Versions from 'lucide-react-native/icons/git-compare';
import ListFilter from 'lucide-react-native/icons/list-filter';
import ListOrdered from 'lucide-react-native/icons/list-ordered';
import ListPlus from 'lucide-react-native/icons/list-plus';
import Settings2 from 'lucide-react-native/icons/settings-2';
import Sliders from 'lucide-react-native/icons/sliders-vertical';
import Sun from 'lucide-react-native/icons/sun';
import Wind from 'lucide-react-native/icons/wind';
import { rearrange } from '../../../store/edit';
import { edgesChosen, noticeSet, rippleModeSet } from '../../../store/session-slice';
import { FilmFlash, FilmReframe, FilmSteady, FilmThin } from '../sheets/film-effects';
import { MarkersSheet } from '../sheets/markers-sheet';
import { SequenceSheet } from '../sheets/sequence-sheet';
import { TimelineEffects, TimelineMix } from '../sheets/sound-sheets';
import { TracksSheet } from '../sheets/tracks-sheet';
import { aimed, select, type TimelineCommand, type TimelineContext } from './context';
import { newId } from '../../../store/new-id';

function marker(context: TimelineContext): void {
  const { dispatch, containerId, now, open } = context;
  const { markers } = findContainer(aimed(context).document, containerId)!;
  const made = { id: newId(), at: now(), name: '', tone: 'oak' as const };
  if (markers.some(({ at }) => at === made.at)) return open('markers');
  dispatch(rearrange('add a marker', (one) => setMarkers(one, containerId, [made])));
}

const toCut =
  (way: 1 | -1) =>
  (context: TimelineContext): void => {
    const { document } = aimed(context);
    const marked = markersOver(document, context.containerId).map((seen) => Math.floor(seen.at + 1e-6));
    const edges = [...edgesOf(document, findContainer(document, context.containerId)!), ...marked].sort(
      (a, b) => a - b,
    );
    const at = context.now();
    const next = way === 1 ? edges.find((edge) => edge > at) : edges.findLast((edge) => edge < at);
    if (next !== undefined) context.seek(next);
  };

function zoomSelection(context: TimelineContext): void {
  const { document, ids } = aimed(context);
  const { marks } = context.state().session;
  const places = ids.map((id) => placeOf(document, id)!);
  if (marks.from !== null && marks.to !== null) context.time.show(marks.from, marks.to);
  else if (places.length > 0) {
    context.time.show(Math.min(...places.map(({ from }) => from)), Math.max(...places.map(({ to }) => to)));
  }
}

/** The film is what has flashes of its own; says so elsewhere. */
function readyForFilm({ containerId, dispatch }: TimelineContext): boolean {
  if (containerId !== SEQUENCE) dispatch(noticeSet('Flashes are put on the film. Leave the group first.'));
  return containerId === SEQUENCE;
}

/** The timeline itself: its markers, tracks and settings, and ways of working on it. */
export const sequenceCommands = [
  { id: 'next-cut', shortcut: ['.', 'Next cut or marker', 'Editing clips'], run: toCut(1) },
  { id: 'previous-cut', shortcut: [',', 'Previous cut or marker', 'Editing clips'], run: toCut(-1) },
  {
    id: 'marker',
    label: 'Add marker',
    icon: Bookmark,
    bar: 'always',
    shortcut: ['m', 'Add marker at playhead', 'Editing clips'],
    run: marker,
  },
  {
    id: 'markers',
    label: 'Markers',
    icon: ListOrdered,
    group: 'Sequence',
    shortcut: ['n', 'Marker list', 'Editing clips'],
    sheet: MarkersSheet,
  },
  {
    id: 'compare-all',
    label: 'Versions',
    icon: Versions,
    group: 'Sequence',
    run: ({ go, containerId }) => go(containerId === SEQUENCE ? '/compare' : `/group/${containerId}/compare`),
  },
  {
    id: 'flash',
    label: 'Flash',
    icon: Sun,
    group: 'Effect',
    shortcut: ['v', 'Add flashes', 'Editing clips'],
    possible: ({ containerId }) => containerId === SEQUENCE,
    ready: (context) => readyForFilm(context),
    sheet: FilmFlash,
  },
  {
    id: 'thin-flashes',
    label: 'Thin out flashes',
    icon: ListFilter,
    group: 'Effect',
    possible: ({ containerId, project }) =>
      containerId === SEQUENCE && effectList.of(project, 'film').filter(({ kind }) => kind === 'flash').length > 1,
    sheet: FilmThin,
  },
  {
    id: 'reframe',
    label: 'Reframe',
    icon: Crop,
    group: 'Effect',
    possible: ({ containerId }) => containerId === SEQUENCE,
    sheet: FilmReframe,
  },
  {
    id: 'steady',
    label: 'Steady',
    icon: Anchor,
    group: 'Effect',
    possible: ({ containerId }) => containerId === SEQUENCE,
    sheet: FilmSteady,
  },
  { id: 'sound-effects', label: 'Sound effects', icon: Wind, group: 'Sound', sheet: TimelineEffects },
  { id: 'mix', label: 'Mix', icon: Sliders, group: 'Sound', sheet: TimelineMix },
  { id: 'tracks', label: 'Tracks', icon: ListPlus, group: 'Sequence', sheet: TracksSheet },
  { id: 'sequence', label: 'Sequence', icon: Settings2, group: 'Sequence', sheet: SequenceSheet },
  {
    id: 'edges',
    shortcut: ['r', 'Edges trim or change speed', 'Editing clips'],
    run: ({ dispatch, state }) => dispatch(edgesChosen(state().session.edges === 'trim' ? 'stretch' : 'trim')),
  },
  {
    id: 'ripple',
    shortcut: ['f', 'Ripple on/off', 'Editing clips'],
    run: ({ dispatch, state }) => dispatch(rippleModeSet(state().session.rippleMode === 'close' ? 'leave' : 'close')),
  },
  { id: 'zoom-selection', shortcut: ['z', 'Zoom to selection', 'View'], run: zoomSelection },
  {
    id: 'close',
    shortcut: ['Escape', 'Close sheet or leave mode', 'General'],
    run: (context) => {
      context.close();
      context.setSeveral(false);
      select(context, []);
    },
  },
] as const satisfies readonly TimelineCommand[];
