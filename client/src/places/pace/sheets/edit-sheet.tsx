import type { RetimeMap } from '@hastig/contract';
import { EditRefused, formatTime, frameCount } from '@hastig/core';
import X from 'lucide-react-native/icons/x';
import { useEffect, useMemo, type ReactNode } from 'react';
import { ScrollView, Text, View } from 'react-native';
import { commitTiming } from '../../../store/edit';
import { useAppDispatch, useAppSelector } from '../../../store/hooks';
import { trialSet } from '../../../store/session-slice';
import { Button, IconButton } from '../../../ui/button';
import { useWide } from '../../../ui/use-wide';

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
  const wide = useWide();
  const outcome = useMemo(() => tryOut(map, edit), [map, edit]);
  const { result } = outcome;

  useEffect(() => {
    dispatch(trialSet(result ? { clipId, timing: { start: result.start, spans: result.spans } } : null));
  }, [dispatch, clipId, result]);
  useEffect(() => () => void dispatch(trialSet(null)), [dispatch]);

  const apply = (): void => {
    if (!result) return;
    dispatch(commitTiming(label, clipId, result));
    onClose();
  };

  return (
    <View
      role="dialog"
      aria-label={title}
      className={`bg-raised ${wide ? 'min-h-0 flex-1' : 'max-h-[60%] border-t border-line'}`}
    >
      <View className="flex-row items-center justify-between pl-4 pr-1">
        <Text role="heading" className="font-medium text-[16px] text-bone">
          {title}
        </Text>
        <IconButton label="Discard" icon={X} onPress={onClose} />
      </View>
      <ScrollView contentContainerClassName="gap-3 px-4 pb-3">{children}</ScrollView>
      <View className="flex-row items-center gap-3 border-t border-line px-4 py-2">
        <Text
          role={outcome.fault ? 'alert' : 'status'}
          className={`flex-1 font-sans text-[13px] ${outcome.fault ? 'text-wrong' : 'text-quiet'}`}
        >
          {outcome.fault ?? (result ? lengthChange(map, result, unit) : 'Fill in the numbers to see what changes.')}
        </Text>
        <Button label="Apply" kind="primary" disabled={!result} onPress={apply} />
      </View>
    </View>
  );
}

function tryOut(map: RetimeMap, edit: EditSheetProps['edit']): { result?: RetimeMap; fault?: string } {
  if (!edit) return {};
  try {
    return { result: edit(map) };
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
