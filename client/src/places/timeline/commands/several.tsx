import type { Clip } from '@hastig/contract';
import { findClip, findContainer, groupClips, mapOf, nextClip, ownGroup, placeOf, ungroup } from '@hastig/core';
import ClipboardPaste from 'lucide-react-native/icons/clipboard-paste';
import Copy from 'lucide-react-native/icons/copy';
import CopyCheck from 'lucide-react-native/icons/copy-check';
import Drum from 'lucide-react-native/icons/drum';
import Blend from 'lucide-react-native/icons/git-merge';
import Group from 'lucide-react-native/icons/group';
import Layers from 'lucide-react-native/icons/layers';
import LogIn from 'lucide-react-native/icons/log-in';
import SquareDashed from 'lucide-react-native/icons/square-dashed';
import UnfoldHorizontal from 'lucide-react-native/icons/unfold-horizontal';
import Ungroup from 'lucide-react-native/icons/ungroup';
import { readyToPaste } from '../../../commands/general';
import { rearrange } from '../../../store/edit';
import { copiedFrom, settingsCopied, messageSet } from '../../../store/session-slice';
import { BetweenSheet, CutSheet } from '../sheets/beat-sheets';
import { JoinSheet } from '../sheets/edit-sheets';
import { PasteSheet } from '../sheets/paste-sheet';
import { into, ofOne } from './clip';
import { aimed, onAll, onOne, readyWithClip, select, type TimelineCommand, type TimelineContext } from './context';
import { newId } from '../../../store/new-id';

/** The one clip that is chosen. Asked with every drawing: thousands may be chosen, and two tell as much. */
function theChosen({ project, containerId, selectedClips }: TimelineContext): Clip | undefined {
  const isHere = (id: string): boolean => placeOf(project, id)?.containerId === containerId;
  const first = selectedClips.find(isHere);
  const another = selectedClips.some((id) => id !== first && isHere(id));
  return first === undefined || another ? undefined : findClip(project, first);
}

const isGroup = (context: TimelineContext): boolean => theChosen(context)?.of.kind === 'group';

const group = onAll((context, ids) => {
  const { groups } = aimed(context).document;
  const made = { groupId: newId(), clipId: newId(), name: `Group ${groups.length + 1}` };
  if (context.dispatch(rearrange('group clips', (one) => groupClips(one, ids, made)))) select(context, [made.clipId]);
});

const apart = onOne((context, clipId) => {
  if (context.dispatch(rearrange('ungroup', (one) => ungroup(one, clipId, newId)))) select(context, []);
});

const own = onOne(({ dispatch }, clipId) => {
  if (dispatch(rearrange('make a group independent', (one) => ownGroup(one, clipId, newId(), newId)))) {
    dispatch(messageSet('This group is now independent. Changes inside it no longer affect its copies.'));
  }
});

const copy = onOne((context, clipId) => {
  const { document } = aimed(context);
  const clip = findClip(document, clipId)!;
  context.dispatch(settingsCopied(copiedFrom(clip, mapOf(document, clip))));
  context.dispatch(messageSet(`Copied the settings of ${clip.name}. Select clips and paste.`));
});

function all(context: TimelineContext): void {
  const { tracks } = findContainer(aimed(context).document, context.containerId)!;
  select(
    context,
    tracks.flatMap(({ items }) => items.flatMap((item) => ('clip' in item ? [item.clip] : []))),
  );
}

/** What is done with several clips, and with groups. */
export const severalCommands = [
  {
    id: 'several',
    label: 'Select several',
    icon: SquareDashed,
    group: 'Several',
    run: ({ several, setSeveral }) => setSeveral(!several),
  },
  {
    id: 'all',
    label: 'Select all',
    icon: CopyCheck,
    group: 'Several',
    shortcut: ['mod+a', 'Select all clips', 'Editing clips'],
    run: all,
  },
  {
    id: 'group',
    label: 'Group',
    icon: Group,
    bar: 'wide',
    group: 'Several',
    shortcut: ['g', 'Group selected clips', 'Editing clips'],
    possible: ({ project, containerId, selectedClips }) =>
      selectedClips.some((id) => placeOf(project, id)?.containerId === containerId),
    run: group,
  },
  { id: 'ungroup', label: 'Ungroup', icon: Ungroup, group: 'Several', possible: isGroup, run: apart },
  { id: 'open', label: 'Open group', icon: LogIn, group: 'Several', possible: isGroup, run: into },
  { id: 'into', shortcut: ['Enter', 'Open group or Pace', 'Editing clips'], run: into },
  { id: 'own', label: 'Make independent', icon: Layers, group: 'Several', possible: isGroup, run: own },
  {
    id: 'join',
    label: 'Join',
    icon: Blend,
    bar: 'wide',
    group: 'Several',
    shortcut: ['u', 'Join across cut', 'Editing clips'],
    possible: (context) => {
      const one = theChosen(context);
      return !one || nextClip(context.project, one.id) !== undefined;
    },
    ready: readyWithClip,
    sheet: ofOne(JoinSheet),
  },
  {
    id: 'cut-to-markers',
    label: 'Cut to markers',
    icon: Drum,
    group: 'On markers',
    ready: readyWithClip,
    sheet: CutSheet,
  },
  {
    id: 'between-markers',
    label: 'Between markers',
    icon: UnfoldHorizontal,
    group: 'On markers',
    ready: readyWithClip,
    sheet: ofOne(BetweenSheet),
  },
  {
    id: 'copy',
    label: 'Copy settings',
    icon: Copy,
    group: 'Several',
    shortcut: ['c', 'Copy timing and settings', 'General'],
    run: copy,
  },
  {
    id: 'paste',
    label: 'Paste settings',
    icon: ClipboardPaste,
    group: 'Several',
    shortcut: ['shift+c', 'Paste timing and settings', 'General'],
    possible: ({ copied }) => copied !== null,
    ready: readyToPaste,
    sheet: ({ clipIds, onClose }) => <PasteSheet {...{ clipIds, onClose }} />,
  },
] as const satisfies readonly TimelineCommand[];
