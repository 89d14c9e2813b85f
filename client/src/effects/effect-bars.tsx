import { useDrag } from '@use-gesture/react';
import type { Effect } from '@hastig/contract';
import type { LucideIcon } from 'lucide-react-native';
import Anchor from 'lucide-react-native/icons/anchor';
import Crop from 'lucide-react-native/icons/crop';
import Paperclip from 'lucide-react-native/icons/paperclip';
import Layers from 'lucide-react-native/icons/layers';
import Sun from 'lucide-react-native/icons/sun';
import { useRef, useState, type KeyboardEvent } from 'react';
import { Text } from 'react-native';
import { stepOf } from '../time-view/marker-button';
import { frameToX, type TimeView } from '../time-view/use-time-view';
import { Icon } from '../ui/icon';
import type { EffectRun } from './effect-runs';
import { effectWords } from './effect-words';

/** Pixels of a row of bars, and those below which words are not drawn. */
const ROW = 32;
const ROOM = 64;
/** Pixels that may be taken hold of, however short an effect is. */
const LEAST = 28;

const icons: Record<Effect['kind'], LucideIcon> = {
  trail: Layers,
  flash: Sun,
  reframe: Crop,
  steady: Anchor,
  smooth: Anchor,
  carry: Paperclip,
};

interface EffectBarsProps {
  name: string;
  runs: readonly EffectRun[];
  view: TimeView;
  onOpen(id: string): void;
  /** Moves one by whole frames; those that have no stretch in output frames are not moved. */
  onMove(id: string, by: number): void;
}

/** Where effects are seen, as bars that are opened and, where they can be, dragged. Those that lie over each other stand below each other. */
export function EffectBars({ name, runs, view, onOpen, onMove }: EffectBarsProps) {
  const rows = inRows(runs);
  if (rows.length === 0) return null;
  return (
    <div
      role="group"
      aria-label={name}
      style={{ position: 'relative', height: ROW * (Math.max(...rows) + 1), flex: 'none', overflow: 'hidden' }}
    >
      {runs.map((run, index) => (
        <EffectBar
          key={`${run.effect.id}-${run.from}`}
          {...{ run, view, top: ROW * rows[index]! }}
          onOpen={() => onOpen(run.effect.id)}
          onMove={(by) => onMove(run.effect.id, by)}
        />
      ))}
    </div>
  );
}

interface EffectBarProps {
  run: EffectRun;
  view: TimeView;
  top: number;
  onOpen(): void;
  onMove(by: number): void;
}

function EffectBar({ run: { effect, from, to }, view, top, onOpen, onMove }: EffectBarProps) {
  const target = useRef<HTMLButtonElement>(null);
  const [by, setBy] = useState(0);
  const movable = effect.over?.by === 'output';
  const frames = (pixels: number): number => Math.round((pixels * (view.to - view.from)) / view.width);
  useDrag(
    ({ movement: [x], last, tap }) => {
      if (tap) return;
      const moved = frames(x);
      if (last && moved !== 0) onMove(moved);
      setBy(last ? 0 : moved);
    },
    { target, enabled: movable, filterTaps: true, pointer: { capture: false, keys: false } },
  );
  const [x, end] = [frameToX(view, from + by), frameToX(view, to + by)];
  const [left, right] = [Math.max(0, x), Math.min(view.width, end)];
  if (right <= left) return null;
  const width = Math.max(LEAST, right - left);
  const words = effectWords(effect);
  const onKeyDown = (event: KeyboardEvent): void => {
    const step = movable && event.altKey ? stepOf(event) : 0;
    if (step === 0) return;
    event.preventDefault();
    event.stopPropagation();
    onMove(step);
  };
  return (
    <button
      ref={target}
      type="button"
      aria-label={`${words}, frames ${Math.round(from)} to ${Math.round(to)}`}
      aria-keyshortcuts={movable ? 'Alt+ArrowLeft Alt+ArrowRight' : undefined}
      title={words}
      onClick={onOpen}
      onKeyDown={onKeyDown}
      className={`rounded-md border border-quiet bg-raised hover:bg-line ${effect.off ? 'opacity-50' : ''}`}
      style={{
        ...{ position: 'absolute', left, top: top + 2, width, height: ROW - 4, padding: '0 6px', overflow: 'hidden' },
        ...{ display: 'grid', placeItems: 'center' },
        ...{ touchAction: movable ? 'none' : 'auto', cursor: movable ? 'ew-resize' : 'pointer' },
      }}
    >
      {width > ROOM ? (
        <Text numberOfLines={1} className="font-sans text-[12px] text-bone">
          {words}
        </Text>
      ) : (
        <Icon of={icons[effect.kind]} size={14} />
      )}
    </button>
  );
}

/** The row of each: the first in which nothing lies there yet. */
function inRows(runs: readonly EffectRun[]): number[] {
  const ends: number[] = [];
  const rows: number[] = [];
  for (const index of runs.map((_, n) => n).sort((a, b) => runs[a]!.from - runs[b]!.from)) {
    const { from, to } = runs[index]!;
    const free = ends.findIndex((end) => end <= from);
    const row = free < 0 ? ends.length : free;
    ends[row] = to;
    rows[index] = row;
  }
  return rows;
}
