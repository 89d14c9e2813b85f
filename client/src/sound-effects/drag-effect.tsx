import type { Rate } from '@hastig/contract';
import { formatMoment } from '@hastig/core';
import { useDrag } from '@use-gesture/react';
import GripVertical from 'lucide-react-native/icons/grip-vertical';
import { useRef, useState } from 'react';
import { createPortal } from 'react-dom';
import { useSession } from '../store/hooks';
import { Icon } from '../ui/icon';

/** A spot on the timeline: a frame, and the track there. */
export interface Spot {
  frame: number;
  trackId: string;
}

/** Tells the spot under a point of the page; null outside the tracks. */
export type SpotAt = (x: number, y: number) => Spot | null;

interface EffectGripProps {
  name: string;
  rate: Rate;
  spotAt: SpotAt;
  onDrop(spot: Spot): void;
}

/** What an effect is dragged to a track by; the loudest moment is under the pointer. Adding it does the same for a keyboard. */
export function EffectGrip({ name, rate, spotAt, onDrop }: EffectGripProps) {
  const target = useRef<HTMLDivElement>(null);
  const { unit } = useSession('unit');
  const [held, setHeld] = useState<{ x: number; y: number; spot: Spot | null } | null>(null);
  useDrag(
    ({ xy: [x, y], last, canceled, tap, event }) => {
      event.preventDefault();
      const spot = spotAt(x, y);
      if (!last) return setHeld({ x, y, spot });
      setHeld(null);
      if (spot && !canceled && !tap) onDrop(spot);
    },
    { target, filterTaps: true, pointer: { keys: false }, eventOptions: { passive: false } },
  );
  return (
    <>
      <div
        ref={target}
        aria-hidden
        data-grip={name}
        style={{
          display: 'flex',
          alignItems: 'center',
          height: 44,
          padding: '0 6px',
          cursor: 'grab',
          touchAction: 'none',
        }}
      >
        <Icon of={GripVertical} size={18} tone="quiet" />
      </div>
      {held
        ? createPortal(
            <output
              style={{
                position: 'fixed',
                left: Math.min(Math.max(90, held.x), window.innerWidth - 90),
                top: Math.max(4, held.y - 56),
                transform: 'translateX(-50%)',
                padding: '5px 9px',
                whiteSpace: 'nowrap',
                borderRadius: 8,
                background: 'rgb(var(--bone))',
                color: 'rgb(var(--ink))',
                font: '600 13px SplineSansMono_600SemiBold, monospace',
                pointerEvents: 'none',
                zIndex: 10,
              }}
            >
              {held.spot ? `loudest at ${formatMoment(held.spot.frame, rate, unit)}` : name}
            </output>,
            document.body,
          )
        : null}
    </>
  );
}
