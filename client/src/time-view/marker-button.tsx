import type { MarkerTone } from '@hastig/contract';
import { memo, type KeyboardEvent } from 'react';
import { MarkerSign } from '../ui/marker-sign';

const placed = (x: number) =>
  ({
    position: 'absolute',
    left: x - 15,
    top: 0,
    width: 30,
    height: 26,
    display: 'flex',
    justifyContent: 'center',
    alignItems: 'center',
  }) as const;

interface MarkerButtonProps {
  x: number;
  /** What it is called, and what it is found by when it is taken hold of (`data-marker`). */
  name: string;
  hold: string;
  tone: MarkerTone;
  size?: number;
  /** Whether it is selected; not told where markers are not selected. */
  selected?: boolean;
  onKeyDown(event: KeyboardEvent): void;
}

/** A marker on a time axis. There may be hundreds: each is drawn anew only when it changes itself. */
export const MarkerButton = memo(function MarkerButton(props: MarkerButtonProps) {
  const { x, name, hold, tone, size, selected, onKeyDown } = props;
  const outline = selected ? { outline: '2px solid rgb(var(--bone))', outlineOffset: -2, borderRadius: 6 } : {};
  return (
    <div
      role="button"
      tabIndex={0}
      aria-label={name}
      aria-pressed={selected}
      data-marker={hold}
      onKeyDown={onKeyDown}
      style={{ ...placed(x), ...outline }}
    >
      <MarkerSign tone={tone} {...(size && { size })} />
    </div>
  );
});

interface CrowdButtonProps {
  x: number;
  name: string;
  tone: MarkerTone;
  /** Frames of the first and the last of them. */
  from: number;
  to: number;
  onCloser(from: number, to: number): void;
}

/** Markers too close to be told apart: one sign for all, doubled, which leads to where they can be (`data-several`). */
export const CrowdButton = memo(function CrowdButton({ x, name, tone, from, to, onCloser }: CrowdButtonProps) {
  return (
    <div
      role="button"
      tabIndex={0}
      aria-label={name}
      data-several={`${from},${to + 1}`}
      onKeyDown={(event) => event.key === 'Enter' && onCloser(from, to + 1)}
      style={placed(x)}
    >
      <MarkerSign tone={tone} />
      <div aria-hidden style={{ marginLeft: -6, opacity: 0.6 }}>
        <MarkerSign tone={tone} />
      </div>
    </div>
  );
});

/** What was taken hold of: a marker's button by its name, or a crowd by its frames; undefined for neither. */
export function heldMarker(target: EventTarget | null): { marker: string } | { several: [number, number] } | undefined {
  const { marker, several } =
    (target as HTMLElement).closest<HTMLElement>('[data-marker], [data-several]')?.dataset ?? {};
  if (marker !== undefined) return { marker };
  return several === undefined ? undefined : { several: several.split(',').map(Number) as [number, number] };
}

/** Frames that a key moves a marker by, ten times as many with shift; 0 for other keys. */
export function stepOf(event: KeyboardEvent): number {
  return ({ ArrowRight: 1, ArrowLeft: -1 }[event.key] ?? 0) * (event.shiftKey ? 10 : 1);
}
