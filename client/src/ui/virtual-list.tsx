import { useVirtualizer } from '@tanstack/react-virtual';
import { useLayoutEffect, useRef, useState, type ReactNode } from 'react';
import { useSize } from '../time-view/use-size';

interface VirtualListProps<T> {
  label: string;
  items: readonly T[];
  keyOf(item: T): string;
  /** What an item is called, where its content does not say it first. */
  nameOf?(item: T): string;
  /** Pixels of an item's height, about; it is measured once it is seen. */
  height: number;
  /** Pixels between two items. */
  gap: number;
  /** Least pixels of a column's width, where there may be several beside each other. */
  columnWidth?: number;
  render(item: T): ReactNode;
}

/** Items beyond what is in sight that are there all the same, so that the keyboard finds the next one. */
const OVERSCAN = 2;

function scrollingAncestor(element: HTMLElement): HTMLElement {
  for (let at = element.parentElement; at; at = at.parentElement) {
    if (/auto|scroll/.test(getComputedStyle(at).overflowY)) return at;
  }
  return document.documentElement;
}

/**
 * A list of which only what is in sight, and a little around it, is in the page, inside whatever scrolls around it. It has as
 * many columns as there is room for; each item goes into the shortest.
 */
export function VirtualList<T>(props: VirtualListProps<T>) {
  const { label, items, keyOf, nameOf, height, gap, columnWidth, render } = props;
  const list = useRef<HTMLDivElement>(null);
  const [scroller, setScroller] = useState<HTMLElement | null>(null);
  const [margin, setMargin] = useState(0);
  const { width } = useSize(list);
  const lanes = columnWidth ? Math.max(1, Math.floor((width + gap) / (columnWidth + gap))) : 1;

  useLayoutEffect(() => setScroller(scrollingAncestor(list.current!)), []);
  // What stands above the list may grow and shrink.
  useLayoutEffect(() => {
    if (!scroller) return;
    const above = list.current!.getBoundingClientRect().top - scroller.getBoundingClientRect().top;
    setMargin(Math.round(above + scroller.scrollTop));
  });

  const virtual = useVirtualizer({
    count: items.length,
    getScrollElement: () => scroller,
    estimateSize: () => height,
    getItemKey: (index) => keyOf(items[index]!),
    gap,
    lanes,
    overscan: OVERSCAN * lanes,
    scrollMargin: margin,
  });
  const column = (width - gap * (lanes - 1)) / lanes;
  return (
    <div ref={list} role="list" aria-label={label} style={{ position: 'relative', height: virtual.getTotalSize() }}>
      {virtual.getVirtualItems().map(({ key, index, start, lane }) => (
        <div
          key={key}
          ref={virtual.measureElement}
          role="listitem"
          data-index={index}
          aria-label={nameOf?.(items[index]!)}
          aria-setsize={items.length}
          aria-posinset={index + 1}
          style={{
            position: 'absolute',
            top: 0,
            left: lane * (column + gap),
            width: column,
            transform: `translateY(${start - margin}px)`,
          }}
        >
          {render(items[index]!)}
        </div>
      ))}
    </div>
  );
}
