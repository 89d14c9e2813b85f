import type { CSSProperties } from 'react';
import { speedColour } from '../../../ui/palette';
import type { Grab } from './drag';
import type { CurveHandle } from './handles';

/** Height and width of what a finger can hit. */
export const TOUCH = 44;

/** What a constant-speed part is held by. */
export function Grip({ speed, width, chosen }: { speed: number; width: number; chosen: boolean }) {
  return (
    <div
      style={{
        width,
        height: chosen ? 9 : 7,
        borderRadius: 5,
        background: speedColour(speed),
        boxShadow: `0 0 0 ${chosen ? 3 : 2}px rgb(var(--${chosen ? 'bone' : 'ink'}))`,
      }}
    />
  );
}

/**
 * What a key or a ramp is held by: a joint of held speeds is a diamond, a ramp or joined key round, the halves of a split
 * key half round, a curve's handle a small square.
 */
export function Bead({ chosen, shape }: { chosen: boolean; shape: 'diamond' | 'round' | 'in' | 'out' | 'handle' }) {
  const look: CSSProperties = {
    width: shape === 'handle' ? 10 : shape === 'in' || shape === 'out' ? 9 : 14,
    height: shape === 'handle' ? 10 : 14,
    borderRadius: { diamond: '2px', round: '7px', in: '7px 1px 1px 7px', out: '1px 7px 7px 1px', handle: '2px' }[shape],
    background: chosen ? 'rgb(var(--bone))' : 'rgb(var(--raised))',
    border: '2px solid rgb(var(--bone))',
  };
  if (shape === 'diamond') look.transform = 'rotate(45deg) scale(0.85)';
  return <div style={look} />;
}

/** The edges of a ramp, to widen it; of a key, to pull a ramp out of it. */
export function Edges({ handle, x0, x1, y }: { handle: CurveHandle; x0: number; x1: number; y: number }) {
  const of = handle.kind === 'ramp' ? 'ramp' : 'key';
  // A key's edges stand beside its bead, to pull a ramp out of it.
  const places = [
    { edge: -1, x: Math.min(x0, (x0 + x1) / 2 - 26) },
    { edge: 1, x: Math.max(x1, (x0 + x1) / 2 + 26) },
  ] as const;
  return (
    <>
      {places.map(({ edge, x }) => (
        <div
          key={edge}
          role="button"
          aria-label={`${of === 'ramp' ? 'Width' : 'Pull a ramp out'} of ${handle.name.toLowerCase()}, ${edge < 0 ? 'left' : 'right'} side`}
          data-grab={JSON.stringify({ kind: 'edge', index: handle.index, edge, of } satisfies Grab)}
          style={{
            position: 'absolute',
            touchAction: 'none',
            display: 'flex',
            alignItems: 'center',
            justifyContent: 'center',
            left: x - 12,
            width: 24,
            top: y - TOUCH / 2,
            height: TOUCH,
            cursor: 'col-resize',
          }}
        >
          <div
            style={{
              width: 3,
              height: 18,
              borderRadius: 2,
              background: `rgb(var(--bone) / ${of === 'ramp' ? 0.9 : 0.4})`,
            }}
          />
        </div>
      ))}
    </>
  );
}
