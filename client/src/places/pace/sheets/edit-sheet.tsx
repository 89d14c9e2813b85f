import type { RetimeMap } from '@hastig/contract';
import { EditRefused, formatTime, frameCount, holdPins, timingOf } from '@hastig/core';
import { useEffect, useMemo, type ReactNode } from 'react';
import { Text, View } from 'react-native';
import { commitTiming } from '../../../store/edit';
import { useAppDispatch, useAppSelector } from '../../../store/hooks';
import { trialSet } from '../../../store/session-slice';
import { Button } from '../../../ui/button';
import { SheetFrame } from '../../../ui/sheet-frame';

export interface EditSheetProps {
  title: string;
  /** What the edit is called in the history. */
  label: string;
  clipId: string;
  map: RetimeMap;
  /** The edit with the numbers as they stand; undefined while one of them is not valid. */
  edit: ((map: RetimeMap) => RetimeMap) | undefined;
  onClose(): void;
  children: ReactNode;
}

/** A sheet for an edit's few numbers. The edit is tried out in curve and picture while they are typed. */
export function EditSheet({ title, label, clipId, map, edit, onClose, children }: EditSheetProps) {
  const dispatch = useAppDispatch();
  const unit = useAppSelector((state) => state.session.unit);
  const outcome = useMemo(() => tryOut(map, edit), [map, edit]);
  const { result } = outcome;

  useEffect(() => {
    dispatch(trialSet(result ? { clipId, timing: timingOf(result) } : null));
  }, [dispatch, clipId, result]);
  useEffect(() => () => void dispatch(trialSet(null)), [dispatch]);

  const apply = (): void => {
    if (!result) return;
    dispatch(commitTiming(label, clipId, result));
    onClose();
  };

  const foot = (
    <View className="flex-row items-center gap-3 border-t border-line px-4 py-2">
      <Text
        role={outcome.fault ? 'alert' : 'status'}
        className={`flex-1 font-sans text-[13px] ${outcome.fault ? 'text-wrong' : 'text-quiet'}`}
      >
        {outcome.fault ?? (result ? lengthChange(map, result, unit) : 'Fill in the numbers to see what changes.')}
      </Text>
      <Button label="Apply" kind="primary" disabled={!result} onPress={apply} />
    </View>
  );
  return (
    <SheetFrame title={title} onClose={onClose} closing="Discard" foot={foot}>
      {children}
    </SheetFrame>
  );
}

function tryOut(map: RetimeMap, edit: EditSheetProps['edit']): { result?: RetimeMap; fault?: string } {
  if (!edit) return {};
  try {
    return { result: holdPins(map, edit(map)) };
  } catch (error) {
    if (error instanceof EditRefused) return { fault: error.message };
    throw error;
  }
}

function lengthChange(before: RetimeMap, after: RetimeMap, unit: Parameters<typeof formatTime>[2]): string {
  const [from, to] = [frameCount(before), frameCount(after)];
  const show = (frames: number): string => formatTime(frames, before.outputRate, unit);
  return from === to
    ? `Length stays ${show(from)} (${from} frames)`
    : `Length ${show(from)} → ${show(to)} (${to} frames)`;
}
