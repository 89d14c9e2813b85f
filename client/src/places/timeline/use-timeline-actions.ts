import type { ProjectDocument } from '@hastig/contract';
import {
  clipAt,
  duplicateClips,
  edgesOf,
  findClip,
  findContainer,
  groupClips,
  mapOf,
  nextClip,
  ownGroup,
  placeOf,
  removeClips,
  setMarkers,
  splitClip,
  trimClip,
  ungroup,
} from '@hastig/core';
import { nanoid } from '@reduxjs/toolkit';
import { useRouter, type Href } from 'expo-router';
import { useMemo, useState } from 'react';
import { useStore } from 'react-redux';
import { keysFor } from '../../keyboard/keys';
import { useShortcuts } from '../../keyboard/use-shortcuts';
import { useStage } from '../../stage/stage-context';
import { rearrange } from '../../store/edit';
import { useAppDispatch, useAppSelector, useSession } from '../../store/hooks';
import {
  copiedFrom,
  clipsSelected,
  edgesChosen,
  marked,
  marksCleared,
  noticeSet,
  roomChosen,
  snapToggled,
  settingsCopied,
  toldSet,
} from '../../store/session-slice';
import type { RootState } from '../../store/store';
import { useStable } from '../../ui/use-stable';
import type { TimeControl } from '../../time-view/use-time-view';
import type { TimelineAction } from './actions';

export type TimelineZoom = 'zoom-all' | 'zoom-selection';

/** What the actions do, which sheet is open, and how clips are chosen. */
export interface TimelineActions {
  active: TimelineAction | null;
  disabled: ReadonlySet<TimelineAction>;
  /** Whether a tap chooses one more clip. */
  several: boolean;
  act(action: TimelineAction | TimelineZoom): void;
  choose(clipId: string, more: boolean): void;
  chooseNone(): void;
  close(): void;
}

const newId = (): string => `id-${nanoid(12)}`;

/** The chosen clips that lie here, or the uppermost one at the playhead. */
export function aimedClips(
  project: ProjectDocument,
  containerId: string,
  chosen: readonly string[],
  playhead: number,
): string[] {
  const here = chosen.filter((id) => placeOf(project, id)?.containerId === containerId);
  if (here.length > 0) return here;
  const tracks = findContainer(project, containerId)?.tracks.toReversed() ?? [];
  const at = tracks.map((track) => clipAt(project, track, playhead)).find((item) => item?.clip);
  return at?.clip ? [at.clip.id] : [];
}

export function useTimelineActions(containerId: string, time: TimeControl): TimelineActions {
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  const router = useRouter();
  const { seek } = useStage();
  const projectId = useAppSelector((state) => state.project.id);
  const project = useAppSelector((state) => state.project.document)!;
  const { selectedClips, copied } = useSession('selectedClips', 'copied');
  const [active, setActive] = useState<TimelineAction | null>(null);
  const [several, setSeveral] = useState(false);

  const now = (): { document: ProjectDocument; playhead: number; aimed: string[] } => {
    const { project: saved, session } = store.getState();
    const document = saved.document!;
    return {
      document,
      playhead: session.playhead,
      aimed: aimedClips(document, containerId, session.selectedClips, session.playhead),
    };
  };
  const close = (): void => setActive(null);
  const nothing = (): void => void dispatch(noticeSet('Choose a clip first, or move the playhead to one.'));
  const onOne = (run: (clipId: string) => void) => (): void => {
    const [clipId] = now().aimed;
    if (clipId) run(clipId);
    else nothing();
  };
  const onAll = (run: (clipIds: string[]) => void) => (): void => {
    const { aimed } = now();
    if (aimed.length > 0) run(aimed);
    else nothing();
  };
  const select = (ids: string[]): void => void dispatch(clipsSelected(ids));
  const go = (address: string): void => router.push(`/project/${projectId}${address}` as Href);

  const split = (): void => {
    const { document, playhead, aimed } = now();
    // What is chosen, where the playhead is in it; else what lies at the playhead.
    const inside = aimed.filter((id) => {
      const place = placeOf(document, id)!;
      return playhead > place.from && playhead < place.to;
    });
    const target = inside[0] ?? aimedClips(document, containerId, [], playhead)[0];
    if (!target) return nothing();
    const made = newId();
    if (dispatch(rearrange('split a clip', (one) => splitClip(one, target, playhead, made)))) select([made]);
  };
  const trimHere = (side: 'start' | 'end') =>
    onOne((clipId) => {
      const { document, playhead } = now();
      const place = placeOf(document, clipId)!;
      const by = side === 'start' ? playhead - place.from : playhead - place.to;
      const { room } = store.getState().session;
      dispatch(rearrange('trim a clip', (one) => trimClip(one, clipId, side, by, room)));
      if (side === 'start' && room === 'close') seek(place.from);
    });
  const remove = (room: 'close' | 'leave') =>
    onAll((ids) => {
      if (
        dispatch(rearrange(ids.length > 1 ? 'remove clips' : 'remove a clip', (one) => removeClips(one, ids, room)))
      ) {
        select([]);
      }
    });
  const duplicate = onAll((ids) => {
    const made = ids.map(newId);
    if (dispatch(rearrange('duplicate', (one) => duplicateClips(one, ids, made)))) select(made);
  });
  const group = onAll((ids) => {
    const made = { groupId: newId(), clipId: newId(), name: `Group ${now().document.groups.length + 1}` };
    if (dispatch(rearrange('group clips', (one) => groupClips(one, ids, made)))) select([made.clipId]);
  });
  const apart = onOne((clipId) => {
    if (dispatch(rearrange('ungroup', (one) => ungroup(one, clipId, newId)))) select([]);
  });
  const own = onOne((clipId) => {
    if (dispatch(rearrange('make a group its own', (one) => ownGroup(one, clipId, newId(), newId)))) {
      dispatch(toldSet('What is inside this group now belongs to it alone.'));
    }
  });
  const into = onOne((clipId) => {
    const { of } = findClip(now().document, clipId)!;
    go(of.kind === 'group' ? `/group/${of.id}` : `/clip/${clipId}/pace`);
  });
  const pace = onOne((clipId) => go(`/clip/${clipId}/pace`));
  const marker = (): void => {
    const { document, playhead } = now();
    const { markers } = findContainer(document, containerId)!;
    const made = { id: newId(), at: playhead, name: '', tone: 'oak' as const };
    if (markers.some(({ at }) => at === playhead)) return setActive('markers');
    dispatch(rearrange('set a marker', (one) => setMarkers(one, containerId, [made])));
  };
  const copy = onOne((clipId) => {
    const { document } = now();
    const clip = findClip(document, clipId)!;
    dispatch(settingsCopied(copiedFrom(clip, mapOf(document, clip))));
    dispatch(toldSet(`Timing, picture and sound of ${clip.name} are copied. Choose clips and paste on them.`));
  });
  const all = (): void => {
    const { tracks } = findContainer(now().document, containerId)!;
    select(tracks.flatMap(({ items }) => items.flatMap((item) => ('clip' in item ? [item.clip] : []))));
  };
  const zoomSelection = (): void => {
    const { document, aimed } = now();
    const { marks } = store.getState().session;
    const places = aimed.map((id) => placeOf(document, id)!);
    if (marks.from !== null && marks.to !== null) time.show(marks.from, marks.to);
    else if (places.length > 0) {
      time.show(Math.min(...places.map(({ from }) => from)), Math.max(...places.map(({ to }) => to)));
    }
  };

  const atOnce: Partial<Record<TimelineAction | TimelineZoom, () => void>> = {
    split,
    remove: remove('close'),
    lift: remove('leave'),
    duplicate,
    group,
    ungroup: apart,
    own,
    open: into,
    pace,
    'begin-here': trimHere('start'),
    'end-here': trimHere('end'),
    marker,
    copy,
    all,
    several: () => setSeveral(!several),
    'zoom-all': time.showAll,
    'zoom-selection': zoomSelection,
  };
  const needsClip = new Set<TimelineAction>(['clip', 'picture', 'slip', 'replace', 'fill-gap', 'join']);
  const act = useStable((action: TimelineAction | TimelineZoom): void => {
    const run = atOnce[action];
    if (run) {
      run();
      if (active === 'more') close();
      return;
    }
    const sheet = action as TimelineAction;
    if (needsClip.has(sheet) && now().aimed.length === 0) return nothing();
    // What is aimed at stays aimed at while its sheet is open, wherever the playhead goes.
    if (needsClip.has(sheet) && selectedClips.length === 0) select(now().aimed.slice(0, 1));
    setActive(active === sheet ? null : sheet);
  });

  const choose = useStable((clipId: string, more: boolean): void => {
    if (!more && !several) return select([clipId]);
    const { selectedClips: chosen } = store.getState().session;
    select(chosen.includes(clipId) ? chosen.filter((id) => id !== clipId) : [...chosen, clipId]);
  });
  const toCut = (way: 1 | -1) => (): void => {
    const { document, playhead } = now();
    const edges = edgesOf(document, findContainer(document, containerId)!);
    const next = way === 1 ? edges.find((edge) => edge > playhead) : edges.findLast((edge) => edge < playhead);
    if (next !== undefined) seek(next);
  };
  const middle = time.view.width / 2;
  useShortcuts(
    keysFor({
      split,
      'trim-start': trimHere('start'),
      'trim-end': trimHere('end'),
      'remove-clips': remove('close'),
      'lift-clips': remove('leave'),
      duplicate,
      group,
      marker,
      markers: () => act('markers'),
      add: () => act('add'),
      clip: () => act('clip'),
      picture: () => act('picture'),
      join: () => act('join'),
      into,
      'next-cut': toCut(1),
      'previous-cut': toCut(-1),
      'all-clips': all,
      edges: () => dispatch(edgesChosen(store.getState().session.edges === 'trim' ? 'stretch' : 'trim')),
      room: () => dispatch(roomChosen(store.getState().session.room === 'close' ? 'leave' : 'close')),
      'mark-in': () => dispatch(marked({ side: 'from', at: now().playhead })),
      'mark-out': () => dispatch(marked({ side: 'to', at: now().playhead + 1 })),
      'clear-marks': () => dispatch(marksCleared()),
      'copy-timing': copy,
      'paste-timing': () => act('paste'),
      snap: () => dispatch(snapToggled()),
      'zoom-all': time.showAll,
      'zoom-selection': zoomSelection,
      'zoom-in': () => time.zoomAt(middle, 1.5),
      'zoom-out': () => time.zoomAt(middle, 1 / 1.5),
      'key-map': () => act('key-map'),
      close: () => {
        close();
        setSeveral(false);
        select([]);
      },
    }),
  );

  const disabled = useMemo(() => {
    const off = new Set<TimelineAction>();
    const chosen = selectedClips.filter((id) => placeOf(project, id)?.containerId === containerId);
    const one = chosen.length === 1 ? findClip(project, chosen[0]!) : undefined;
    if (one?.of.kind !== 'group') for (const action of ['ungroup', 'open', 'own'] as const) off.add(action);
    if (chosen.length === 0) off.add('group');
    if (chosen.length > 0 && chosen.every((id) => placeOf(project, id)!.track.kind === 'sound')) off.add('picture');
    if (!copied) off.add('paste');
    if (one && !nextClip(project, one.id)) off.add('join');
    return off;
  }, [project, containerId, selectedClips, copied]);

  return { active, disabled, several, act, choose, chooseNone: () => select([]), close };
}
