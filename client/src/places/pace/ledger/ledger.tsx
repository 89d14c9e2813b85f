import type { RetimeMap } from '@hastig/contract';
import { keysOf, type Key } from '@hastig/core';
import ClipboardPaste from 'lucide-react-native/icons/clipboard-paste';
import Copy from 'lucide-react-native/icons/copy';
import { memo, useMemo, useRef, type KeyboardEvent } from 'react';
import { FlatList, View } from 'react-native';
import { useAppDispatch, useAppSelector } from '../../../store/hooks';
import { noticeSet, messageSet } from '../../../store/session-slice';
import { useWide } from '../../../ui/use-wide';
import { Button } from '../../../ui/button';
import type { PaceCommandId } from '../commands';
import { LedgerHead, LedgerRow, rowHeight } from './ledger-row';
import { toTable } from './table-text';

/** Rows and columns that an arrow key goes. */
const steps: Record<string, [number, number]> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
};

/** Every key as a row of numbers that can be typed, stepped, copied out and pasted in. */
export const Ledger = memo(function Ledger({
  clipId,
  map,
  onCommand,
}: {
  clipId: string;
  map: RetimeMap;
  onCommand(id: PaceCommandId): void;
}) {
  const dispatch = useAppDispatch();
  const unit = useAppSelector((state) => state.session.unit);
  const keys = useMemo(() => keysOf(map), [map]);
  const line = useWide();
  const rowOf = rowHeight(line);
  const list = useRef<HTMLDivElement>(null);

  const copy = (): void => {
    navigator.clipboard.writeText(toTable(map, unit)).then(
      () => dispatch(messageSet(`Copied ${keys.length} keys as a table.`)),
      () => dispatch(noticeSet('The browser blocked copying. Allow clipboard access and try again.')),
    );
  };

  // Arrows go from cell to cell, like in a spreadsheet.
  const onKeyDown = (event: KeyboardEvent): void => {
    const cell = (event.target as HTMLElement).closest<HTMLElement>('[data-cell]');
    const [dr, dc] = steps[event.key] ?? [0, 0];
    if (!cell || (dr === 0 && dc === 0) || (event.target as HTMLElement).tagName === 'INPUT') return;
    const [row, column] = cell.dataset.cell!.split(',').map(Number) as [number, number];
    const next = list.current?.querySelector<HTMLElement>(`[data-cell="${row + dr},${column + dc}"] [role=button]`);
    event.preventDefault();
    event.stopPropagation();
    next?.focus();
  };

  return (
    <View className="min-h-0 flex-1 bg-ink">
      <View className="flex-none flex-row gap-2 px-2">
        <Button label="Copy table" icon={Copy} kind="quiet" onPress={copy} />
        <Button label="Paste table" icon={ClipboardPaste} kind="quiet" onPress={() => onCommand('table')} />
      </View>
      <div
        ref={list}
        role="table"
        aria-label="Ledger"
        onKeyDown={onKeyDown}
        style={{ display: 'flex', flexDirection: 'column', flex: 1, minHeight: 0 }}
      >
        <LedgerHead line={line} />
        <FlatList<Key>
          data={keys}
          keyExtractor={(key) => String(key.index)}
          getItemLayout={(_data, index) => ({ length: rowOf, offset: rowOf * index, index })}
          initialNumToRender={12}
          renderItem={({ item }) => <LedgerRow {...{ clipId, map, line, onCommand }} entry={item} />}
        />
      </div>
    </View>
  );
});
