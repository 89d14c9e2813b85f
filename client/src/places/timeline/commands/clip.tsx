import { duplicateClips, findClip, placeOf, removeClips, splitClip, trimClip } from '@hastig/core';
import Fill from 'lucide-react-native/icons/arrow-left-right';
import BeginHere from 'lucide-react-native/icons/arrow-right-from-line';
import EndHere from 'lucide-react-native/icons/arrow-right-to-line';
import ArrowUpFromLine from 'lucide-react-native/icons/arrow-up-from-line';
import CopyPlus from 'lucide-react-native/icons/copy-plus';
import Crosshair from 'lucide-react-native/icons/crosshair';
import Versions from 'lucide-react-native/icons/git-compare';
import Gauge from 'lucide-react-native/icons/gauge';
import MoveHorizontal from 'lucide-react-native/icons/move-horizontal';
import PictureInPicture from 'lucide-react-native/icons/picture-in-picture-2';
import Plus from 'lucide-react-native/icons/plus';
import Replace from 'lucide-react-native/icons/replace';
import Ruler from 'lucide-react-native/icons/ruler';
import Scissors from 'lucide-react-native/icons/scissors';
import Trash from 'lucide-react-native/icons/trash';
import type { ReactNode } from 'react';
import { rearrange } from '../../../store/edit';
import { AddSheet } from '../sheets/add-sheet';
import { ClipSheet } from '../sheets/clip-sheet';
import { FillGapSheet, ReplaceSheet, SlipSheet, type OneClipProps } from '../sheets/edit-sheets';
import { PictureSheet } from '../sheets/picture-sheet';
import { TimelineAlign } from '../sheets/sound-sheets';
import {
  aimed,
  aimedClips,
  onAll,
  onOne,
  readyWithClip,
  select,
  tellNone,
  type TimelineCommand,
  type TimelineContext,
  type TimelineSheetProps,
} from './context';
import { newId } from '../../../store/new-id';

function split(context: TimelineContext): void {
  const { dispatch, containerId, now } = context;
  const { document, ids } = aimed(context);
  const playhead = now();
  // What is chosen, where the playhead is in it; else what lies at the playhead.
  const inside = ids.filter((id) => {
    const place = placeOf(document, id)!;
    return playhead > place.from && playhead < place.to;
  });
  const target = inside[0] ?? aimedClips(document, containerId, [], playhead)[0];
  if (!target) return tellNone(context);
  const made = newId();
  if (dispatch(rearrange('split a clip', (one) => splitClip(one, target, playhead, made)))) select(context, [made]);
}

const trimHere = (side: 'start' | 'end') =>
  onOne((context, clipId) => {
    const { dispatch, now, state, seek } = context;
    const place = placeOf(aimed(context).document, clipId)!;
    const by = side === 'start' ? now() - place.from : now() - place.to;
    const { rippleMode } = state().session;
    dispatch(rearrange('trim a clip', (one) => trimClip(one, clipId, side, by, rippleMode)));
    if (side === 'start' && rippleMode === 'close') seek(place.from);
  });

const remove = (rippleMode: 'close' | 'leave') =>
  onAll((context, ids) => {
    const label = ids.length > 1 ? 'remove clips' : 'remove a clip';
    if (context.dispatch(rearrange(label, (one) => removeClips(one, ids, rippleMode)))) select(context, []);
  });

const duplicate = onAll((context, ids) => {
  const made = ids.map(newId);
  if (context.dispatch(rearrange('duplicate', (one) => duplicateClips(one, ids, made)))) select(context, made);
});

/** Opens a group, or a clip in Pace. */
export const into = onOne((context, clipId) => {
  const { of } = findClip(aimed(context).document, clipId)!;
  context.go(of.kind === 'group' ? `/group/${of.id}` : `/clip/${clipId}/pace`);
});

/** A sheet about one clip, made anew for another. */
export const ofOne = (Sheet: (props: OneClipProps) => ReactNode) =>
  function OneClip({ clip, onClose }: TimelineSheetProps) {
    return clip ? <Sheet key={clip.id} clip={clip} onClose={onClose} /> : null;
  };

const onlySound = ({ project, containerId, selectedClips }: TimelineContext): boolean => {
  const kindHere = (id: string): string | undefined => {
    const place = placeOf(project, id);
    return place?.containerId === containerId ? place.track.kind : undefined;
  };
  const seen = selectedClips.some((id) => kindHere(id) === 'picture');
  return !seen && selectedClips.some((id) => kindHere(id) === 'sound');
};

/** What is done with clips, one by one. */
export const clipCommands = [
  {
    id: 'add',
    label: 'Add',
    icon: Plus,
    bar: 'always',
    shortcut: ['a', 'Add footage', 'Editing clips'],
    sheet: AddSheet,
  },
  {
    id: 'split',
    label: 'Split',
    icon: Scissors,
    bar: 'always',
    shortcut: ['s', 'Split at playhead', 'Editing clips'],
    run: split,
  },
  {
    id: 'begin-here',
    label: 'Trim start',
    icon: BeginHere,
    bar: 'wide',
    group: 'Clip',
    shortcut: ['h', 'Trim start to playhead', 'Editing clips'],
    run: trimHere('start'),
  },
  {
    id: 'end-here',
    label: 'Trim end',
    icon: EndHere,
    bar: 'wide',
    group: 'Clip',
    shortcut: ['t', 'Trim end to playhead', 'Editing clips'],
    run: trimHere('end'),
  },
  {
    id: 'clip',
    label: 'Clip',
    icon: Ruler,
    bar: 'always',
    group: 'Clip',
    shortcut: ['e', 'Clip settings', 'Editing clips'],
    ready: readyWithClip,
    sheet: ofOne(ClipSheet),
  },
  {
    id: 'picture',
    label: 'Framing',
    icon: PictureInPicture,
    bar: 'wide',
    group: 'Clip',
    shortcut: ['p', 'Framing', 'Editing clips'],
    possible: (context) => !onlySound(context),
    ready: readyWithClip,
    sheet: ({ clipIds, onClose }) =>
      clipIds.length > 0 ? <PictureSheet key={clipIds.join(' ')} {...{ clipIds, onClose }} /> : null,
  },
  {
    id: 'compare',
    label: 'Clip versions',
    icon: Versions,
    group: 'Clip',
    shortcut: ['shift+v', 'Versions of the clip, and compare', 'View'],
    run: onOne(({ go }, id) => go(`/clip/${id}/compare`)),
  },
  { id: 'pace', label: 'Pace', icon: Gauge, group: 'Clip', run: onOne(({ go }, id) => go(`/clip/${id}/pace`)) },
  {
    id: 'slip',
    label: 'Slip',
    icon: MoveHorizontal,
    bar: 'wide',
    group: 'Clip',
    ready: readyWithClip,
    sheet: ofOne(SlipSheet),
  },
  { id: 'replace', label: 'Replace', icon: Replace, group: 'Clip', ready: readyWithClip, sheet: ofOne(ReplaceSheet) },
  { id: 'align', label: 'Align', icon: Crosshair, group: 'Sound', ready: readyWithClip, sheet: TimelineAlign },
  { id: 'fill-gap', label: 'Fit to gap', icon: Fill, group: 'Clip', ready: readyWithClip, sheet: ofOne(FillGapSheet) },
  {
    id: 'duplicate',
    label: 'Duplicate',
    icon: CopyPlus,
    bar: 'wide',
    group: 'Clip',
    shortcut: ['d', 'Duplicate selected clips', 'Editing clips'],
    run: duplicate,
  },
  {
    id: 'remove',
    label: 'Remove',
    icon: Trash,
    bar: 'always',
    shortcut: ['Delete', 'Remove selected clips', 'Editing clips'],
    run: remove('close'),
  },
  {
    id: 'lift',
    label: 'Lift',
    icon: ArrowUpFromLine,
    group: 'Clip',
    shortcut: ['shift+Delete', 'Remove and leave a gap', 'Editing clips'],
    run: remove('leave'),
  },
] as const satisfies readonly TimelineCommand[];
