import type { RetimeMap } from '@hastig/contract';
import { formatTime, frameCount, holdPins } from '@hastig/core';
import { useEffect, useMemo, type ReactNode } from 'react';
import { TrialSheet } from '../../../form/trial-sheet';
import { tryOut } from '../../../form/try-out';
import { commitTiming, tryTiming } from '../../../store/edit';
import { useAppDispatch, useAppSelector } from '../../../store/hooks';
import { projectTried } from '../../../store/session-slice';

interface EditSheetProps {
  title: string;
  /** What the edit is called in the history. */
  label: string;
  clipId: string;
  map: RetimeMap;
  /** The edit with the numbers as they stand; undefined while one of them is not valid. */
  edit: ((map: RetimeMap) => RetimeMap) | undefined;
  /** What it comes to, in a line; its duration unless given. */
  outcome?(after: RetimeMap): string;
  onClose(): void;
  children: ReactNode;
}

/** A sheet for an edit's few numbers. The edit is tried out in curve and picture while they are typed. */
export function EditSheet({ title, label, clipId, map, edit, outcome, onClose, children }: EditSheetProps) {
  const dispatch = useAppDispatch();
  const unit = useAppSelector((state) => state.session.unit);
  const document = useAppSelector((state) => state.project.document);
  const { result, fault } = useMemo(() => tryOut(map, edit && ((now) => holdPins(now, edit(now)))), [map, edit]);

  useEffect(() => {
    dispatch(result ? tryTiming(clipId, result) : projectTried(null));
    // Also when something else of the project changes: what is tried out lies in the project as it is now.
  }, [dispatch, clipId, result, document]);
  useEffect(() => () => void dispatch(projectTried(null)), [dispatch]);

  const apply = (): void => {
    if (!result) return;
    dispatch(commitTiming(label, clipId, result));
    onClose();
  };

  return (
    <TrialSheet
      {...{ title, fault, onClose }}
      outcome={result && (outcome?.(result) ?? lengthChange(map, result, unit))}
      onApply={apply}
    >
      {children}
    </TrialSheet>
  );
}

function lengthChange(before: RetimeMap, after: RetimeMap, unit: Parameters<typeof formatTime>[2]): string {
  const [from, to] = [frameCount(before), frameCount(after)];
  const show = (frames: number): string => formatTime(frames, before.outputRate, unit);
  return from === to
    ? `Duration stays ${show(from)} (${from} frames)`
    : `Duration ${show(from)} → ${show(to)} (${to} frames)`;
}
